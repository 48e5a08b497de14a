import { Button, TextInput } from '@mantine/core';
import type { Schema } from '../api/client';
import { Section } from '../parts/Section';
import classes from './Workspaces.module.css';

/** A network as it is typed: its key is told once and never comes back. */
export type NetworkDraft = Schema['Settings']['networks'][number] & { key?: string };

interface NetworksProps {
  networks: NetworkDraft[];
  write: (changes: { networks: NetworkDraft[] }) => void;
}

/** The interfaces from which ads are read. */
export function Networks({ networks, write }: NetworksProps) {
  const put = (index: number, changes: Partial<NetworkDraft>) =>
    write({ networks: networks.map((one, at) => (at === index ? { ...one, ...changes } : one)) });
  return (
    <Section
      title="Networks"
      aside={
        <Button onClick={() => write({ networks: [...networks, { network: '', address: '', has_key: false }] })}>
          Add a network
        </Button>
      }
    >
      <p className={classes.said}>
        Where the ads of a network can be read over its interface, under Links, Collect. Keys are kept encrypted and
        shown nowhere. The placeholders of its click patterns stand in its dialect, under Convention.
      </p>
      {networks.map((one, index) => (
        <div key={index} className={classes.row}>
          <TextInput
            label="Network"
            w={140}
            value={one.network}
            onChange={(event) => put(index, { network: event.currentTarget.value })}
          />
          <TextInput
            label="Address of its interface"
            w={300}
            value={one.address}
            onChange={(event) => put(index, { address: event.currentTarget.value })}
          />
          <TextInput
            label="Owner"
            w={140}
            value={one.owner ?? ''}
            onChange={(event) => put(index, { owner: event.currentTarget.value })}
          />
          <TextInput
            label="Key"
            type="password"
            autoComplete="off"
            w={120}
            placeholder={one.has_key ? 'kept' : 'none'}
            value={one.key ?? ''}
            onChange={(event) => put(index, { key: event.currentTarget.value })}
          />
          <Button
            aria-label={`Take away ${one.network || 'this network'}`}
            onClick={() => write({ networks: networks.filter((_, at) => at !== index) })}
          >
            Take away
          </Button>
        </div>
      ))}
    </Section>
  );
}
