import { Button, Group, TextInput } from '@mantine/core';
import classes from './Period.module.css';

interface PeriodProps {
  from: string | undefined;
  to: string | undefined;
  /** The last day that there is; short periods end there. */
  last?: string | null | undefined;
  set: (changes: Record<string, string | null>) => void;
}

const back = (last: string, days: number) =>
  new Date(Date.parse(`${last}T00:00:00Z`) - (days - 1) * 86_400_000).toISOString().slice(0, 10);

/** Which days are looked at: kept in the address bar, so that a link shows the same. */
export function Period({ from, to, last, set }: PeriodProps) {
  return (
    <Group gap={6} wrap="nowrap" className={classes.period}>
      <TextInput
        type="date"
        size="xs"
        aria-label="From"
        value={from ?? ''}
        onChange={(event) => set({ from: event.currentTarget.value || null })}
      />
      <span>to</span>
      <TextInput
        type="date"
        size="xs"
        aria-label="To"
        value={to ?? ''}
        onChange={(event) => set({ to: event.currentTarget.value || null })}
      />
      {last &&
        [7, 28].map((days) => (
          <Button key={days} variant="subtle" onClick={() => set({ from: back(last, days), to: last })}>
            last {days} days
          </Button>
        ))}
      {(from || to) && (
        <Button variant="subtle" onClick={() => set({ from: null, to: null })}>
          all days
        </Button>
      )}
    </Group>
  );
}
