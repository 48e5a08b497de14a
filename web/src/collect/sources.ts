import type { FileKind } from '../api/acts';

export type FetchKind = 'site' | 'pages' | 'network';
export type SourceKind = FileKind | FetchKind;

/** What a person may say beside a file. */
export type Beside = 'source' | 'network' | 'host' | 'place' | 'owner' | 'link_kind' | 'dates';

export interface Source {
  kind: SourceKind;
  label: string;
  about: string;
  /** Files it takes; without them it is pasted or fetched. */
  accept?: string;
  asks: Beside[];
}

const TABLE = '.csv,.tsv,.txt,.xlsx,.ods,.json';

/** Where links come from, in the order in which teams usually hand them over. */
export const SOURCES: Source[] = [
  {
    kind: 'links',
    label: 'Table of links',
    accept: TABLE,
    asks: [],
    about: 'An address in each row, and where they are known: kind, found, owner, spend, since, replaces.',
  },
  {
    kind: 'ads',
    label: 'Export of ads',
    accept: TABLE,
    asks: ['source', 'network', 'owner'],
    about:
      'A network’s export: account, campaign, group and ad, with landing address, click pattern, parameters added at the end and placeholders of your own at any level. Give the source a name, and the next file is compared with this one.',
  },
  {
    kind: 'messages',
    label: 'Messages',
    accept: '.eml,.html,.htm,.zip',
    asks: ['owner'],
    about: 'Sent messages as .eml or HTML, or a ZIP file of many. Unsubscribe, mail and phone links are set apart.',
  },
  {
    kind: 'register',
    label: 'Register of short links',
    accept: TABLE,
    asks: ['source', 'host'],
    about: 'A path and its target in each row, so that a short link that leads elsewhere is found.',
  },
  {
    kind: 'print',
    label: 'Printed codes',
    accept: `${TABLE},.png`,
    asks: ['place'],
    about: 'A table with code, place and run, or a picture (PNG) of a QR code.',
  },
  {
    kind: 'paste',
    label: 'Pasted text',
    asks: ['place', 'owner', 'link_kind'],
    about: 'A chat, a mail, a page of notes: every address in it is taken.',
  },
  { kind: 'site', label: 'Own site', asks: ['owner'], about: '' },
  { kind: 'pages', label: 'Others’ pages', asks: ['owner', 'link_kind'], about: '' },
  { kind: 'network', label: 'A network', asks: ['owner'], about: '' },
];

export const TRAFFIC: Source = {
  kind: 'traffic',
  label: 'Session rows',
  accept: TABLE,
  asks: ['source', 'dates'],
  about:
    'A table with a date and sessions in each row, and where they are known: source, medium, campaign, content, term, landing page, referrer, device, click, conversions, revenue, cost. Give the source a name, and days that come again replace those before.',
};

export const LOGS: Source = {
  kind: 'logs',
  label: 'Access logs',
  accept: '.log,.txt,.gz,.json,.jsonl',
  asks: ['source', 'host'],
  about:
    'A web server’s log in the Combined Log Format or as JSON lines, packed or not: sessions are built from it. Of the log, and of who visited, nothing is kept.',
};

export const CLAIMS: Source = {
  kind: 'claims',
  label: 'Claims of a network',
  accept: TABLE,
  asks: ['network', 'dates'],
  about: 'A network’s report by day: day, campaign, ad, impressions, clicks, cost, conversions claimed, value claimed.',
};

export const ORDERS: Source = {
  kind: 'orders',
  label: 'Orders',
  accept: TABLE,
  asks: ['dates'],
  about: 'What was really sold: order, at, value, and where they are known: currency, visitor, source, coupon.',
};

export const TOUCHES: Source = {
  kind: 'touches',
  label: 'Visits before orders',
  accept: TABLE,
  asks: ['dates'],
  about:
    'One visit in each row: at, visitor, source, medium, campaign, landing page, referrer. Who a visitor is is not kept: only whether two are the same.',
};

/** What stands beside links: visits, and what was claimed and sold. */
export const TRAFFIC_SOURCES: Source[] = [TRAFFIC, LOGS, CLAIMS, ORDERS, TOUCHES];

export const isFetched = (kind: SourceKind): kind is FetchKind => ['site', 'pages', 'network'].includes(kind);
