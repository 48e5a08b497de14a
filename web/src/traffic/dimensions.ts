/** What rows can be told apart by, in words. */
export const DIMENSIONS: Record<string, string> = {
  source: 'source',
  medium: 'medium',
  campaign: 'campaign',
  content: 'content',
  term: 'term',
  landing: 'landing page',
  referrer: 'referrer',
  channel: 'channel',
  cause: 'cause',
  device: 'device',
  country: 'country',
  language: 'language',
  host: 'host',
  visitor: 'new or returning',
  click: 'click identifier',
  month: 'month',
  week: 'week',
  day: 'day',
};

/** Stretches of days. */
export const TIMES = ['month', 'week', 'day'];

/** By what traffic is narrowed, days apart, as the address bar names it. */
export const NARROWINGS = [...Object.keys(DIMENSIONS).filter((name) => !TIMES.includes(name)), 'own', 'segment'];

/** Of what the address bar says, what is named here and is there. */
export const only = (list: Record<string, string | undefined>, names: string[]) =>
  Object.fromEntries(names.flatMap((name) => (list[name] ? [[name, list[name] as string]] : [])));

export type Filter = Record<string, string>;

const written = (day: Date) => day.toISOString().slice(0, 10);
const utc = (year: number, month: number, day: number) => new Date(Date.UTC(year, month, day));

/** The first and the last day of a stretch: 2026-11-22, 2026-W47 (ISO 8601) or 2026-11. */
export function daysOf(stretch: string): Filter {
  const [year = 0, rest = 0] = stretch.split(/-W?/).map(Number);
  if (stretch.includes('W')) {
    // The fourth of January lies in the first week.
    const fourth = utc(year, 0, 4);
    const monday = 4 - ((fourth.getUTCDay() + 6) % 7) + (rest - 1) * 7;
    return { from: written(utc(year, 0, monday)), to: written(utc(year, 0, monday + 6)) };
  }
  return stretch.length > 7
    ? { from: stretch, to: stretch }
    : { from: written(utc(year, rest - 1, 1)), to: written(utc(year, rest, 0)) };
}

/** The filter that leaves the rows of one value. */
export function whatHolds(dimension: string, value: string): Filter {
  const filled = value || '–';
  if (TIMES.includes(dimension)) {
    return daysOf(value);
  }
  if (dimension.startsWith('own.')) {
    return { own: `${dimension.slice(4)}=${filled}` };
  }
  return dimension.includes('.') ? { segment: `${dimension}=${filled}` } : { [dimension]: filled };
}

/** Filters that may say several things, one a line. */
const SEVERAL = ['own', 'segment'];

/** Each thing that a filter says. */
export const eachSaid = (name: string, value: string) => (SEVERAL.includes(name) ? value.split('\n') : [value]);

/** A segment of a role, or the value under which all its spellings stand. */
export const inWords = (segment: string) =>
  segment.startsWith('meant.') ? `${segment.slice(6)}, spellings together` : segment.replace('.', ': ');

/** Of one thing that a filter says: what of, and the value. */
export function partsOf(name: string, one: string): { of: string; value: string } {
  const end = one.indexOf('=');
  if (!SEVERAL.includes(name) || end < 0) {
    return { of: DIMENSIONS[name] ?? name, value: one };
  }
  const subject = one.slice(0, end);
  return { of: name === 'segment' ? inWords(subject) : subject, value: one.slice(end + 1) };
}

/** Both of two things said under one name; undefined where they say otherwise of the same. */
function both(name: string, one: string, other: string): string | undefined {
  const lines = [...new Set([one, other].flatMap((value) => eachSaid(name, value)))];
  const subjects = new Set(lines.map((line) => (SEVERAL.includes(name) ? line.split('=')[0] : name)));
  return subjects.size === lines.length ? lines.join('\n') : undefined;
}

/** What holds all of several filters: of days those that they share; undefined where one filter cannot say it. */
export function together(...filters: Filter[]): Filter | undefined {
  const all: Filter = {};
  for (const [name, value] of filters.flatMap(Object.entries)) {
    const known = all[name] ?? value;
    if (name === 'from' || name === 'to') {
      all[name] = (name === 'from') === known > value ? known : value;
    } else {
      const said = both(name, known, value);
      if (said === undefined) {
        return undefined;
      }
      all[name] = said;
    }
  }
  return all;
}
