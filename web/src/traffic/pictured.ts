import type { Schema } from '../api/client';
import { percent } from '../parts/format';

export type Figured = Schema['TrafficFigures'];

/** One place on the line of time: the figure of its own, and of what stands beside, where there is one. */
export interface Pictured {
  from: string;
  all?: number;
  beside?: number;
}

/**
 * A line and the one beside it, in order of time. Where only one of them has a place, the other has a gap.
 *
 * @param beside each with the place `at` which it stands
 */
export function pictured(
  points: (Figured & { from: string })[],
  beside: (Figured & { at: string })[],
  figure: (point: Figured) => number,
): Pictured[] {
  const places = new Map<string, Pictured>();
  const put = (from: string, figures: Omit<Pictured, 'from'>) =>
    places.set(from, { from, ...places.get(from), ...figures });
  for (const point of points) {
    put(point.from, { all: figure(point) });
  }
  for (const point of beside) {
    put(point.at, { beside: figure(point) });
  }
  return [...places.values()].sort((one, other) => one.from.localeCompare(other.from));
}

/** All of a figure. */
export const sumOf = (points: Figured[], figure: (point: Figured) => number) =>
  points.reduce((sum, point) => sum + figure(point), 0);

type Counted = Figured & { days: number };

const daysIn = (points: Counted[]) => points.reduce((sum, point) => sum + point.days, 0);

/** By how much more or less there is of a figure than in other days; by the day where these are more or fewer. */
export function changed(now: Counted[], then: Counted[], figure: (point: Figured) => number): string {
  const [days, otherDays, before] = [daysIn(now), daysIn(then), sumOf(then, figure)];
  if (days === 0 || before === 0) {
    return '';
  }
  const by = (sumOf(now, figure) * otherDays) / (before * days) - 1;
  const each = days === otherDays ? '' : ' a day';
  return by === 0
    ? `as much${each} as there`
    : `${percent(Math.abs(by))} ${by > 0 ? 'more' : 'less'}${each} than there`;
}
