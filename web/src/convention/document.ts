/** A convention as its document has it (docs/schemas/convention.schema.json). */
export interface ConventionDocument {
  name: string;
  note?: string;
  own_hosts: string[];
  relay_hosts?: string[];
  payment_hosts?: string[];
  billed_hosts?: string[];
  known_hosts?: string[];
  judged_hosts?: string[];
  exempt_kinds?: string[];
  own_parameters?: string[];
  personal_data?: { kinds?: string[]; name_fields?: string[]; phone_fields?: string[] };
  roles: Role[];
  rules?: ScopedRule[];
  pairs?: Pair[];
  identifiers?: Identifier[];
  channels: ChannelRule[];
  dialects?: Dialect[];
  slow_ms?: number;
}

export type Required = 'always' | 'paid' | 'never' | { kinds?: string[]; channels?: string[] };

export interface RoleRules {
  required?: Required;
  case?: 'lower' | 'upper' | 'any';
  separator?: string;
  characters?: string[];
  longest?: number;
  segments?: Segment[];
  tokens?: 'any' | 'none' | string[];
  vocabulary?: Vocabulary;
}

export interface Role extends RoleRules {
  role: string;
  carriers: string[];
  free_text?: boolean;
  meaning?: string;
  owner?: string;
}

export interface Vocabulary {
  closed?: boolean;
  values: Value[];
}

export interface Value {
  value: string;
  aliases?: string[];
  meaning?: string;
  owner?: string;
}

export interface Segment {
  segment: string;
  optional?: boolean;
  word?: string;
  values?: string[];
  role?: string;
  number?: { from?: number; to?: number; digits?: number };
  date?: { format: string; from?: string; to?: string };
  text?: { shortest?: number; longest?: number; words?: number; format?: string };
}

export interface ScopedRule {
  scope: { kind?: string; account?: string; host?: string };
  role: string;
  changes: RoleRules;
  why?: string;
}

export interface Pair {
  source: string;
  medium: string;
  kinds?: string[];
}

export interface Identifier {
  parameter: string;
  kinds?: string[];
  source?: string;
  token?: string;
}

export interface ChannelRule {
  channel: string;
  paid?: boolean;
  when: { field: string; is?: string[]; starts?: string[]; contains?: string[]; empty?: boolean }[];
}

export interface Dialect {
  network: string;
  open: string;
  close: string;
  tokens?: { token: string; meaning?: string; sample?: string }[];
}

/** An object without what says nothing: what is empty is left out of the document, so that its usual value holds. */
export function lean<T extends object>(thing: T): T {
  const said = Object.entries(thing).filter(
    ([, value]) =>
      value !== undefined && value !== '' && value !== null && !(Array.isArray(value) && value.length === 0),
  );
  return Object.fromEntries(said) as T;
}
