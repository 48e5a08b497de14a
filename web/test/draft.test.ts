import { act, renderHook } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { ConventionDocument } from '../src/convention/document';
import { draftOf, keepDraft, useDraft } from '../src/convention/useDraft';

const rules = (name: string) => ({ name, roles: [] }) as unknown as ConventionDocument;
const begin = (version = 3, saved = rules('saved')) =>
  renderHook(({ version, saved }) => useDraft('skerry', version, saved), { initialProps: { version, saved } });

describe('rules that are being changed', () => {
  beforeEach(() => localStorage.clear());

  it('are those that were saved, until something changes', () => {
    const { result } = begin();
    expect([result.current.base, result.current.document, result.current.changed]).toEqual([3, rules('saved'), false]);
    expect(localStorage.length).toBe(0);
    act(() => result.current.change(rules('mine')));
    expect([result.current.base, result.current.document, result.current.changed]).toEqual([3, rules('mine'), true]);
    expect(draftOf('skerry')).toEqual({ base: 3, document: rules('mine') });
    act(() => result.current.change(rules('saved')));
    expect([result.current.changed, localStorage.length]).toEqual([false, 0]);
  });

  it('outlive the page, and say on which version they rest when another has been saved', () => {
    const first = begin();
    act(() => first.result.current.change(rules('mine')));
    first.unmount();
    const { result } = begin(4, rules('theirs'));
    expect([result.current.base, result.current.document, result.current.changed]).toEqual([3, rules('mine'), true]);
    act(() => result.current.restart(4, rules('mine on theirs')));
    expect([result.current.base, result.current.changed]).toEqual([4, true]);
    act(() => result.current.restart(4, rules('theirs')));
    expect([result.current.changed, draftOf('skerry')]).toEqual([false, undefined]);
  });

  it('can be begun elsewhere, in one workspace and no other', () => {
    keepDraft('skerry', 2, rules('learned'));
    expect(begin().result.current.document).toEqual(rules('learned'));
    expect(draftOf('other')).toBeUndefined();
  });

  it.each(['', 'null', '[]', '{"base":1}', '{"document":{"roles":"x"}}', '{broken'])(
    'are not taken from what is none: %j',
    (kept) => {
      localStorage.setItem('draft skerry', kept);
      expect(begin().result.current.document).toEqual(rules('saved'));
    },
  );
});
