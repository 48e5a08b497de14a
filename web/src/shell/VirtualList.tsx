import { useVirtualizer } from '@tanstack/react-virtual';
import { type ComponentProps, type ReactNode, useEffect, useRef } from 'react';
import { Loading } from '../parts/Loading';
import classes from './VirtualList.module.css';

const ROW = 24;

export interface Column {
  name: string;
  label: string;
  /** Whether the list can be sorted by it. @default false */
  sortable?: boolean;
}

interface VirtualListProps<Row> {
  /** Names the list for those who hear it. */
  label: string;
  rows: Row[];
  columns: Column[];
  /** The CSS class that sets the widths of the columns. */
  grid: string | undefined;
  keyOf: (row: Row) => string;
  cells: (row: Row) => ReactNode;
  index: number;
  choose: (index: number) => void;
  sort?: string | undefined;
  direction?: string | undefined;
  onSort?: (column: string) => void;
  /** Called when the end comes into sight. */
  onEnd?: () => void;
  /** Whether the rows are still on their way. @default false */
  loading?: boolean;
}

/** A long list of rows of one height: only those in sight exist, more are fetched at the end. */
export function VirtualList<Row>({
  label,
  rows,
  columns,
  grid,
  keyOf,
  cells,
  index,
  choose,
  sort,
  direction,
  onSort,
  onEnd,
  loading = false,
}: VirtualListProps<Row>) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const last = items.at(-1)?.index ?? -1;

  useEffect(() => {
    if (rows.length > 0 && last >= rows.length - 20) {
      onEnd?.();
    }
  }, [last, rows.length, onEnd]);

  useEffect(() => {
    if (index >= 0) {
      virtual.scrollToIndex(index, { align: 'auto' });
    }
  }, [index, virtual]);

  return (
    <div className={classes.frame} role="grid" aria-label={label} aria-rowcount={rows.length}>
      <Heads columns={columns} grid={grid} sort={sort} direction={direction} onSort={onSort} />
      {loading && <Loading />}
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by keyboard */}
      <div ref={scroller} className={classes.scroller} role="rowgroup" tabIndex={0}>
        <div className={classes.body} role="presentation" style={{ height: virtual.getTotalSize() }}>
          {items.map((item) => {
            const row = rows[item.index];
            return row === undefined ? null : (
              // biome-ignore lint/a11y/useKeyWithClickEvents: the list walks by arrow keys, see useListKeys
              <div
                key={keyOf(row)}
                className={`${classes.row} ${grid}`}
                style={{ transform: `translateY(${item.start}px)` }}
                role="row"
                aria-selected={item.index === index}
                onClick={() => choose(item.index)}
              >
                {cells(row)}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

type HeadsProps = Pick<VirtualListProps<never>, 'columns' | 'grid' | 'sort' | 'direction' | 'onSort'>;

/** The heads of the columns, by which it is sorted. */
function Heads({ columns, grid, sort, direction, onSort }: HeadsProps) {
  return (
    <div className={`${classes.head} ${grid}`} role="row">
      {columns.map((column) => (
        <span
          key={column.name}
          role="columnheader"
          data-column={column.name}
          aria-sort={ariaSort(column.name, sort, direction)}
        >
          {column.sortable ? (
            <button type="button" onClick={() => onSort?.(column.name)}>
              {column.label}
              {sort === column.name && <span aria-hidden>{direction === 'down' ? ' ↓' : ' ↑'}</span>}
            </button>
          ) : (
            column.label
          )}
        </span>
      ))}
    </div>
  );
}

/** One cell of a row. */
export function Cell(props: ComponentProps<'span'>) {
  return <span role="gridcell" {...props} />;
}

function ariaSort(column: string, sort?: string, direction?: string) {
  if (column !== sort) {
    return undefined;
  }
  return direction === 'down' ? 'descending' : 'ascending';
}
