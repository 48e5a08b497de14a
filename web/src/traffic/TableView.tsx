import { Button, NativeSelect, UnstyledButton } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import type { CSSProperties } from 'react';
import { useMemo } from 'react';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { count, counted, money, onDay, percent } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Toolbar } from '../parts/Toolbar';
import { useWorkspace } from '../session/useWorkspace';
import { Split } from '../shell/Split';
import { useListState } from '../shell/useListState';
import { Cell, type Column, VirtualList } from '../shell/VirtualList';
import { Beside, compared } from './Beside';
import { DIMENSIONS, type Filter, inWords, NARROWINGS, only, TIMES, together, whatHolds } from './dimensions';
import { Narrowings } from './Narrowings';
import { Period } from './Period';
import { RowsEvidence } from './RowsEvidence';
import classes from './Traffic.module.css';
import { Unshown } from './Unshown';

type Row = Schema['TrafficTable']['rows'][number];
type Figures = Schema['TrafficFigures'];

const share = (part: number, all: number) => (all > 0 ? part / all : null);

/** The measures of one row, and what is reckoned from them. */
function measures(figures: Figures, currency: string) {
  const rate = share(figures.conversions, figures.sessions);
  const back = share(figures.revenue, figures.cost);
  const each = share(figures.cost, figures.conversions);
  return [
    count(figures.sessions),
    count(figures.conversions),
    rate === null ? '–' : percent(rate),
    money(figures.revenue, currency),
    figures.cost ? money(figures.cost, currency) : '–',
    back === null ? '–' : `${back.toFixed(1)} ×`,
    each === null || !figures.cost ? '–' : money(Math.round(each), currency),
  ];
}

const MEASURES = ['Sessions', 'Conversions', 'Rate', 'Revenue', 'Cost', 'Return', 'Cost each'];
const NUMBERS: Record<string, (row: Row) => number> = {
  Sessions: (row) => row.sessions,
  Conversions: (row) => row.conversions,
  Rate: (row) => share(row.conversions, row.sessions) ?? -1,
  Revenue: (row) => row.revenue,
  Cost: (row) => row.cost,
  Return: (row) => share(row.revenue, row.cost) ?? -1,
  'Cost each': (row) => share(row.cost, row.conversions) ?? -1,
  Beside: (row) => row.before?.sessions ?? 0,
  Change: (row) => row.sessions - (row.before?.sessions ?? 0),
};

/** A table that turns: any dimension down, a second across; every cell opens its rows. */
export function TableView() {
  const { name } = useWorkspace();
  const { list, set } = useListState();
  const down = list.down ?? 'campaign';
  const across = list.across ?? '';
  const compare = across ? undefined : compared(list);
  const query = {
    down,
    across,
    ...(compare && { compare }),
    ...only(list, ['from', 'to', 'event', ...NARROWINGS]),
  };
  const table = useQuery(queries.table(name, query));
  const opened = list.rows === undefined ? undefined : Object.fromEntries(new URLSearchParams(list.rows));
  if (table.isError) {
    return <Unshown error={table.error} />;
  }
  if (!table.data) {
    return <Loading />;
  }
  const { segments, own, events } = table.data;
  const dimensions = [
    ...Object.entries(DIMENSIONS).map(([value, label]) => ({ value, label })),
    ...segments.map((value) => ({ value, label: inWords(value) })),
    ...own.map((value) => ({ value: `own.${value}`, label: value })),
  ];
  const asked = only(list, ['from', 'to', ...NARROWINGS]);
  const behind = (row: Row, value?: string) =>
    value === table.data.rest
      ? undefined
      : together(asked, whatHolds(down, row.value), value === undefined ? {} : whatHolds(across, value));
  return (
    <Split
      evidence={
        opened ? (
          <RowsEvidence
            prefix="rows-"
            list={{ ...only(list, ['rows-sort', 'rows-direction']), ...opened }}
            onClose={() => set({ rows: null })}
            onNarrow={() => set({ ...opened, rows: null })}
          />
        ) : undefined
      }
    >
      <Tools dimensions={dimensions} events={events} query={query} />
      <Narrowings asked={only(list, NARROWINGS)} set={set} />
      <Sum table={table.data} />
      {table.data.rows.length === 0 ? (
        <EmptyState title="No visits in these days." hint="Choose other days, or take a filter away." />
      ) : (
        <Turned
          table={table.data}
          heading={dimensions.find(({ value }) => value === down)?.label ?? down}
          behind={behind}
          open={(rows) => set({ rows: new URLSearchParams(rows).toString() })}
        />
      )}
    </Split>
  );
}

type Dimension = { value: string; label: string };
type Query = { down: string; across: string };

/** What stands down and across, which days and conversions count, and the table to take along.
 * dimensions: those that can be chosen · events: names of those of which there are conversions · query: as the server is asked. */
function Tools({ dimensions, events, query }: { dimensions: Dimension[]; events: string[]; query: Query }) {
  const { name } = useWorkspace();
  const { list, set } = useListState();
  const { down, across } = query;
  const search = new URLSearchParams(Object.entries(query).filter(([, value]) => value));
  return (
    <Toolbar>
      <NativeSelect
        size="xs"
        aria-label="Down"
        value={down}
        onChange={(event) => set({ down: event.currentTarget.value, sort: null })}
        data={dimensions}
      />
      <NativeSelect
        size="xs"
        aria-label="Across"
        value={across}
        onChange={(event) => set({ across: event.currentTarget.value || null, sort: null })}
        data={[
          { value: '', label: 'measures across' },
          ...dimensions
            .filter(({ value }) => value !== down)
            .map(({ value, label }) => ({ value, label: `${label} across` })),
        ]}
      />
      {events.length > 0 && (
        <NativeSelect
          size="xs"
          aria-label="What counts as a conversion"
          value={list.event ?? ''}
          onChange={(event) => set({ event: event.currentTarget.value || null })}
          data={[
            { value: '', label: 'every event counts' },
            ...events.map((value) => ({ value, label: `“${value}” counts` })),
          ]}
        />
      )}
      <Period from={list.from} to={list.to} set={set} />
      <Toolbar.Rest>
        {!across && <Beside />}
        <Button component="a" href={`/api/workspaces/${name}/traffic/table.csv?${search}`}>
          CSV
        </Button>
        <Button component="a" href={`/api/workspaces/${name}/traffic/table.xlsx?${search}`}>
          XLSX
        </Button>
      </Toolbar.Rest>
    </Toolbar>
  );
}

/** What all rows come to. */
function Sum({ table }: { table: Schema['TrafficTable'] }) {
  const { currency } = useWorkspace();
  const { rows, totals, more, before } = table;
  return (
    <p className={classes.sum}>
      {counted(rows.length + more, 'row')}; in all {counted(totals.sessions, 'session')},{' '}
      {counted(totals.conversions, 'conversion')}, {money(totals.revenue, currency)}
      {totals.cost > 0 && `, cost ${money(totals.cost, currency)}`}
      {before &&
        `; beside them ${counted(before.totals.sessions, 'session')}, ${onDay(before.from)} to ${onDay(before.to)}`}
      {more > 0 && `; ${count(more)} rows with the fewest sessions are not shown`}
    </p>
  );
}

/** The rows, with their measures or the columns of a second dimension.
 * heading: of what stands down · behind: the filter that leaves the rows of a row, or of its cell under a value across;
 * undefined where none can · open: shows them. */
function Turned({
  table,
  heading,
  behind,
  open,
}: {
  table: Schema['TrafficTable'];
  heading: string;
  behind: (row: Row, value?: string) => Filter | undefined;
  open: (rows: Filter) => void;
}) {
  const { currency } = useWorkspace();
  const { list, set } = useListState();
  const timed = TIMES.includes(table.down);
  const sort = list.sort ?? (timed ? 'value' : 'Sessions');
  const up = (list.direction ?? (timed && !list.sort ? 'up' : 'down')) === 'up';
  const rows = useMemo(() => sorted(table.rows, sort, up), [table, sort, up]);
  const heads = table.across
    ? ['Sessions', ...table.columns]
    : table.before
      ? [...MEASURES, 'Beside', 'Change']
      : MEASURES;
  const shown: Column[] = [
    { name: 'value', label: heading, sortable: true },
    ...heads.map((head) => ({ name: head, label: head || '–', sortable: true })),
  ];
  const texts = (row: Row) =>
    table.across ? [count(row.sessions)] : [...measures(row, currency), ...(table.before ? beside(row) : [])];
  return (
    <div className={classes.turning} style={{ '--cells': heads.length } as CSSProperties}>
      <VirtualList
        label="Traffic by what was chosen"
        rows={rows}
        columns={shown}
        grid={classes.cells}
        keyOf={(row) => row.value}
        cells={(row) => (
          <>
            <Cell className={classes.value} title={row.value}>
              {row.value || '–'}
            </Cell>
            {texts(row).map((text, index) => (
              <Cell key={heads[index]} className={classes.number}>
                {text}
              </Cell>
            ))}
            {table.columns.map((value) => (
              <Across key={value} sessions={row.cells[value]?.sessions} rows={behind(row, value)} open={open} />
            ))}
          </>
        )}
        index={-1}
        choose={(index) => {
          const filter = rows[index] && behind(rows[index]);
          if (filter) {
            open(filter);
          }
        }}
        sort={sort}
        direction={up ? 'up' : 'down'}
        onSort={(column) => set({ sort: column, direction: sort === column && !up ? 'up' : 'down' })}
      />
    </div>
  );
}

/** The sessions of a row under one value across; they open the rows that they count, where a filter can say which. */
function Across({
  sessions,
  rows,
  open,
}: {
  sessions: number | undefined;
  rows: Filter | undefined;
  open: (rows: Filter) => void;
}) {
  const text = sessions ? count(sessions) : '–';
  return (
    <Cell className={classes.number}>
      {sessions && rows ? (
        <UnstyledButton
          className={classes.opens}
          onClick={(event) => {
            event.stopPropagation();
            open(rows);
          }}
        >
          {text}
        </UnstyledButton>
      ) : (
        text
      )}
    </Cell>
  );
}

function sorted(rows: Row[], by: string, up: boolean) {
  const number = NUMBERS[by] ?? ((row: Row) => row.cells[by]?.sessions ?? 0);
  const order =
    by === 'value'
      ? (one: Row, other: Row) => other.value.localeCompare(one.value)
      : (one: Row, other: Row) => number(other) - number(one);
  const list = [...rows].sort(order);
  return up ? list.reverse() : list;
}

/** What stood there on the days beside, and how many more or fewer there are. */
function beside(row: Row) {
  const before = row.before?.sessions ?? 0;
  const more = row.sessions - before;
  return [count(before), before === 0 ? 'new' : `${more >= 0 ? '+' : '−'}${count(Math.abs(more))}`];
}
