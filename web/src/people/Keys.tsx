import { Button, NativeSelect, TextInput } from '@mantine/core';
import { type FormEvent, useState } from 'react';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { useAct } from '../api/useAct';
import { atMoment } from '../parts/format';
import { Section } from '../parts/Section';
import { useWorkspace } from '../shell/Workbench';
import { Once } from './Once';
import classes from './People.module.css';
import { ROLES, type Role } from './session';

/** Keys with which pipelines come in. */
export function Keys({ keys }: { keys: Schema['Key'][] }) {
  const { name } = useWorkspace();
  const [label, setLabel] = useState('');
  const [role, setRole] = useState<Role>('editor');
  const make = useAct(name, () => acts.makeKey(name, { name: label, role }));
  const takeBack = useAct(name, (id: number) => acts.takeBackKey(name, id));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate(undefined, { onSuccess: () => setLabel('') });
  };
  return (
    <Section title="Keys for pipelines">
      <p className={classes.said}>
        With a key a pipeline uses the API and the command line: ORVANT_KEY=… bin/orvant sweep --server{' '}
        {window.location.origin} --workspace {name}
      </p>
      <form onSubmit={submit} className={classes.row}>
        <TextInput
          label="What it is for"
          w={260}
          value={label}
          onChange={(event) => setLabel(event.currentTarget.value)}
        />
        <NativeSelect
          label="As"
          data={ROLES.map((one) => one.role)}
          value={role}
          onChange={(event) => setRole(event.currentTarget.value as Role)}
        />
        <Button type="submit" variant="filled" loading={make.isPending} disabled={!label.trim()}>
          Make a key
        </Button>
      </form>
      {make.data && (
        <Once
          said={`The key “${make.data.name}”. It is shown now and never again:`}
          text={make.data.key}
          what="the key"
        />
      )}
      {keys.length > 0 && (
        <table className={classes.list}>
          <thead>
            <tr>
              <th>Key</th>
              <th>As</th>
              <th>Made by</th>
              <th>Last used</th>
              <th>Way back</th>
            </tr>
          </thead>
          <tbody>
            {keys.map((one) => (
              <tr key={one.id}>
                <td>{one.name}</td>
                <td>{one.role}</td>
                <td>{one.author || '–'}</td>
                <td>{one.used_at ? atMoment(one.used_at) : 'never'}</td>
                <td>
                  <Button
                    variant="subtle"
                    onClick={() => takeBack.mutate(one.id)}
                    aria-label={`Take back the key ${one.name}`}
                  >
                    Take back
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Section>
  );
}
