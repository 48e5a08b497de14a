import { useCallback } from 'react';
import { useListKeys } from './useListKeys';
import { useListState } from './useListState';

/** The row of a list that is chosen in the address bar, walked by keys. */
export function useChosenRow<Row>(rows: Row[], keyOf: (row: Row) => string, onLeave?: () => void) {
  const { chosen, list, set } = useListState();
  const index = rows.findIndex((row) => keyOf(row) === chosen);
  const choose = useCallback(
    (at: number) => {
      const row = rows[at];
      set({ chosen: row === undefined ? null : keyOf(row) });
    },
    [rows, keyOf, set],
  );
  const leave = useCallback(() => set({ chosen: null }), [set]);
  useListKeys({ rows: rows.length, index, choose, leave: onLeave ?? leave });
  return { chosen, list, set, index, choose };
}
