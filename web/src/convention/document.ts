import type { components } from '../api/documents';

type Documents = components['schemas'];

/** A convention as its JSON Schema says; types are generated from it. */
export type ConventionDocument = Omit<Documents['convention.schema'], '$defs'>;
export type Required = Documents['required'];
export type Role = Documents['role'];
export type ScopedRule = Documents['rule'];
export type RoleRules = ScopedRule['changes'];
export type Vocabulary = Documents['vocabulary'];
export type Value = Documents['value'];
export type Segment = Documents['segments'][number];
export type Pair = Documents['pair'];
export type Identifier = Documents['identifier'];
export type ChannelRule = Documents['channel'];
export type Dialect = Documents['dialect.schema'];

/** An object without what says nothing: what is empty is left out of the document, so that its usual value holds. */
export function lean<T extends object>(thing: T): T {
  const said = Object.entries(thing).filter(
    ([, value]) =>
      value !== undefined && value !== '' && value !== null && !(Array.isArray(value) && value.length === 0),
  );
  return Object.fromEntries(said) as T;
}
