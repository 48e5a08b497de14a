import { Button, Group } from '@mantine/core';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { useAct } from '../api/useAct';
import { counted } from '../parts/format';
import { May } from '../session/May';
import classes from './ClickHosts.module.css';

interface ClickHostsProps {
  /** The name of the workspace. */
  name: string;
  /** Hosts in click addresses of ads of which nobody has said whether they charge. */
  hosts: Schema['ClickHost'][];
  /** What else is to be read anew once one is decided. */
  onDecided?: () => void;
}

/** Asks once of each host in click addresses whether it charges; until then nothing is asked of it. */
export function ClickHosts({ name, hosts, onDecided }: ClickHostsProps) {
  const decide = useAct(name, (wish: { host: string; charges: boolean }) => acts.decideClickHost(name, wish));
  if (hosts.length === 0) {
    return null;
  }
  const say = (host: string, charges: boolean) => decide.mutate({ host, charges }, { onSuccess: onDecided });
  return (
    <section className={classes.clickHosts} aria-label="Hosts that may charge for clicks">
      <p>
        {hosts.length === 1 ? 'This host stands' : `These ${hosts.length} hosts stand`} in click addresses of ads and
        may charge for each click. Nothing is asked there until you say.
      </p>
      {hosts.map((one) => (
        <div key={one.host} className={classes.clickHost}>
          <b>{one.host}</b>
          <span>{whereItStands(one)}</span>
          {one.example && <code title={one.example}>{one.example}</code>}
          <May least="owner">
            <Group gap={6} mt={4}>
              <Button disabled={decide.isPending} onClick={() => say(one.host, true)}>
                Charges for clicks: never ask
              </Button>
              <Button disabled={decide.isPending} onClick={() => say(one.host, false)}>
                Does not charge: follow
              </Button>
            </Group>
          </May>
        </div>
      ))}
    </section>
  );
}

function whereItStands(one: Schema['ClickHost']) {
  return [`${one.part} of ${one.place || one.network || 'an ad'}`, one.links > 0 && counted(one.links, 'link')]
    .filter(Boolean)
    .join(', ');
}
