import type { Schema } from '../api/client';

type Trail = Schema['Trail'];
export type FateName = Schema['Fate']['fate'];

/** What a lane does between one hop and the next. */
export interface Stretch {
  fate: FateName;
  /** What was done to an altered value. */
  how: Schema['Fate']['how'];
  /** The value before and after; null where there is none. */
  before: string | null;
  after: string | null;
}

/** One parameter over all hops: stretches[i] leads from hop i to hop i + 1; null where the lane does not exist. */
export interface Lane {
  key: string;
  name: string;
  role: string | null;
  first: string;
  stretches: (Stretch | null)[];
}

/** The addresses at which the trail stood: each hop, and the last address where it was not requested. */
export function stations(trail: Trail) {
  const hops = trail.hops.map((hop, index) => ({ ...hop, referrer: sentTo(trail.hops, index) }));
  const last = hops.at(-1);
  return last?.address === trail.final_address
    ? hops
    : [...hops, { address: trail.final_address, status: null, ms: null, how: null, referrer: undefined }];
}

/** The referrer that a hop was sent, where it is another than before: null where a page sent its visitors without one. */
function sentTo(hops: Trail['hops'], index: number) {
  const before = hops[index - 1];
  const sent = hops[index]?.referrer ?? null;
  const byPage = before !== undefined && before.how !== 'status';
  return byPage || sent !== (before?.referrer ?? null) ? sent : undefined;
}

/** The lanes of a trail, those of roles first. A trail of one hop has the parameters of its landing page alone. */
export function lanes(trail: Trail): Lane[] {
  const width = stations(trail).length - 1;
  const found = new Map<string, Lane>();
  trail.hops.slice(0, width).forEach((hop, index) => {
    const seen = new Map<string, number>();
    for (const fate of hop.params) {
      const nth = seen.get(fate.name) ?? 0;
      seen.set(fate.name, nth + 1);
      const key = `${fate.name} ${nth}`;
      const lane = found.get(key) ?? emptyLane(key, fate.name, fate.role, fate.before ?? fate.after ?? '', width);
      lane.stretches[index] = { fate: fate.fate, how: fate.how, before: fate.before, after: fate.after };
      found.set(key, lane);
    }
  });
  if (width <= 0) {
    trail.landing_params.forEach((param, nth) => {
      const key = `${param.name} ${nth}`;
      found.set(key, emptyLane(key, param.name, param.role, param.value, 0));
    });
  }
  return [...found.values()].sort((one, other) => Number(other.role !== null) - Number(one.role !== null));
}

function emptyLane(key: string, name: string, role: string | null, first: string, width: number): Lane {
  return { key, name, role, first, stretches: Array.from({ length: Math.max(width, 0) }, () => null) };
}
