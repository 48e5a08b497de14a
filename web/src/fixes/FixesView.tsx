import '@mantine/core/styles/FloatingIndicator.css';
import '@mantine/core/styles/SegmentedControl.css';
import { Button, SegmentedControl } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { Explained } from '../parts/Explained';
import { Failure } from '../parts/Failure';
import { count, counted, money } from '../parts/format';
import { Toolbar } from '../parts/Toolbar';
import { Weight } from '../parts/Weight';
import { useWorkspace } from '../session/useWorkspace';
import { Split } from '../shell/Split';
import { useChosenRow } from '../shell/useChosenRow';
import { useListState } from '../shell/useListState';
import { nextSort, type Sorts, useSorted, weightRank } from '../shell/useSorted';
import { Cell, type Column, VirtualList } from '../shell/VirtualList';
import { FixEvidence } from './FixEvidence';
import classes from './FixesView.module.css';
import { FixFilters } from './FixFilters';
import { FACETS, type Facet, fits, isToDo } from './filters';
import { GroupSums } from './GroupSums';

type Fix = Schema['Fix'];

const NONE: Fix[] = [];
const keyOf = (fix: Fix) => String(fix.id);
const COLUMNS: Column[] = [
  { name: 'weight', label: 'Weight', sortable: true },
  { name: 'sessions', label: 'Wins back', sortable: true },
  { name: 'revenue', label: 'Revenue', sortable: true },
  { name: 'action', label: 'What to do', sortable: true },
  { name: 'where', label: 'Where', sortable: true },
  { name: 'owner', label: 'Whose links', sortable: true },
  { name: 'state', label: 'State', sortable: true },
];

const SORTS: Sorts<Fix> = {
  weight: (fix) => weightRank(fix.weight),
  sessions: (fix) => fix.sessions,
  revenue: (fix) => fix.revenue,
  action: (fix) => fix.action,
  where: (fix) => fix.where,
  owner: (fix) => fix.owner,
  state: (fix) => fix.state,
};

/** The work that follows, in order of what it wins back. */
export function FixesView() {
  const { name, currency, explained } = useWorkspace();
  const fixes = useQuery(queries.fixes(name));
  const { list: filters } = useListState();
  const fitting = useMemo(() => (fixes.data?.fixes ?? NONE).filter((fix) => fits(fix, filters)), [fixes.data, filters]);
  const shown = useSorted(fitting, SORTS, filters.sort, filters.direction);
  const { chosen, list, set, index, choose } = useChosenRow(shown, keyOf);

  if (fixes.isError) {
    return <Failure error={fixes.error} />;
  }
  if (fixes.isSuccess && fixes.data.fixes.length === 0) {
    return (
      <EmptyState
        title="No fixes yet."
        hint="They follow from a sweep and from traffic: sweep the links, and import session rows."
      />
    );
  }
  const sessions = shown.reduce((sum, fix) => sum + (isToDo(fix) ? fix.sessions : 0), 0);
  return (
    <Split evidence={chosen ? <FixEvidence id={Number(chosen)} /> : undefined}>
      <Toolbar>
        <SegmentedControl
          size="xs"
          aria-label="Which fixes"
          value={list.show ?? 'todo'}
          onChange={(show) => set({ show: show === 'todo' ? null : show, chosen: null })}
          data={[
            { value: 'todo', label: 'To do' },
            { value: 'proven', label: 'Proven' },
            { value: 'rest', label: 'Neither' },
            { value: 'all', label: 'All' },
          ]}
        />
        <FixFilters fixes={fixes.data?.fixes ?? NONE} list={list} set={set} />
        {list.only && <Button onClick={() => set({ only: null })}>Of one cause only ×</Button>}
        <Toolbar.Rest>
          <Explained explained={explained} />
          {fixes.isSuccess && (
            <span>
              {counted(shown.length, 'fix', 'fixes')}, {counted(sessions, 'session')} to win back
            </span>
          )}
          <Button component="a" href={`/api/workspaces/${name}/fixes.csv`}>
            CSV
          </Button>
        </Toolbar.Rest>
      </Toolbar>
      {list.by && list.by in FACETS && (
        <GroupSums
          fixes={shown}
          by={list.by as Facet}
          currency={currency}
          choose={(value) => set({ [String(list.by)]: value, by: null, chosen: null })}
        />
      )}
      <VirtualList
        loading={fixes.isPending}
        label="Fixes"
        rows={shown}
        columns={COLUMNS}
        grid={classes.grid}
        keyOf={keyOf}
        cells={(fix) => <Cells fix={fix} currency={currency} />}
        index={index}
        choose={choose}
        sort={list.sort}
        direction={list.direction}
        onSort={(column) => set(nextSort(column, list, ['weight', 'sessions', 'revenue']))}
      />
    </Split>
  );
}

function Cells({ fix, currency }: { fix: Fix; currency: string }) {
  return (
    <>
      <Cell>
        <Weight weight={fix.weight} />
      </Cell>
      <Cell className={classes.number}>
        {fix.sessions
          ? counted(fix.sessions, 'session')
          : fix.shared_sessions
            ? `up to ${count(fix.shared_sessions)}`
            : '–'}
      </Cell>
      <Cell className={classes.number} data-column="revenue">
        {fix.revenue ? money(fix.revenue, currency) : ''}
      </Cell>
      <Cell title={fix.action}>{fix.action}</Cell>
      <Cell className={classes.faint} title={fix.where} data-column="where">
        {fix.where}
      </Cell>
      <Cell className={classes.faint} data-column="owner">
        {fix.owner}
      </Cell>
      <Cell data-column="state" data-state={fix.state}>
        {fix.state.replaceAll('_', ' ')}
      </Cell>
    </>
  );
}
