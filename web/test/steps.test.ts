import { describe, expect, it } from 'vitest';
import { draftOf, expecting, holding, moved, nameOf, type Step, targetOf } from '../src/rehearsals/steps';

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
