import type { Schema } from '../api/client';

export type Target = Schema['StepTarget'];
export type Heard = Schema['TakenStep']['heard'][number];
export type Hidden = Schema['TakenStep']['hidden'][number];
type Expectation = { tag: string; event: string; times?: number; values?: Record<string, unknown> };
type Held = { field?: string; value?: unknown };

/** One step of a rehearsal (docs/schemas/rehearsal.schema.json). */
export type Step = Record<string, unknown> & { expect?: Expectation[]; holds?: Held[]; with?: string; only?: true };

/** A step as it is worked on: what it does and expects, and what was heard when it was done. */
export interface Draft {
  step: Step;
  heard: Heard[];
  hidden: Hidden[];
  /** Where it ended; undefined before it was done. */
  page?: string;
}

export const ACTS = {
  open: 'Open',
  click: 'Click',
  double_click: 'Click twice',
  fill: 'Fill',
  choose: 'Choose',
  tick: 'Tick',
  date: 'Set the date',
  upload: 'Give a file to',
  submit: 'Send the form',
  wait_for: 'Wait for',
  reload: 'Load again',
  back: 'Go back',
  new_tab: 'Go on in the new tab',
  accept: 'Say yes to being asked',
  refuse: 'Say no to being asked',
} as const;

export type Act = keyof typeof ACTS;

export function actOf(step: Step): Act {
  return (Object.keys(ACTS) as Act[]).find((act) => act in step) ?? 'reload';
}

/** A target as a person reads it. */
export function targetOf(step: Step): string {
  const target = step[actOf(step)];
  if (target === true || target === undefined) {
    return '';
  }
  if (typeof target === 'string') {
    return target;
  }
  const [kind, said] = Object.entries(target as Record<string, unknown>)[0] ?? ['', ''];
  return kind === 'link' ? `link ${said} of the inventory` : `“${said}”`;
}

/** What was just done, with what an auditor would expect of it: its conversions, and hidden fields that hold what the landing says. */
export function draftOf(taken: Schema['TakenStep']): Draft {
  const expect = taken.heard.filter((one) => one.kind === 'conversion').map(expectationOf);
  const holds = taken.hidden.filter((one) => one.role).map(heldOf);
  const step = taken.step as Step;
  return {
    step: { ...step, ...(expect.length > 0 ? { expect } : {}), ...(holds.length > 0 ? { holds } : {}) },
    heard: taken.heard,
    hidden: taken.hidden,
    page: taken.page,
  };
}

/** An order's number is another in every run; that there is one is what counts. */
export function expectationOf(heard: Heard): Expectation {
  const values = Object.fromEntries(
    Object.entries(heard.values).map(([field, value]) => [field, field === 'currency' ? value : true]),
  );
  return {
    tag: heard.tag,
    event: heard.event ?? '',
    ...(heard.times === 1 ? {} : { times: heard.times }),
    ...(Object.keys(values).length > 0 ? { values } : {}),
  };
}

export function heldOf(hidden: Hidden): Held {
  return { field: hidden.field, ...(hidden.role ? { value: { role: hidden.role } } : {}) };
}

export function expects(step: Step, heard: Heard) {
  return step.expect?.some((one) => one.tag === heard.tag && one.event === heard.event) ?? false;
}

export function holds(step: Step, hidden: Hidden) {
  return step.holds?.some((one) => one.field === hidden.field) ?? false;
}

/** Expects what was heard, or expects it no more. */
export function expecting(step: Step, heard: Heard): Step {
  return expects(step, heard)
    ? without(step, 'expect', (one) => one.tag === heard.tag && one.event === heard.event)
    : { ...step, expect: [...(step.expect ?? []), expectationOf(heard)] };
}

/** Asks that a hidden field holds what it held, or asks it no more. */
export function holding(step: Step, hidden: Hidden): Step {
  return holds(step, hidden)
    ? without(step, 'holds', (one) => one.field === hidden.field)
    : { ...step, holds: [...(step.holds ?? []), heldOf(hidden)] };
}

/** A list in a step that has lost its last entry goes. */
function without<Key extends 'expect' | 'holds'>(
  step: Step,
  key: Key,
  gone: (one: NonNullable<Step[Key]>[number]) => boolean,
): Step {
  const { [key]: list, ...rest } = step;
  const left = ((list ?? []) as NonNullable<Step[Key]>).filter((one) => !gone(one as never));
  return left.length > 0 ? ({ ...rest, [key]: left } as Step) : (rest as Step);
}

/** Steps that were played again tell anew what was heard. */
export function replayed(steps: Draft[], taken: Schema['TakenStep'][]): Draft[] {
  return steps.map((one, at) => {
    const again = taken[at];
    return again ? { ...one, heard: again.heard, hidden: again.hidden, page: again.page } : one;
  });
}

/** What was done stands behind the steps that the page has gone through. */
export function inserted(steps: Draft[], here: number, taken: Schema['TakenStep'][]): Draft[] {
  return steps.toSpliced(here, 0, ...taken.map(draftOf));
}

export function moved<One>(list: One[], from: number, to: number): One[] {
  const one = list[from];
  if (one === undefined || to < 0 || to >= list.length) {
    return list;
  }
  const rest = list.toSpliced(from, 1);
  return rest.toSpliced(to, 0, one);
}

/** Letters and digits of a title, as rehearsals are named. */
export function nameOf(title: string) {
  const plain = title
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^[^a-z]+|-+$/g, '');
  return plain.slice(0, 80) || 'rehearsal';
}
