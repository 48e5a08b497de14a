import { useMemo } from 'react';
import { type components, linkWeightValues } from '../api/schema';

/** What a list can be sorted by: the name of a column, and the value of a row in it. */
export type Sorts<Row> = Record<string, (row: Row) => string | number>;

/** A short list in the order that the address bar asks for; as it came where that asks for none. */
export function useSorted<Row>(
  rows: Row[],
  sorts: Sorts<Row>,
  sort: string | undefined,
  direction: string | undefined,
) {
  return useMemo(() => {
    const value = sort === undefined ? undefined : sorts[sort];
    if (!value) {
      return rows;
    }
    const sign = direction === 'down' ? -1 : 1;
    return rows.toSorted((one, other) => sign * compare(value(one), value(other)));
  }, [rows, sorts, sort, direction]);
}

function compare(one: string | number, other: string | number) {
  return typeof one === 'number' && typeof other === 'number' ? one - other : String(one).localeCompare(String(other));
}

/** Numbers and weights are wanted largest first, text from A; a second choice of one column turns it round. */
export function nextSort(column: string, list: Record<string, string>, largestFirst: string[]) {
  const usual = largestFirst.includes(column) ? 'down' : 'up';
  const turned = list.direction === 'down' ? 'up' : 'down';
  return { sort: column, direction: list.sort === column ? turned : usual };
}

type Link = components['schemas']['Link'];

/** The rank of a weight, the heaviest last. */
export const weightRank = (weight: Link['weight']) => linkWeightValues.indexOf(weight);
