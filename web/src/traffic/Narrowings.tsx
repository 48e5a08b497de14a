import { Button, Group } from '@mantine/core';
import { eachSaid, type Filter, partsOf } from './dimensions';
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

const said = (name: string, one: string) => {
  const { of, value } = partsOf(name, one);
  return `${of}: ${value}`;
};
