import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { queries } from '../api/queries';
import type { operations } from '../api/schema';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { counted } from '../parts/format';
import { Toolbar } from '../parts/Toolbar';
import { useWorkspace } from '../session/useWorkspace';
import { useChosenRow } from '../shell/useChosenRow';
import { useListState } from '../shell/useListState';
import { nextSort, type Sorts, useSorted } from '../shell/useSorted';
import { Cell, type Column, VirtualList } from '../shell/VirtualList';
import classes from './TagsView.module.css';

type Page = operations['listUnopenedPages']['responses']['200']['content']['application/json']['pages'][number];

const NONE: Page[] = [];
const keyOf = (page: Page) => page.page;
const COLUMNS: Column[] = [
  { name: 'page', label: 'Page', sortable: true },
  { name: 'tags', label: 'In its markup' },
  { name: 'lacking', label: 'Expected, and not there', sortable: true },
];
const SORTS: Sorts<Page> = {
  page: (page) => page.page,
  lacking: (page) => page.lacking.length,
};

/** Own pages that were read and never opened: what stands in their markup says less than what is heard, and more than nothing. */
export function UnopenedView() {
  const { name } = useWorkspace();
  const unopened = useQuery(queries.unopened(name));
  const { list: order } = useListState();
  const all = useSorted(unopened.data?.pages ?? NONE, SORTS, order.sort ?? 'lacking', order.direction ?? 'down');
  const { index, choose, list, set } = useChosenRow(all, keyOf);
  if (unopened.isError) {
    return <Failure error={unopened.error} />;
  }
  if (unopened.isSuccess && all.length === 0) {
    return (
      <EmptyState
        title={
          unopened.data.read === 0
            ? 'No page of your own site was read yet.'
            : 'Every page that was read was opened too.'
        }
        hint="A crawl of the site reads the markup of its pages; a sweep opens those that links land on, goal pages, and one of each group."
      >
        <Button component={Link} to={`/w/${name}/links/import`}>
          Crawl the site
        </Button>
      </EmptyState>
    );
  }
  const { read = 0, opened = 0, brought = [], names = {} } = unopened.data ?? {};
  const named = (tags: string[]) => tags.map((tag) => names[tag] ?? tag).join(', ');
  return (
    <section className={classes.unopened} aria-label="List">
      <Toolbar>
        {unopened.isSuccess && (
          <span>
            {counted(all.length, 'page')} of {read} that were read, and not opened; {counted(opened, 'page')} were
            opened.
            {brought.length > 0 && ` ${named(brought)} can come by a loader, so that markup does not tell.`}
          </span>
        )}
        <Toolbar.Rest>
          <Button component="a" href={`/api/workspaces/${name}/pages/unopened.csv`}>
            CSV
          </Button>
        </Toolbar.Rest>
      </Toolbar>
      <VirtualList
        loading={unopened.isPending}
        label="Pages not opened"
        rows={all}
        columns={COLUMNS}
        grid={classes.markup}
        keyOf={keyOf}
        cells={(page) => (
          <>
            <Cell className={classes.page} title={page.title || page.page}>
              {page.page}
            </Cell>
            <Cell>{named(page.tags) || 'none'}</Cell>
            <Cell>{named(page.lacking)}</Cell>
          </>
        )}
        index={index}
        choose={choose}
        sort={list.sort ?? 'lacking'}
        direction={list.direction ?? 'down'}
        onSort={(column) => set(nextSort(column, list, ['lacking']))}
      />
    </section>
  );
}
