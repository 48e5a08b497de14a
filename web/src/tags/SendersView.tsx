import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { atMoment, count, counted } from '../parts/format';
import { Toolbar } from '../parts/Toolbar';
import { useWorkspace } from '../session/useWorkspace';
import { Split } from '../shell/Split';
import { useChosenRow } from '../shell/useChosenRow';
import { useListState } from '../shell/useListState';
import { nextSort, type Sorts, useSorted } from '../shell/useSorted';
import { Cell, type Column, VirtualList } from '../shell/VirtualList';
import { SenderEvidence } from './SenderEvidence';
import classes from './TagsView.module.css';

type Sender = Schema['Sender'];

const NONE: Sender[] = [];
const keyOf = (sender: Sender) => String(sender.id);
const COLUMNS: Column[] = [
  { name: 'decision', label: 'Who it is', sortable: true },
  { name: 'host', label: 'Host', sortable: true },
  { name: 'ways', label: 'Sent as' },
  { name: 'times', label: 'Times', sortable: true },
  { name: 'seen', label: 'Last seen', sortable: true },
];
const SORTS: Sorts<Sender> = {
  decision: (sender) => sender.decision,
  host: (sender) => sender.host,
  times: (sender) => sender.times,
  seen: (sender) => sender.seen_at,
};

/** Everybody else to whom pages want to send something: it is held until a person says who that is. */
export function SendersView() {
  const { name } = useWorkspace();
  const senders = useQuery(queries.senders(name));
  const { list: order } = useListState();
  const all = useSorted(senders.data?.senders ?? NONE, SORTS, order.sort, order.direction);
  const { chosen, index, choose, list, set } = useChosenRow(all, keyOf);
  if (senders.isError) {
    return <Failure error={senders.error} />;
  }
  if (senders.isSuccess && all.length === 0) {
    return (
      <EmptyState
        title="Pages have sent nothing to others."
        hint="In a sweep, whatever a page sends to a host that is neither your own nor described as a tag is held here, and named on this page."
      />
    );
  }
  const shown = all.find((sender) => keyOf(sender) === chosen);
  return (
    <Split
      evidence={shown ? <SenderEvidence key={shown.id} sender={shown} tags={senders.data?.tags ?? {}} /> : undefined}
    >
      <Toolbar>
        {senders.isSuccess && (
          <span>
            {count(all.filter((one) => one.decision === '').length)} of {counted(all.length, 'sender')} not known. What
            was sent to them is held: it reaches nobody.
          </span>
        )}
        <Toolbar.Rest>
          <Button component="a" href={`/api/workspaces/${name}/senders.csv`}>
            CSV
          </Button>
        </Toolbar.Rest>
      </Toolbar>
      <VirtualList
        loading={senders.isPending}
        label="Senders"
        rows={all}
        columns={COLUMNS}
        grid={classes.senders}
        keyOf={keyOf}
        cells={(sender) => <Cells sender={sender} tags={senders.data?.tags ?? {}} />}
        index={index}
        choose={choose}
        sort={list.sort}
        direction={list.direction}
        onSort={(column) => set(nextSort(column, list, ['times', 'seen']))}
      />
    </Split>
  );
}

function Cells({ sender, tags }: { sender: Sender; tags: Record<string, string> }) {
  return (
    <>
      <Cell>{decided(sender, tags)}</Cell>
      <Cell className={classes.page} title={sender.example}>
        {sender.host}
      </Cell>
      <Cell>{sender.ways.join(', ')}</Cell>
      <Cell className={classes.number}>{count(sender.times)}</Cell>
      <Cell className={classes.faint}>{atMoment(sender.seen_at)}</Cell>
    </>
  );
}

/** What a person has said of a sender, in words. */
export function decided(sender: Sender, tags: Record<string, string>) {
  switch (sender.decision) {
    case 'tag':
      return `tag: ${tags[sender.tag ?? ''] ?? sender.tag}`;
    case 'through':
      return 'let through';
    case 'held':
      return 'stays held';
    default:
      return 'not known';
  }
}
