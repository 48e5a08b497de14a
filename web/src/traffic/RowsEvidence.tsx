import { Button, Group } from '@mantine/core';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { Facts } from '../parts/Facts';
import { Failure } from '../parts/Failure';
import { count, counted, money, onDay } from '../parts/format';
import { useWorkspace } from '../session/useWorkspace';
import { useChosenRow } from '../shell/useChosenRow';
import { nextSort } from '../shell/useSorted';
import { Cell, type Column, VirtualList } from '../shell/VirtualList';
import { eachSaid, partsOf } from './dimensions';
import classes from './RowsEvidence.module.css';

type SessionRow = Schema['SessionRow'];

const COLUMNS: Column[] = [
  { name: 'date', label: 'Date', sortable: true },
  { name: 'source', label: 'Source / medium / campaign', sortable: true },
  { name: 'landing', label: 'Landing page', sortable: true },
  { name: 'sessions', label: 'Sessions', sortable: true },
];
const FILTERS = [
  ...['channel', 'cause', 'fix', 'from', 'to', 'source', 'medium', 'campaign', 'content', 'term', 'landing'],
  ...['referrer', 'device', 'country', 'language', 'host', 'visitor', 'click', 'own', 'segment'],
];
const keyOf = (row: SessionRow) => String(row.id);

interface RowsEvidenceProps {
  list: Record<string, string>;
  onClose: () => void;
  /** Narrows what lies beside to these rows, where it can be. */
  onNarrow?: () => void;
  /** Begins the names under which the address bar keeps the order of the rows. @default '' */
  prefix?: string;
}

/** The very session rows that a number counts, with why each is where it is. */
export function RowsEvidence({ list, onClose, onNarrow, prefix = '' }: RowsEvidenceProps) {
  const { name } = useWorkspace();
  const sort = { sort: list[`${prefix}sort`] ?? 'sessions', direction: list[`${prefix}direction`] ?? 'down' };
  const said = JSON.stringify(FILTERS.flatMap((name) => (list[name] ? [[name, list[name]]] : [])));
  const filter: Record<string, string> = useMemo(() => Object.fromEntries(JSON.parse(said)), [said]);
  const { from, to, fix, ...values } = filter;
  const held = Object.entries(values)
    .flatMap(([name, value]) => eachSaid(name, value).map((one) => partsOf(name, one).value))
    .join(' · ');
  const rows = useInfiniteQuery(queries.rows(name, { ...filter, ...sort }));
  const all = useMemo(() => rows.data?.pages.flatMap((page) => page.rows) ?? [], [rows.data]);
  const { hasNextPage, fetchNextPage } = rows;
  const more = useCallback(() => {
    if (hasNextPage) {
      fetchNextPage();
    }
  }, [hasNextPage, fetchNextPage]);
  const { set, index, choose } = useChosenRow(all, keyOf, onClose);
  const chosen = Math.max(index, 0);

  if (rows.isError) {
    return (
      <div className={classes.evidence}>
        <Group justify="flex-end">
          <Button variant="subtle" onClick={onClose}>
            Close
          </Button>
        </Group>
        <Failure error={rows.error} />
      </div>
    );
  }
  const row = all[chosen];
  const first = rows.data?.pages[0];
  return (
    <div className={classes.evidence}>
      <Group justify="space-between" wrap="nowrap">
        <h2>{held || (fix ? 'Sessions of one fix' : 'All session rows')}</h2>
        <Group gap={6} wrap="nowrap">
          {onNarrow && <Button onClick={onNarrow}>Only these</Button>}
          <Button component="a" href={`/api/workspaces/${name}/traffic/rows.csv?${new URLSearchParams(filter)}`}>
            Export CSV
          </Button>
          <Button variant="subtle" onClick={onClose}>
            Close
          </Button>
        </Group>
      </Group>
      <p className={classes.sum}>
        {first ? `${counted(first.sessions, 'session')} in ${counted(first.total, 'row')}${days(from, to)}` : ''}
      </p>
      {row && <Reasons row={row} />}
      <div className={classes.rows}>
        <VirtualList
          loading={rows.isPending}
          label="Session rows"
          rows={all}
          columns={COLUMNS}
          grid={classes.grid}
          keyOf={keyOf}
          cells={(one) => <Cells row={one} />}
          index={chosen}
          choose={choose}
          sort={sort.sort}
          direction={sort.direction}
          onSort={(column) => {
            const next = nextSort(column, sort, ['date', 'sessions']);
            set({ [`${prefix}sort`]: next.sort, [`${prefix}direction`]: next.direction });
          }}
          onEnd={more}
        />
      </div>
    </div>
  );
}

function days(from: string | undefined, to: string | undefined) {
  if (from && from === to) {
    return ` on ${onDay(from)}`;
  }
  return [from ? ` from ${onDay(from)}` : '', to ? ` to ${onDay(to)}` : ''].join('');
}

/** Why a row is where it is. */
function Reasons({ row }: { row: SessionRow }) {
  const { name, currency } = useWorkspace();
  return (
    <div className={classes.reasons}>
      {row.causes.map((one) => (
        <p key={one.code + one.message}>
          {one.message}{' '}
          {one.links.slice(0, 3).map((link) => (
            <Link key={link} to={`/w/${name}/links?chosen=${link}`}>
              link {link}{' '}
            </Link>
          ))}
        </p>
      ))}
      <Facts
        facts={[
          ['channel', `${row.channel}: ${row.because}`],
          ['nearest', row.nearest],
          ['belongs to', row.rightful_channel],
          ['referrer', row.referrer],
          ['conversions', row.conversions ? `${count(row.conversions)}, ${money(row.revenue, currency)}` : ''],
        ]}
      />
    </div>
  );
}

function Cells({ row }: { row: SessionRow }) {
  return (
    <>
      <Cell>{onDay(row.date)}</Cell>
      <Cell className={classes.mono} title={`${row.source} / ${row.medium} / ${row.campaign}`}>
        {[row.source, row.medium, row.campaign].map((value) => value || '–').join(' / ')}
      </Cell>
      <Cell className={classes.mono}>{row.landing}</Cell>
      <Cell className={classes.number}>{count(row.sessions)}</Cell>
    </>
  );
}
