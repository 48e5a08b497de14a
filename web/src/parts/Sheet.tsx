import { type Ref, type RefObject, useEffect, useMemo, useRef } from 'react';
import { type Column, DataSheetGrid, type DataSheetGridRef } from 'react-datasheet-grid';
import 'react-datasheet-grid/dist/style.css';
import classes from './Sheet.module.css';

interface SheetProps<Row> {
  /** Names the grid for those who hear it. */
  label: string;
  rows: Row[];
  // The library types columns by what each holds; in one list they hold different things.
  // biome-ignore lint/suspicious/noExplicitAny: see above
  columns: Partial<Column<Row, any, any>>[];
  blank: () => Row;
  /** Whether nothing stands in a row. */
  isBlank: (row: Row) => boolean;
  /** How many empty rows stand below the filled ones. @default 5 */
  spare?: number;
  change: (rows: Row[]) => void;
  height: number;
  cellClass?: (opt: { rowData: unknown; rowIndex: number; columnId?: string }) => string | undefined;
  onActive?: (row: number | undefined, column: string | undefined) => void;
  /** Ctrl+D within the grid; without it the grid does what it thinks right. */
  onFillDown?: () => void;
  ref?: Ref<DataSheetGridRef>;
}

/** A grid that behaves as a sheet does: typed, pasted, filled down by its corner, copied out. Below the filled rows stand empty ones. */
export function Sheet<Row>({
  label,
  rows,
  columns,
  blank,
  isBlank,
  spare = 5,
  change,
  height,
  cellClass,
  onActive,
  onFillDown,
  ref,
}: SheetProps<Row>) {
  useFillDownKey(onFillDown);
  const frame = useRef<HTMLElement>(null);
  useNamedFields(frame);
  const empty = useMemo(() => Array.from({ length: spare }, blank), [spare, blank]);
  const shown = useMemo(() => [...rows, ...empty], [rows, empty]);
  const take = (changed: Row[]) => change(changed.slice(0, changed.findLastIndex((row) => !isBlank(row)) + 1));
  return (
    <section ref={frame} className={classes.sheet} aria-label={label}>
      <DataSheetGrid
        ref={ref}
        value={shown}
        columns={columns}
        onChange={take}
        createRow={blank}
        duplicateRow={({ rowData }) => ({ ...(rowData as Row) })}
        height={height}
        rowHeight={26}
        headerRowHeight={28}
        addRowsComponent={false}
        disableContextMenu
        {...(cellClass ? { cellClassName: cellClass } : {})}
        {...(onActive ? { onActiveCellChange: ({ cell }) => onActive(cell?.row, cell?.colId) } : {})}
      />
    </section>
  );
}

/** The grid leaves its fields without names: each is named after its column, also those that come with scrolling. */
function useNamedFields(frame: RefObject<HTMLElement | null>) {
  useEffect(() => {
    const element = frame.current;
    if (!element) {
      return;
    }
    const name = () => {
      const titles = [...element.querySelectorAll('.dsg-row-header .dsg-cell')].map((cell) => cell.textContent ?? '');
      for (const row of element.querySelectorAll('.dsg-row:not(.dsg-row-header)')) {
        [...row.querySelectorAll('.dsg-cell')].forEach((cell, at) => {
          const field = cell.querySelector('input:not([aria-label])');
          field?.setAttribute('aria-label', titles[at] || `Column ${at}`);
        });
      }
    };
    name();
    const observer = new MutationObserver(name);
    observer.observe(element, { childList: true, subtree: true });
    return () => observer.disconnect();
  }, [frame]);
}

/** The grid itself takes Ctrl+D, with whole rows chosen, as a wish for more rows: it is told before. */
function useFillDownKey(act: (() => void) | undefined) {
  useEffect(() => {
    if (!act) {
      return;
    }
    const listen = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() === 'd' && (event.ctrlKey || event.metaKey)) {
        event.preventDefault();
        event.stopImmediatePropagation();
        act();
      }
    };
    window.addEventListener('keydown', listen, true);
    return () => window.removeEventListener('keydown', listen, true);
  }, [act]);
}
