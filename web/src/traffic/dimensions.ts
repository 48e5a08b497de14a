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

/** Stretches of days: what holds one is no filter. */
export const TIMES = ['month', 'week', 'day'];

/** Of what the address bar says, what is named here and is there. */
export const only = (list: Record<string, string | undefined>, names: string[]) =>
  Object.fromEntries(names.flatMap((name) => (list[name] ? [[name, list[name] as string]] : [])));

/** The filter that leaves the rows of one value. */
export const whatHolds = (dimension: string, value: string): Record<string, string> =>
  dimension.startsWith('own.') ? { own: `${dimension.slice(4)}=${value}` } : { [dimension]: value };
