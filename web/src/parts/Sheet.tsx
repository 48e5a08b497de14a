import type { Ref } from 'react';
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
  change: (rows: Row[]) => void;
  height: number;
  cellClass?: (opt: { rowData: unknown; rowIndex: number; columnId?: string }) => string | undefined;
  onActive?: (row: number | undefined, column: string | undefined) => void;
  ref?: Ref<DataSheetGridRef>;
}

/** A grid that behaves as a sheet does: typed, pasted, filled down by its corner, copied out. */
export function Sheet<Row>({ label, rows, columns, blank, change, height, cellClass, onActive, ref }: SheetProps<Row>) {
  return (
    <section className={classes.sheet} aria-label={label}>
      <DataSheetGrid
        ref={ref}
        value={rows}
        columns={columns}
        onChange={change}
        createRow={blank}
        duplicateRow={({ rowData }) => ({ ...(rowData as Row) })}
        height={height}
        rowHeight={26}
        headerRowHeight={28}
        autoAddRow
        addRowsComponent={false}
        disableContextMenu
        {...(cellClass ? { cellClassName: cellClass } : {})}
        {...(onActive ? { onActiveCellChange: ({ cell }) => onActive(cell?.row, cell?.colId) } : {})}
      />
    </section>
  );
}
