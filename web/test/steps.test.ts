import { describe, expect, it } from 'vitest';
import { type Draft, draftOf, expecting, holding, inserted, moved, nameOf, replayed, type Step, targetOf } from '../src/rehearsals/steps';

const lead = { tag: 'gull', event: 'lead', kind: 'conversion', times: 1, values: { order: 'A-1', currency: 'EUR' } };
const view = { tag: 'gull', event: 'view', kind: 'page_view', times: 2, values: {} };

describe('a recorded step', () => {
  it('expects its conversions and what hidden fields hold of the landing, and nothing else unasked', () => {
    const hidden = [
      { field: 'src', value: 'isle', role: 'source' },
      { field: 'token', value: 'x' },
    ];
    const draft = draftOf({ step: { submit: 'form' }, page: 'http://a.test/', heard: [view, lead], hidden });
    expect(draft.step).toEqual({
      submit: 'form',
      expect: [{ tag: 'gull', event: 'lead', values: { order: true, currency: 'EUR' } }],
      holds: [{ field: 'src', value: { role: 'source' } }],
    });
    expect(draftOf({ step: { reload: true }, page: '', heard: [view], hidden: [] }).step).toEqual({ reload: true });
  });

  it('expects and holds at a word, and leaves no empty list behind', () => {
    const step: Step = { click: { text: 'Send' } };
    const more = expecting(step, view);
    expect(more.expect).toEqual([{ tag: 'gull', event: 'view', times: 2 }]);
    expect(expecting(more, view)).toEqual(step);
    expect(holding(holding(step, { field: 'token', value: 'x' }), { field: 'token', value: 'x' })).toEqual(step);
  });

  it.each([
    [{ click: { text: 'Send' } }, '“Send”'],
    [{ fill: '#who', with: 'Ann' }, '#who'],
    [{ open: { link: 7 } }, 'link 7 of the inventory'],
    [{ back: true }, ''],
  ])('names the target of %j', (step, said) => {
    expect(targetOf(step as Step)).toBe(said);
  });
});

describe('what is done on the page', () => {
  const taken = (click: string) => ({ step: { click }, page: click, heard: [view], hidden: [] });
  const kept = ['a', 'b', 'c'].map((click): Draft => ({ step: { click, only: true }, heard: [], hidden: [] }));
  const clicks = (steps: Draft[]) => steps.map((one) => one.step.click);

  it('stands behind the steps that the page has gone through', () => {
    expect(clicks(inserted(kept, 2, [taken('x')]))).toEqual(['a', 'b', 'x', 'c']);
    expect(clicks(inserted([], 0, [taken('x')]))).toEqual(['x']);
    expect(inserted(kept, 0, [])).toEqual(kept);
  });

  it('tells anew what was heard where steps are played again, and changes none of them', () => {
    const again = replayed(kept, [taken('a'), taken('b')]);
    expect(again.map((one) => one.heard.length)).toEqual([1, 1, 0]);
    expect(again.map((one) => one.step)).toEqual(kept.map((one) => one.step));
    expect(replayed(kept, [])).toEqual(kept);
  });
});

it('moves one among others, never out of the list', () => {
  expect(moved(['a', 'b', 'c'], 2, 0)).toEqual(['c', 'a', 'b']);
  expect(moved(['a'], 0, 1)).toEqual(['a']);
});

it.each([
  ['Book a day pass', 'book-a-day-pass'],
  ['7 Tage: Ärger', 'tage-arger'],
  ['…', 'rehearsal'],
])('names %s', (title, name) => {
  expect(nameOf(title)).toBe(name);
});
