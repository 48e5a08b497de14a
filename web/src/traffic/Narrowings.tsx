import { Button, Group } from '@mantine/core';
import { DIMENSIONS, type Filter } from './dimensions';
import classes from './Traffic.module.css';

/** What a table is narrowed to, each to be taken away.
 * asked: by name, as the address bar has it. */
export function Narrowings({ asked, set }: { asked: Filter; set: (changes: Record<string, null>) => void }) {
  const names = Object.entries(asked);
  if (names.length === 0) {
    return null;
  }
  return (
    <Group gap={6} className={classes.narrowings}>
      <span>Only</span>
      {names.map(([name, value]) => (
        <Button key={name} variant="light" size="xs" onClick={() => set({ [name]: null })}>
          {said(name, value)} ×
        </Button>
      ))}
    </Group>
  );
}

/** Own dimensions and segments say their name themselves. */
const said = (name: string, value: string) =>
  DIMENSIONS[name] ? `${DIMENSIONS[name]}: ${value}` : value.replace('.', ': ').replace('=', ': ');
