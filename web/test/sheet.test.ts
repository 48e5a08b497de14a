import { act, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { acts } from '../src/api/acts';
import { ProblemError } from '../src/api/client';
import { useSheet } from '../src/build/useSheet';

type Sheet = Parameters<typeof useSheet>[1];
const sheet = { id: 7, name: 'Letters', lock: 1, rows: [] } as unknown as Sheet;
const row = (landing: string) => ({ landing });

/** A save that the test ends when it likes. */
function pending() {
  const calls: { body: { rows: unknown[]; lock: number }; end: (lock: number) => void; fail: (error: Error) => void }[] = [];
  vi.spyOn(acts, 'keepSheet').mockImplementation(
    (_workspace, _id, body) =>
      new Promise((resolve, reject) => {
        calls.push({ body: body as never, end: (lock) => resolve({ lock } as never), fail: reject });
      }),
  );
  return calls;
}

const pause = () => act(() => vi.advanceTimersByTimeAsync(1_000));

describe('saving of a sheet', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => {
    vi.useRealTimers();
    vi.restoreAllMocks();
  });

  it('keeps what was typed when the typing pauses, once', async () => {
    const calls = pending();
    const { result } = renderHook(() => useSheet('skerry-line', sheet));
    act(() => result.current.change([row('a')]));
    act(() => result.current.change([row('ab')]));
    expect(result.current.state).toBe('waiting');
    await pause();
    expect(calls.map((call) => call.body.rows.length)).toEqual([1]);
    await act(async () => calls[0]?.end(2));
    expect(result.current.state).toBe('kept');
  });

  it('never says “kept” for what was typed during a slow save, and sends it with the new lock', async () => {
    const calls = pending();
    const { result } = renderHook(() => useSheet('skerry-line', sheet));
    act(() => result.current.change([row('a')]));
    await pause();
    act(() => result.current.change([row('b')]));
    await pause();
    expect(calls).toHaveLength(1);
    await act(async () => calls[0]?.end(2));
    expect(result.current.state).toBe('waiting');
    expect(calls[1]?.body.lock).toBe(2);
    await act(async () => calls[1]?.end(3));
    expect(result.current.state).toBe('kept');
  });

  it.each([
    ['overtaken', 'overtaken'],
    ['unforeseen', 'failed'],
  ])('says of a save that ends as %s that it %s, and loses nothing', async (kind, state) => {
    const calls = pending();
    const { result } = renderHook(() => useSheet('skerry-line', sheet));
    act(() => result.current.change([row('a')]));
    await pause();
    await act(async () => calls[0]?.fail(new ProblemError({ kind, title: '', detail: '' } as never)));
    expect(result.current.state).toBe(state);
    expect(result.current.rows).toEqual([row('a')]);
  });

  it('undoes the letters of one cell as one step, and does them again', () => {
    pending();
    const { result } = renderHook(() => useSheet('skerry-line', sheet));
    act(() => result.current.change([row('')]));
    for (const text of ['d', 'da', 'day']) {
      act(() => result.current.change([row(text)]));
    }
    act(() => result.current.undo());
    expect(result.current.rows).toEqual([row('')]);
    act(() => result.current.redo());
    expect(result.current.rows).toEqual([row('day')]);
  });
});
