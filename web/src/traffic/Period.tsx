import { Button, Group, Menu, TextInput } from '@mantine/core';
import { useLocalStorage } from '@mantine/hooks';
import { useState } from 'react';
import { onDay } from '../parts/format';
import { useWorkspace } from '../session/useWorkspace';
import { DayRange } from './DayRange';
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
      <DayRange
        from={from}
        to={to}
        labels={['From', 'To']}
        change={(first, end) => set({ from: first || null, to: end || null })}
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
      <NamedPeriods from={from} to={to} set={set} />
    </Group>
  );
}

interface Named {
  name: string;
  from: string | null;
  to: string | null;
}

/** Periods that a person has named: kept in their browser, by workspace. */
function NamedPeriods({ from, to, set }: Pick<PeriodProps, 'from' | 'to' | 'set'>) {
  const { name: workspace } = useWorkspace();
  const [periods, setPeriods] = useLocalStorage<Named[]>({ key: `periods ${workspace}`, defaultValue: [] });
  const [name, setName] = useState('');
  const keep = () => {
    const made = { name: name.trim(), from: from ?? null, to: to ?? null };
    setPeriods([...periods.filter((one) => one.name !== made.name), made]);
    setName('');
  };
  if (periods.length === 0 && !from && !to) {
    return null;
  }
  return (
    <Menu trapFocus>
      <Menu.Target>
        <Button variant="subtle">named periods</Button>
      </Menu.Target>
      <Menu.Dropdown>
        {periods.map((one) => (
          <Group key={one.name} gap={0} wrap="nowrap">
            <Menu.Item onClick={() => set({ from: one.from, to: one.to })}>
              {one.name}{' '}
              <span className={classes.days}>{[one.from, one.to].map((day) => onDay(day)).join(' to ')}</span>
            </Menu.Item>
            <Button
              variant="subtle"
              aria-label={`Forget ${one.name}`}
              onClick={() => setPeriods(periods.filter((other) => other !== one))}
            >
              ×
            </Button>
          </Group>
        ))}
        {(from || to) && (
          <form
            className={classes.naming}
            onSubmit={(event) => {
              event.preventDefault();
              keep();
            }}
          >
            <TextInput
              size="xs"
              aria-label="Name these days"
              placeholder="Name these days"
              value={name}
              onChange={(event) => setName(event.currentTarget.value)}
            />
            <Button type="submit" disabled={!name.trim()}>
              Keep
            </Button>
          </form>
        )}
      </Menu.Dropdown>
    </Menu>
  );
}
