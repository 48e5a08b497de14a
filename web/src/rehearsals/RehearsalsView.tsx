import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { atMoment, counted } from '../parts/format';
import { Toolbar } from '../parts/Toolbar';
import { Weight } from '../parts/Weight';
import { May } from '../session/May';
import { useWorkspace } from '../session/useWorkspace';
import { Split } from '../shell/Split';
import { useChosenRow } from '../shell/useChosenRow';
import { useListState } from '../shell/useListState';
import { nextSort, type Sorts, useSorted, weightRank } from '../shell/useSorted';
import { Cell, type Column, VirtualList } from '../shell/VirtualList';
import { RehearsalEvidence } from './RehearsalEvidence';
import classes from './RehearsalsView.module.css';

type Rehearsal = Schema['Rehearsal'];

const NONE: Rehearsal[] = [];
const keyOf = (rehearsal: Rehearsal) => rehearsal.name;
const SORTS: Sorts<Rehearsal> = {
  weight: (rehearsal) => weightRank(rehearsal.weight),
  title: (rehearsal) => rehearsal.title,
  played: (rehearsal) => rehearsal.played_at ?? '',
};
const COLUMNS: Column[] = [
  { name: 'weight', label: 'Weight', sortable: true },
  { name: 'title', label: 'Rehearsal', sortable: true },
  { name: 'result', label: 'Result' },
  { name: 'played', label: 'Played', sortable: true },
];

/** Conversions gone through without clicking a paid ad or sending anything to anybody. */
export function RehearsalsView() {
  const { name } = useWorkspace();
  const rehearsals = useQuery(queries.rehearsals(name));
  const { list: order } = useListState();
  const all = useSorted(rehearsals.data?.rehearsals ?? NONE, SORTS, order.sort, order.direction);
  const { chosen, index, choose, list, set } = useChosenRow(all, keyOf);

  if (rehearsals.isError) {
    return <Failure error={rehearsals.error} />;
  }
  if (rehearsals.isSuccess && all.length === 0) {
    return (
      <EmptyState
        title="No rehearsals yet."
        hint="A rehearsal plays what a visitor does from a link to a conversion, without clicking a paid ad, and listens for the signals."
      >
        <May least="owner">
          <Button component={Link} to={`/w/${name}/rehearsals/record`} variant="filled">
            Record one
          </Button>
        </May>
      </EmptyState>
    );
  }
  return (
    <Split evidence={chosen ? <RehearsalEvidence name={chosen} /> : undefined}>
      <Toolbar>
        {rehearsals.isSuccess && <span>{counted(all.length, 'rehearsal')}, played with every sweep</span>}
        <Toolbar.Rest>
          <May least="owner">
            <Button component={Link} to={`/w/${name}/rehearsals/record`}>
              Record one
            </Button>
          </May>
          <Button component="a" href={`/api/workspaces/${name}/rehearsals.csv`}>
            CSV
          </Button>
        </Toolbar.Rest>
      </Toolbar>
      <VirtualList
        loading={rehearsals.isPending}
        label="Rehearsals"
        rows={all}
        columns={COLUMNS}
        grid={classes.grid}
        keyOf={keyOf}
        cells={(rehearsal) => <Cells rehearsal={rehearsal} />}
        index={index}
        choose={choose}
        sort={list.sort}
        direction={list.direction}
        onSort={(column) => set(nextSort(column, list, ['weight', 'played']))}
      />
    </Split>
  );
}

function Cells({ rehearsal }: { rehearsal: Rehearsal }) {
  return (
    <>
      <Cell>
        <Weight weight={rehearsal.weight} />
      </Cell>
      <Cell title={rehearsal.about}>{rehearsal.title}</Cell>
      <Cell className={classes.faint}>{result(rehearsal)}</Cell>
      <Cell className={classes.faint}>{atMoment(rehearsal.played_at)}</Cell>
    </>
  );
}

function result({ played_at, codes }: Rehearsal) {
  if (!played_at) {
    return 'not played yet';
  }
  return codes.length === 0 ? 'as expected' : codes.map((code) => code.replace('journey/', '')).join(', ');
}
