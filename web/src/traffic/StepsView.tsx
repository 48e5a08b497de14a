import { Button, NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { type CSSProperties, useState } from 'react';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { count, counted, percent } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Toolbar } from '../parts/Toolbar';
import { useWorkspace } from '../session/useWorkspace';
import { Split } from '../shell/Split';
import { useListState } from '../shell/useListState';
import { Cell, type Column, VirtualList } from '../shell/VirtualList';
import { DIMENSIONS, only, together, whatHolds } from './dimensions';
import { endsAt } from './endsAt';
import { Period } from './Period';
import { RowsEvidence } from './RowsEvidence';
import classes from './Traffic.module.css';
import { Unshown } from './Unshown';

type Row = Schema['TrafficSteps']['rows'][number];
const FILTERS = ['from', 'to', 'source', 'medium', 'campaign', 'channel'];
/** Only rows that say how far their visits went are counted here. */
const COUNTED = { own: 'reached' };

/** How far visits went on the way to a goal, and where those of each campaign end. */
export function StepsView() {
  const { name } = useWorkspace();
  const { list, set } = useListState();
  const down = list.down ?? 'campaign';
  const query = { down, ...only(list, FILTERS) };
  const steps = useQuery(queries.steps(name, query));
  const [opened, setOpened] = useState<Record<string, string>>();
  if (steps.isError) {
    return <Unshown error={steps.error} />;
  }
  if (!steps.data) {
    return <Loading />;
  }
  const { steps: ladder, named, rows, more, totals } = steps.data;
  const columns: Column[] = [
    { name: 'value', label: DIMENSIONS[down] ?? down },
    ...ladder.map((step) => ({ name: step, label: step })),
    { name: 'end', label: 'most end at' },
  ];
  const narrowed = FILTERS.some((filter) => list[filter]);
  if (rows.length === 0 && !narrowed) {
    return <NoSteps name={name} named={named} />;
  }
  const shown: Row[] = [...rows, ...(rows.length > 1 ? [{ value: ALL, came: totals }] : [])];
  return (
    <Split
      evidence={
        opened && (
          <RowsEvidence
            list={together(only(list, FILTERS), opened, COUNTED) ?? opened}
            onClose={() => setOpened(undefined)}
          />
        )
      }
    >
      <Toolbar>
        <NativeSelect
          size="xs"
          aria-label="Visits by"
          value={down}
          onChange={(event) => set({ down: event.currentTarget.value })}
          data={Object.entries(DIMENSIONS).map(([value, label]) => ({ value, label: `by ${label}` }))}
        />
        <Period from={list.from} to={list.to} set={set} />
        <Toolbar.Rest>
          <Button component="a" href={`/api/workspaces/${name}/traffic/steps.csv?${new URLSearchParams(query)}`}>
            CSV
          </Button>
        </Toolbar.Rest>
      </Toolbar>
      <p className={classes.sum}>
        {counted(totals[0] ?? 0, 'visit')} of which access logs say how far they went; {count(totals.at(-1) ?? 0)} came
        to “{ladder.at(-1)}”{more > 0 && `; ${counted(more, 'row')} with the fewest visits are not shown`}
        {!named && '; name steps of your own in the settings, beside the goal pages'}
      </p>
      <div className={classes.turning} style={{ '--cells': ladder.length + 1 } as CSSProperties}>
        <VirtualList
          label="Visits by how far they went"
          rows={shown}
          columns={columns}
          grid={classes.cells}
          keyOf={(row) => row.value}
          cells={(row) => <Cells row={row} ladder={ladder} />}
          index={-1}
          choose={(index) => {
            const row = shown[index];
            if (row && row.value !== ALL) {
              setOpened(whatHolds(down, row.value));
            }
          }}
        />
      </div>
    </Split>
  );
}

/** How many came to each step. ladder: their names. */
function Cells({ row, ladder }: { row: Row; ladder: string[] }) {
  return (
    <>
      <Cell className={classes.value} title={row.value}>
        {row.value || '–'}
      </Cell>
      {row.came.map((visits, step) => (
        <Cell key={ladder[step]} className={classes.number}>
          {count(visits)}
          {step > 0 && row.came[0] ? ` · ${percent(visits / row.came[0])}` : ''}
        </Cell>
      ))}
      <Cell className={classes.number}>{ladder[endsAt(row.came)] ?? '–'}</Cell>
    </>
  );
}

const ALL = 'all together';

function NoSteps({ name, named }: { name: string; named: boolean }) {
  return (
    <EmptyState
      title="No row says how far its visits went."
      hint={
        named
          ? 'Import an access log: its visits are held against the steps that the settings name.'
          : 'Name the steps (form, order, thanks …) in the settings beside the goal pages, then import an access log.'
      }
    >
      <Button
        component={Link}
        to={named ? `/w/${name}/traffic/import?of=logs` : `/w/${name}/settings`}
        variant="filled"
      >
        {named ? 'Import an access log' : 'Name the steps'}
      </Button>
    </EmptyState>
  );
}
