import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import type { CSSProperties } from 'react';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { atMoment, count, counted } from '../parts/format';
import { Toolbar } from '../parts/Toolbar';
import { Weight } from '../parts/Weight';
import { useWorkspace } from '../session/useWorkspace';
import { Split } from '../shell/Split';
import { useChosenRow } from '../shell/useChosenRow';
import { useListState } from '../shell/useListState';
import { nextSort, type Sorts, useSorted, weightRank } from '../shell/useSorted';
import { Cell, type Column, VirtualList } from '../shell/VirtualList';
import { PageEvidence } from './PageEvidence';
import classes from './TagsView.module.css';

type Page = Schema['Page'];

const keyOf = (page: Page) => page.page;

/** The pages as the sealed browser saw them: which tag stood there, and which was heard. */
export function TagsView() {
  const { name } = useWorkspace();
  const pages = useQuery(queries.pages(name));
  const { list: order } = useListState();
  const all = useSorted(pages.data?.pages ?? NONE, SORTS, order.sort, order.direction);
  const { chosen, index, choose, list, set } = useChosenRow(all, keyOf);
  const tags = Object.entries(pages.data?.tags ?? {});
  const others = all.reduce((sum, page) => sum + page.others, 0);
  const unknown = pages.data?.senders ?? 0;

  if (pages.isError) {
    return <Failure error={pages.error} />;
  }
  if (pages.isSuccess && all.length === 0) {
    return (
      <EmptyState
        title="No page has been opened yet."
        hint="A sweep opens each landing page in a sealed browser: what its tags send is read here and reaches nobody."
      />
    );
  }
  const columns: Column[] = [
    { name: 'weight', label: 'Weight', sortable: true },
    { name: 'page', label: 'Page', sortable: true },
    ...tags.map(([tag, label]) => ({ name: tag, label })),
    { name: 'seen', label: 'Seen', sortable: true },
  ];
  return (
    <Split evidence={chosen ? <PageEvidence page={chosen} /> : undefined}>
      <Toolbar>
        {pages.isSuccess && (
          <span>
            {counted(all.length, 'page')}
            {others > 0 && ` (standing for ${count(others)} more)`} in a sealed browser, each watched until quiet for 2
            s (10 s at most)
          </span>
        )}
        <Toolbar.Rest>
          <Link to={`/w/${name}/tags/senders`}>
            {unknown > 0 ? `${counted(unknown, 'sender')} not known` : 'Senders'}
          </Link>
          <Link to={`/w/${name}/tags/not-opened`}>Not opened</Link>
          <Link to={`/w/${name}/tags/recording`}>Judge a recording</Link>
          <Button component="a" href={`/api/workspaces/${name}/pages.csv`}>
            CSV
          </Button>
        </Toolbar.Rest>
      </Toolbar>
      <div className={classes.tagged} style={{ '--tags': tags.length } as CSSProperties}>
        <VirtualList
          loading={pages.isPending}
          label="Pages"
          rows={all}
          columns={columns}
          grid={classes.grid}
          keyOf={keyOf}
          cells={(page) => <Cells page={page} tags={tags.map(([tag]) => tag)} expected={pages.data?.expected ?? []} />}
          index={index}
          choose={choose}
          sort={list.sort}
          direction={list.direction}
          onSort={(column) => set(nextSort(column, list, ['weight', 'seen']))}
        />
      </div>
    </Split>
  );
}

const NONE: Page[] = [];
const SORTS: Sorts<Page> = {
  weight: (page) => weightRank(page.weight),
  page: (page) => page.page,
  seen: (page) => page.visited_at,
};

interface CellsProps {
  page: Page;
  tags: string[];
  expected: string[];
}

function Cells({ page, tags, expected }: CellsProps) {
  return (
    <>
      <Cell>
        <Weight weight={page.weight} />
      </Cell>
      <Cell className={classes.page} title={page.title || page.page}>
        {page.page}
      </Cell>
      {tags.map((tag) => (
        <Cell key={tag} className={classes.tag}>
          {page.reason ? 'not opened' : heard(page.heard[tag], expected.includes(tag))}
        </Cell>
      ))}
      <Cell className={classes.faint}>{atMoment(page.visited_at)}</Cell>
    </>
  );
}

/** What the checks say of a tag stands before how often it was heard. */
function heard(tag: Page['heard'][string] | undefined, expected: boolean) {
  switch (tag?.code) {
    case 'tag/missing':
      return 'missing';
    case 'tag/silent':
      return 'there, but silent';
  }
  if (tag && tag.times > 0) {
    return `heard ${tag.times === 1 ? 'once' : `${tag.times} times`}`;
  }
  return tag?.there ? 'there, not heard' : expected ? 'not judged' : '–';
}
