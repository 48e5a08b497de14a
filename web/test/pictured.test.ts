import { describe, expect, it } from 'vitest';
import { changed, type Figured, pictured } from '../src/traffic/pictured';

const NONE = { conversions: 0, revenue: 0, cost: 0, pages: 0, engaged: 0, events: 0 };
const sessions = (point: Figured) => point.sessions;
const point = (from: string, count: number, days = 1) => ({ ...NONE, from, sessions: count, days });
const beside = (at: string, count: number) => ({ ...point('2026-01-01', count), at });

describe('a line and the one beside it', () => {
  it.each([
    ['nothing of nothing', [], [], []],
    ['a line alone', [point('2026-10-05', 3)], [], [{ from: '2026-10-05', all: 3 }]],
    [
      'both at one place, a gap where only one is, in order of time',
      [point('2026-10-06', 4), point('2026-10-05', 3)],
      [beside('2026-10-07', 9), beside('2026-10-05', 0)],
      [
        { from: '2026-10-05', all: 3, beside: 0 },
        { from: '2026-10-06', all: 4 },
        { from: '2026-10-07', beside: 9 },
      ],
    ],
    ['what stands beside alone', [], [beside('2026-10-05', 2)], [{ from: '2026-10-05', beside: 2 }]],
  ])('shows %s', (_, points, others, expected) => {
    expect(pictured(points, others, sessions)).toEqual(expected);
  });

  it.each([
    [[point('a', 150)], [point('b', 100)], '50 % more than there'],
    [[point('a', 50), point('b', 25)], [point('c', 100, 2)], '25 % less than there'],
    [[point('a', 100)], [point('b', 100)], 'as much as there'],
    [[point('a', 300, 28)], [point('b', 100, 14)], '50 % more a day than there'],
    [[point('a', 200, 28)], [point('b', 100, 14)], 'as much a day as there'],
    [[point('a', 0)], [point('b', 100)], '100 % less than there'],
    [[point('a', 5)], [], ''],
    [[point('a', 5)], [point('b', 0)], ''],
    [[], [point('b', 5)], ''],
  ])('says of %j beside %j: %s', (now, then, words) => {
    expect(changed(now, then, sessions)).toBe(words);
  });
});
