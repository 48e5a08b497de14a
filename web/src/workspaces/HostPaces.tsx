import { Button, NumberInput, TextInput } from '@mantine/core';
import { useState } from 'react';
import type { Schema } from '../api/client';
import classes from './Workspaces.module.css';

type Hosts = NonNullable<Schema['Preferences']['hosts']>;

interface HostPacesProps {
  hosts: Hosts;
  write: (hosts: Hosts) => void;
}

/** Hosts that are asked at a pace of their own. */
export function HostPaces({ hosts, write }: HostPacesProps) {
  const [host, setHost] = useState('');
  const put = (name: string, changes: Hosts[string]) => write({ ...hosts, [name]: { ...hosts[name], ...changes } });
  return (
    <>
      {Object.entries(hosts).map(([name, own]) => (
        <div key={name} className={classes.row}>
          <TextInput label="Host" readOnly w={240} value={name} />
          <NumberInput
            label="Pause"
            w={110}
            min={0}
            max={60}
            value={own.pause ?? ''}
            onChange={(value) => typeof value === 'number' && put(name, { pause: value })}
          />
          <NumberInput
            label="At once"
            w={110}
            min={1}
            max={64}
            value={own.per_host ?? ''}
            onChange={(value) => typeof value === 'number' && put(name, { per_host: value })}
          />
          <Button
            aria-label={`${name} as all others`}
            onClick={() => write(Object.fromEntries(Object.entries(hosts).filter(([other]) => other !== name)))}
          >
            As all others
          </Button>
        </div>
      ))}
      <div className={classes.row}>
        <TextInput
          label="A host with a pace of its own"
          w={240}
          value={host}
          onChange={(event) => setHost(event.currentTarget.value)}
        />
        <Button
          disabled={!host.trim() || host.trim() in hosts}
          onClick={() => {
            put(host.trim(), { pause: 1, per_host: 1 });
            setHost('');
          }}
        >
          Add
        </Button>
      </div>
    </>
  );
}
