import type { Schema } from '../api/client';

type Fix = Schema['Fix'];
type Filters = Record<string, string>;

/** By what fixes are narrowed and grouped, with the words for each. */
export const FACETS = { owner: 'Whose links', where: 'Where', weight: 'Weight' } as const;
export type Facet = keyof typeof FACETS;
const NAMES = Object.keys(FACETS) as Facet[];

/** Whether it is still work. */
export const isToDo = (fix: Fix) => fix.state === 'open' || fix.state === 'returned';

const STATES: Record<string, (fix: Fix) => boolean> = {
  todo: isToDo,
  proven: (fix) => fix.state === 'proven',
  rest: (fix) => ['let_stand', 'no_longer_asked', 'ended'].includes(fix.state),
  all: () => true,
};

/** Whether a fix is among those that the address bar asks for. */
export function fits(fix: Fix, filters: Filters) {
  const { show = 'todo', only, q = '' } = filters;
  const said = `${fix.action} ${fix.where} ${fix.owner} ${fix.codes.join(' ')}`.toLowerCase();
  return (
    (STATES[show] ?? isToDo)(fix) &&
    (!only || only.split(',').includes(String(fix.id))) &&
    said.includes(q.trim().toLowerCase()) &&
    NAMES.every((name) => !filters[name] || fix[name] === filters[name])
  );
}

export interface Sum {
  value: string;
  fixes: number;
  sessions: number;
  revenue: number;
}

/** What the fixes of each group win back together, most first. */
export function sums(fixes: Fix[], by: Facet): Sum[] {
  const groups = new Map<string, Sum>();
  for (const fix of fixes) {
    const group = groups.get(fix[by]) ?? { value: fix[by], fixes: 0, sessions: 0, revenue: 0 };
    group.fixes += 1;
    group.sessions += isToDo(fix) ? fix.sessions : 0;
    group.revenue += isToDo(fix) ? fix.revenue : 0;
    groups.set(fix[by], group);
  }
  return [...groups.values()].sort((a, b) => b.sessions - a.sessions || b.fixes - a.fixes);
}
