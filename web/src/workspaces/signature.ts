import type { SampleRequest } from '../api/acts';

/** Where a tag puts a field (docs/schemas/signature.schema.json). */
export type Field = string | string[] | { constant: string } | { segment: number };
export type Standing = { host: string; path?: string; account?: string } | { inline: string };
export interface Place {
  host: string;
  path?: string;
}

export interface Signature {
  tag: string;
  name: string;
  purpose: 'analytics' | 'advertising' | 'other';
  format?: 2;
  markup: Standing[];
  functions?: string[];
  handover?: string[];
  scripts?: string[];
  list?: string;
  wire: Place[];
  fields: Record<string, Field>;
  events: { page_view: string[]; conversion: string[] };
}

export const BLANK: Signature = {
  tag: '',
  name: '',
  purpose: 'analytics',
  markup: [],
  wire: [{ host: '' }],
  fields: { event: 'event' },
  events: { page_view: [], conversion: [] },
};

/** In the order in which an auditor asks. */
export const FIELDS: [name: string, about: string][] = [
  ['event', 'what happened'],
  ['account', 'whose numbers it counts for'],
  ['page', 'the page’s address'],
  ['source', 'where the visit came from'],
  ['medium', 'by which medium'],
  ['campaign', 'by which campaign'],
  ['content', 'which of several links'],
  ['term', 'what was searched for'],
  ['order', 'the order’s number'],
  ['value', 'what it is worth'],
  ['currency', 'in which money'],
  ['items', 'what was bought'],
  ['visitor', 'by what a visitor is known'],
  ['session', 'by what a visit is known'],
  ['consent', 'what was consented to'],
];

/** A field as a person types it: names by commas, a text of its own behind =, a part of the path behind /. */
export function writtenField(field: Field | undefined): string {
  if (field === undefined) {
    return '';
  }
  if (typeof field === 'string') {
    return field;
  }
  if (Array.isArray(field)) {
    return field.join(', ');
  }
  return 'constant' in field ? `=${field.constant}` : `/${field.segment}`;
}

/** @returns undefined where nothing is typed */
export function readField(text: string): Field | undefined {
  const plain = text.trim();
  if (plain === '') {
    return undefined;
  }
  if (plain.startsWith('=')) {
    return { constant: plain.slice(1) };
  }
  if (/^\/[1-9]\d?$/.test(plain)) {
    return { segment: Number(plain.slice(1)) };
  }
  const names = plain
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean);
  return names.length === 1 ? names[0] : names;
}

/** A script's address with the parameter that holds the account behind ?, or a base code in quotes. */
export function writtenStanding(standing: Standing): string {
  if ('inline' in standing) {
    return `“${standing.inline}”`;
  }
  return `${standing.host}${standing.path ?? ''}${standing.account ? `?${standing.account}` : ''}`;
}

export function readStanding(text: string): Standing | undefined {
  const plain = text.trim();
  const inline = plain.match(/^[“"](.+)[”"]$/)?.[1];
  if (inline !== undefined) {
    return { inline };
  }
  const [, host = '', path, account] = plain.match(/^(?:https?:)?(?:\/\/)?([^/?]+)(\/[^?]*)?(?:\?(.*))?$/) ?? [];
  return host === '' ? undefined : { host, ...(path ? { path } : {}), ...(account ? { account } : {}) };
}

/** An address, and below an empty line the body; or several, each in its own line, without bodies. */
export function readRequests(text: string): SampleRequest[] {
  const [head = '', ...rest] = text.trim().split(/\r?\n\r?\n/);
  const addresses = head.split(/\s+/).filter((one) => /^https?:/.test(one));
  const body = rest.join('\n\n');
  return addresses.map((address, at) => ({ address, ...(at === 0 && body ? { body } : {}) }));
}

/**
 * Signatures that a file holds: one, or a list.
 * @throws Error where it holds something else
 */
export function readSignatures(text: string): Signature[] {
  const read = [JSON.parse(text)].flat() as Partial<Signature>[];
  if (!read.every((one) => one && Array.isArray(one.wire) && one.fields && typeof one.fields === 'object')) {
    throw new Error('no signature');
  }
  return read.map((one) => ({ ...BLANK, ...one, events: { ...BLANK.events, ...one.events } }));
}

/** Names of the tags that are described, each once: one that is being written may be named as another for a moment. */
export const tagsOf = ({ signatures }: { signatures: Record<string, unknown>[] }) =>
  [...new Set(signatures.map((one) => String(one.tag)))].filter(Boolean);

const MOST = 300;
const MOST_BODY = 100_000;

/** Requests of a HAR file; what is too long to be a signal is cut. */
export function readHar(text: string): SampleRequest[] {
  const entries = (JSON.parse(text) as { log?: { entries?: HarEntry[] } }).log?.entries ?? [];
  return entries
    .filter(({ request }) => /^https?:/.test(request?.url ?? '') && (request?.url.length ?? 0) <= 8192)
    .map(({ request }) => ({
      address: request?.url ?? '',
      ...(request?.postData?.text ? { body: request.postData.text.slice(0, MOST_BODY) } : {}),
      ...(request?.postData?.mimeType ? { type: request.postData.mimeType.slice(0, 200) } : {}),
    }));
}

interface HarEntry {
  request?: { url: string; postData?: { text?: string; mimeType?: string } };
}

/** Those to the hosts of a signature first: more than the most are not read. */
export function nearest(requests: SampleRequest[], signature: Signature): SampleRequest[] {
  const hosts = signature.wire.map((one) => one.host.replace(/^\*\./, '')).filter(Boolean);
  const near = (one: SampleRequest) => hosts.some((host) => URL.parse(one.address)?.hostname.endsWith(host));
  return [...requests.filter(near), ...requests.filter((one) => !near(one))].slice(0, MOST);
}
