import { Button, Group } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { acts } from '../api/acts';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { onDay } from '../parts/format';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Convention.module.css';

/** Values that somebody needs for this role: taken into the draft, or declined. */
export function ProposedValues({ role, take }: { role: string; take: (value: string) => void }) {
  const { name } = useWorkspace();
  const proposed = useQuery(queries.proposed(name));
  const settle = useAct(name, ({ id, state }: { id: number; state: 'taken' | 'declined' }) =>
    acts.settleProposed(name, id, state),
  );
  const open = proposed.data?.proposed.filter((one) => one.role === role && one.state === 'open') ?? [];
  return open.map((one) => (
    <Group key={one.id} gap={8} mb={4}>
      <span>
        <code className={classes.code}>{one.value}</code> is asked for
        {one.author && ` by ${one.author}`}, {onDay(one.created_at)}
        {one.reason && `: ${one.reason}`}
      </span>
      <Button
        onClick={() => {
          take(one.value);
          settle.mutate({ id: one.id, state: 'taken' });
        }}
      >
        Take “{one.value}” into the vocabulary
      </Button>
      <Button onClick={() => settle.mutate({ id: one.id, state: 'declined' })}>Decline</Button>
    </Group>
  ));
}
