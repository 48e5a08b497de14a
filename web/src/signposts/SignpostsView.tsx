import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { count, counted, onDay } from '../parts/format';
import { Toolbar } from '../parts/Toolbar';
import { May } from '../session/May';
import { useWorkspace } from '../session/useWorkspace';
import { Split } from '../shell/Split';
import { useChosenRow } from '../shell/useChosenRow';
import { nextSort, type Sorts, useSorted } from '../shell/useSorted';
import { Cell, type Column, VirtualList } from '../shell/VirtualList';
import { SignpostEvidence } from './SignpostEvidence';
import { SignpostForm } from './SignpostForm';
import classes from './Signposts.module.css';

type Signpost = Schema['Signpost'];

const COLUMNS: Column[] = [
  { name: 'address', label: 'Signpost', sortable: true },
  { name: 'target', label: 'Leads to', sortable: true },
  { name: 'passes', label: 'Passes', sortable: true },
  { name: 'first', label: 'Visitors', sortable: true },
  { name: 'bots', label: 'Bots', sortable: true },
  { name: 'ends', label: 'Until', sortable: true },
];

const SORTS: Sorts<Signpost> = {
  address: (post) => post.address,
  target: (post) => post.target,
  passes: (post) => post.counts.passes,
  first: (post) => post.counts.first,
  bots: (post) => post.counts.bots,
  ends: (post) => post.ends ?? '9999',
};

/** Friendly paths and short codes that lead to full links, and who passed. */
export function SignpostsView() {
  const { name } = useWorkspace();
  const signposts = useQuery(queries.signposts(name));
  const all = signposts.data?.signposts ?? [];
  const search = new URLSearchParams(window.location.search);
  const rows = useSorted(all, SORTS, search.get('sort') ?? undefined, search.get('direction') ?? undefined);
  const { chosen, list, set, index, choose } = useChosenRow(rows, (row) => String(row.id));
  if (signposts.isError) {
    return <Failure error={signposts.error} />;
  }
  const making = chosen === 'new';
  const evidence = making ? (
    <SignpostForm hosts={signposts.data?.hosts ?? []} onDone={(made) => set({ chosen: String(made.id) })} />
  ) : chosen ? (
    <SignpostEvidence key={chosen} id={Number(chosen)} server={signposts.data?.server ?? ''} />
  ) : undefined;
  return (
    <Split evidence={evidence}>
      <Toolbar>
        <May least="editor">
          <Button variant="filled" onClick={() => set({ chosen: 'new' })}>
            Put up a signpost …
          </Button>
        </May>
        <Button component="a" href={`/api/workspaces/${name}/signposts/passes.csv`} download>
          Passes as CSV
        </Button>
        <Toolbar.Rest>{signposts.isSuccess && counted(all.length, 'signpost')}</Toolbar.Rest>
      </Toolbar>
      {signposts.isSuccess && all.length === 0 ? (
        <EmptyState
          title="No signposts yet."
          hint="A signpost is a path that people can type or scan. It leads to a full link, can be turned to another at any time, and counts who passes."
        />
      ) : (
        <VirtualList
          loading={signposts.isPending}
          label="Signposts"
          rows={rows}
          columns={COLUMNS}
          grid={classes.grid}
          keyOf={(row) => String(row.id)}
          cells={(row) => <Cells post={row} />}
          index={index}
          choose={choose}
          sort={list.sort}
          direction={list.direction}
          onSort={(column) => set(nextSort(column, list, ['passes', 'first', 'bots']))}
        />
      )}
    </Split>
  );
}

function Cells({ post }: { post: Signpost }) {
  return (
    <>
      <Cell className={classes.mono} title={post.address}>
        {post.host}
        {post.path}
      </Cell>
      <Cell className={classes.mono} data-column="target" title={post.target}>
        {post.target.replace(/^https?:\/\//, '')}
      </Cell>
      <Cell className={classes.number} data-column="passes">
        {count(post.counts.passes)}
      </Cell>
      <Cell className={classes.number} data-column="first">
        {count(post.counts.first)}
      </Cell>
      <Cell className={classes.number} data-column="bots">
        {count(post.counts.bots)}
      </Cell>
      <Cell data-column="ends">{post.ended ? 'ended' : post.ends ? onDay(post.ends) : ''}</Cell>
    </>
  );
}
