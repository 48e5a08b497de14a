import { createContext, useContext, useId, useLayoutEffect, useRef } from 'react';
import { type CellProps, type Column, keyColumn } from 'react-datasheet-grid';
import type { Schema } from '../api/client';
import { Weight } from '../parts/Weight';
import classes from './Build.module.css';
import type { GridRow } from './rows';
import type { Verdict } from './useVerdicts';

/** What the cells of a row know of its verdict. */
export const VerdictOf = createContext<(row: GridRow | undefined) => Verdict | undefined>(() => undefined);

type Suggestions = { values: string[] };

/** A cell that is typed into, with the values that are known offered below. */
function SuggestCell({ rowData, setRowData, focus, columnData }: CellProps<string | null, Suggestions>) {
  const input = useRef<HTMLInputElement>(null);
  const list = useId();
  useLayoutEffect(() => {
    if (focus) {
      input.current?.focus();
      input.current?.select();
    } else {
      input.current?.blur();
    }
  }, [focus]);
  return (
    <>
      <input
        ref={input}
        className="dsg-input"
        tabIndex={-1}
        style={{ pointerEvents: focus ? 'auto' : 'none' }}
        value={rowData ?? ''}
        onChange={(event) => setRowData(event.target.value || null)}
        {...(focus && columnData.values.length > 0 ? { list } : {})}
      />
      {focus && columnData.values.length > 0 && (
        <datalist id={list}>
          {columnData.values.map((value) => (
            <option key={value} value={value} />
          ))}
        </datalist>
      )}
    </>
  );
}

function suggestColumn(values: string[]): Partial<Column<string | null, Suggestions, string>> {
  return {
    component: SuggestCell,
    columnData: { values },
    deleteValue: () => null,
    copyValue: ({ rowData }) => rowData ?? null,
    pasteValue: ({ value }) => value.trim() || null,
    isCellEmpty: ({ rowData }) => !rowData,
  };
}

/** What the rules say of the whole row. */
function VerdictCell({ rowData }: CellProps<GridRow, unknown>) {
  const verdict = useContext(VerdictOf)(rowData);
  return <span className={classes.link}>{verdict && <Weight weight={verdict.weight} />}</span>;
}

/** The finished link, which nobody types. */
function LinkCell({ rowData }: CellProps<GridRow, unknown>) {
  const verdict = useContext(VerdictOf)(rowData);
  return (
    <span className={classes.link} title={verdict?.address ?? undefined}>
      {verdict?.address ?? ''}
    </span>
  );
}

function ChannelCell({ rowData }: CellProps<GridRow, unknown>) {
  return <span className={classes.link}>{useContext(VerdictOf)(rowData)?.channel ?? ''}</span>;
}

/** The columns of the grid: the landing address, a column for each role of the convention, and what comes of them. */
export function columnsOf(places: Schema['BuildPlaces'], verdictOf: (row: GridRow) => Verdict | undefined) {
  const typed = (name: string, title: string, values: string[], basis = 110) => ({
    ...keyColumn<GridRow, string>(name, suggestColumn(values)),
    id: name,
    title,
    basis,
    minWidth: basis,
    grow: 1,
  });
  const shown = { disabled: true, shrink: 0 };
  return [
    {
      id: 'verdict',
      title: '',
      component: VerdictCell,
      ...shown,
      basis: 38,
      minWidth: 38,
      grow: 0,
      copyValue: () => '',
    },
    typed('landing', 'Landing address', [], 210),
    typed('kind', 'Kind', places.kinds, 76),
    ...places.roles.map((role) => typed(role.role, role.role, role.values)),
    {
      id: 'channel',
      title: 'Channel',
      component: ChannelCell,
      ...shown,
      basis: 90,
      minWidth: 90,
      copyValue: ({ rowData }: { rowData: GridRow }) => verdictOf(rowData)?.channel ?? '',
    },
    {
      id: 'link',
      title: 'Finished link',
      component: LinkCell,
      ...shown,
      basis: 320,
      minWidth: 320,
      grow: 2,
      copyValue: ({ rowData }: { rowData: GridRow }) => verdictOf(rowData)?.address ?? '',
    },
  ] as Partial<Column<GridRow, unknown, string>>[];
}
