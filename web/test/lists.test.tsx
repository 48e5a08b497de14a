import { act, renderHook } from '@testing-library/react';
import type { ReactNode } from 'react';
import { BrowserRouter } from 'react-router';
import { beforeEach, describe, expect, it } from 'vitest';
import { fits, sums } from '../src/fixes/filters';
import { counted, lasting, ofAll } from '../src/parts/format';
import { useListState } from '../src/shell/useListState';
import { nextSort, useSorted, weightRank } from '../src/shell/useSorted';

const inRouter = ({ children }: { children: ReactNode }) => <BrowserRouter>{children}</BrowserRouter>;

describe('the address bar', () => {
  beforeEach(() => window.history.replaceState(null, '', '/links?chosen=4&q=a%26b'));

  it('tells what is chosen and filtered, and takes changes one after the other', () => {
    const { result } = renderHook(() => useListState(), { wrapper: inRouter });
    expect([result.current.chosen, result.current.list]).toEqual(['4', { q: 'a&b' }]);
    act(() => {
      result.current.set({ kind: 'ad' });
      result.current.set({ chosen: null, q: '' });
    });
    expect(window.location.search).toBe('?kind=ad');
  });
});

describe('sorting', () => {
  const rows = [{ n: 2 }, { n: 10 }, { n: 1 }];

  it.each([
    ['n', 'up', [1, 2, 10]],
    ['n', 'down', [10, 2, 1]],
    ['unknown', 'up', [2, 10, 1]],
  ])('by %s, %s', (sort, direction, expected) => {
    const { result } = renderHook(() => useSorted(rows, { n: (row) => row.n }, sort, direction));
    expect(result.current.map((row) => row.n)).toEqual(expected);
  });

  it('begins with the largest where that is wanted, and turns round', () => {
    expect(nextSort('spend', {}, ['spend'])).toEqual({ sort: 'spend', direction: 'down' });
    expect(nextSort('spend', { sort: 'spend', direction: 'down' }, ['spend']).direction).toBe('up');
    expect(nextSort('place', {}, ['spend']).direction).toBe('up');
    expect((['breaks', '', 'skews', 'untidy'] as const).toSorted((a, b) => weightRank(a) - weightRank(b))).toEqual([
      '',
      'untidy',
      'skews',
      'breaks',
    ]);
  });
});

describe('fixes', () => {
  const fix = (id: number, owner: string, sessions: number, state = 'open') =>
    ({ id, owner, sessions, state, revenue: 0, where: 'ads', weight: 'skews', action: `Change ${id}`, codes: ['param/case'] }) as never;
  const all = [fix(1, 'Agency', 5), fix(2, 'Office', 9), fix(3, 'Agency', 7), fix(4, 'Office', 100, 'proven')];

  it.each([
    [{}, [1, 2, 3]],
    [{ show: 'all' }, [1, 2, 3, 4]],
    [{ show: 'proven' }, [4]],
    [{ owner: 'Agency' }, [1, 3]],
    [{ q: 'CHANGE 2' }, [2]],
    [{ q: 'param/' }, [1, 2, 3]],
    [{ only: '2,4' }, [2]],
  ])('that fit %j', (filters, ids) => {
    expect(all.filter((one) => fits(one, filters)).map((one: { id: number }) => one.id)).toEqual(ids);
  });

  it('are summed by group, what is still to do alone, most first', () => {
    expect(sums(all, 'owner').map((one) => [one.value, one.fixes, one.sessions])).toEqual([
      ['Agency', 2, 12],
      ['Office', 2, 9],
    ]);
  });
});

describe('counts agree with their nouns', () => {
  it.each([
    [counted(1, 'link'), '1 link'],
    [counted(0, 'link'), '0 links'],
    [counted(1204, 'fix', 'fixes'), '1,204 fixes'],
    [lasting(0.2), '1 second'],
    [lasting(40), '40 seconds'],
    [lasting(91), '2 minutes'],
    [lasting(61 * 60), '61 minutes'],
    [ofAll(1, 1, 'fix', 'fixes'), 'the only fix'],
    [ofAll(4, 4, 'fix', 'fixes'), 'all 4 fixes'],
    [ofAll(3, 12, 'fix', 'fixes'), '3 of 12 fixes'],
  ])('%s', (said, expected) => expect(said).toBe(expected));
});
