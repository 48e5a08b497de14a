import { Button } from '@mantine/core';
import { useInfiniteQuery } from '@tanstack/react-query';
import { lazy, useCallback, useMemo } from 'react';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { AddressLine } from '../parts/Address';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { Fetched } from '../parts/Fetched';
import { money } from '../parts/format';
import { Weight } from '../parts/Weight';
import { useWorkspace } from '../session/useWorkspace';
import { Split } from '../shell/Split';
import { useListKeys } from '../shell/useListKeys';
import { useListState } from '../shell/useListState';
import { nextSort } from '../shell/useSorted';
import { Cell, type Column, VirtualList } from '../shell/VirtualList';
import { LinkFilters } from './LinkFilters';
import classes from './LinksView.module.css';

const LinkEvidence = lazy(() => import('./LinkEvidence').then((part) => ({ default: part.LinkEvidence })));

type LinkRow = Schema['Link'];

const COLUMNS: Column[] = [
  { name: 'weight', label: 'Weight', sortable: true },
  { name: 'address', label: 'Address', sortable: true },
  { name: 'wrong', label: 'What is wrong' },
  { name: 'place', label: 'Found', sortable: true },
  { name: 'owner', label: 'Owner', sortable: true },
  { name: 'spend', label: 'Spend', sortable: true },
  { name: 'outcome', label: 'Outcome', sortable: true },
];

/** The inventory: every link once, with what the last sweep found on it. */
export function LinksView() {
  const { name, stops, currency } = useWorkspace();
  const { chosen, list, set } = useListState();
  const links = useInfiniteQuery(queries.links(name, list));
  const rows = useMemo(() => links.data?.pages.flatMap((page) => page.links) ?? [], [links.data]);
  const index = rows.findIndex((row) => String(row.id) === chosen);
  const choose = useCallback((at: number) => set({ chosen: String(rows[at]?.id ?? '') }), [rows, set]);
  const leave = useCallback(() => set({ chosen: null }), [set]);
  useListKeys({ rows: rows.length, index, choose, leave });

  const { hasNextPage, isFetchingNextPage, fetchNextPage } = links;
  const more = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) {
      fetchNextPage();
    }
  }, [hasNextPage, isFetchingNextPage, fetchNextPage]);

  if (stops.links.total === 0) {
    return (
      <EmptyState
        title="No links yet."
        hint="Begin with a list of the addresses that are live: ads, messages, pages, printed codes."
      >
        <Button component={Link} to="import" variant="filled">
          Import links
        </Button>
      </EmptyState>
    );
  }
  return (
    <Split
      evidence={
        chosen ? (
          <Fetched at={chosen}>
            <LinkEvidence id={Number(chosen)} />
          </Fetched>
        ) : undefined
      }
    >
      <LinkFilters list={list} set={set} total={links.data?.pages[0]?.total} />
      {links.isError ? (
        <Failure error={links.error} />
      ) : (
        <VirtualList
          loading={links.isPending}
          label="Links"
          rows={rows}
          columns={COLUMNS}
          grid={classes.grid}
          keyOf={(row) => String(row.id)}
          cells={(row) => <Cells row={row} currency={currency} />}
          index={index}
          choose={choose}
          sort={list.sort}
          direction={list.direction}
          onSort={(column) => set(nextSort(column, list, ['weight', 'spend']))}
          onEnd={more}
        />
      )}
      {links.isSuccess && rows.length === 0 && (
        <EmptyState title="No link fits these filters." hint="Take one away.">
          <Button onClick={() => set(Object.fromEntries(Object.keys(list).map((key) => [key, null])))}>
            Show all links
          </Button>
        </EmptyState>
      )}
    </Split>
  );
}

function Cells({ row, currency }: { row: LinkRow; currency: string }) {
  return (
    <>
      <Cell>
        <Weight weight={row.weight} />
        {row.findings > 1 && <span className={classes.count}> {row.findings}</span>}
      </Cell>
      <Cell title={row.address}>
        <AddressLine parts={row.parts.filter((part) => part.part !== 'scheme')} />
      </Cell>
      <Cell title={row.heaviest} data-column="wrong">
        {row.heaviest}
      </Cell>
      <Cell title={row.place} data-column="place">
        {row.place || row.kind}
      </Cell>
      <Cell data-column="owner">{row.owner}</Cell>
      <Cell data-column="spend" className={classes.number}>
        {row.spend ? money(row.spend, currency) : ''}
      </Cell>
      <Cell data-column="outcome" data-outcome={row.outcome}>
        {row.status || row.outcome.replace('_', ' ') || 'not swept'}
        {!row.status && row.look === 'nobody' && (
          <span title="Something on its way can run, and no browser has looked yet"> ?</span>
        )}
      </Cell>
    </>
  );
}
