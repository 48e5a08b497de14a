import type { BuildRow } from '../api/acts';

/** A row of the grid: the landing address, the kind, a value for each role by its name, and what goes with them. */
export type GridRow = Record<string, string | null>;

const OWN = ['landing', 'kind', 'network', 'exception'];

export const blankRow = (): GridRow => ({});

export const isBlank = (row: GridRow) =>
  !Object.entries(row).some(([name, value]) => value && !['kind', 'network'].includes(name));

/** As the server takes it. */
export function toBuild(row: GridRow): BuildRow {
  const values = Object.entries(row).filter(([name, value]) => !OWN.includes(name) && value);
  return {
    landing: row.landing ?? '',
    kind: row.kind ?? '',
    network: row.network ?? null,
    exception: row.exception ?? '',
    values: Object.fromEntries(values) as Record<string, string>,
  };
}

/** As the grid shows it. */
export function toGrid(row: BuildRow): GridRow {
  return {
    ...row.values,
    landing: row.landing || null,
    kind: row.kind || null,
    network: row.network ?? null,
    exception: row.exception || null,
  };
}

/** What tells one content of a row from another. */
export const keyOf = (row: GridRow) => JSON.stringify(toBuild(row));
