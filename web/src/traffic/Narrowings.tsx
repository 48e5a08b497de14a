import { Button, Group } from '@mantine/core';
import { DIMENSIONS, eachSaid, type Filter } from './dimensions';
import classes from './Traffic.module.css';

/** What a table is narrowed to, each to be taken away.
 * asked: by name, as the address bar has it. */
export function Narrowings({ asked, set }: { asked: Filter; set: (changes: Record<string, string | null>) => void }) {
  const each = Object.entries(asked).flatMap(([name, value]) =>
    eachSaid(name, value).map((one, _, all) => ({ name, one, others: all.filter((other) => other !== one) })),
  );
  if (each.length === 0) {
    return null;
  }
  return (
    <Group gap={6} className={classes.narrowings}>
      <span>Only</span>
      {each.map(({ name, one, others }) => (
        <Button
          key={`${name} ${one}`}
          variant="light"
          size="xs"
          onClick={() => set({ [name]: others.join('\n') || null })}
        >
          {said(name, one)} ×
        </Button>
      ))}
    </Group>
  );
}

/** Own dimensions and segments say their name themselves. */
const said = (name: string, value: string) =>
  DIMENSIONS[name] ? `${DIMENSIONS[name]}: ${value}` : value.replace('.', ': ').replace('=', ': ');
