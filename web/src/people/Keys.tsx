import { Button } from '@mantine/core';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { useAct } from '../api/useAct';
import { atMoment } from '../parts/format';
import { Section } from '../parts/Section';
import type { Role } from '../session/session';
import { useWorkspace } from '../session/useWorkspace';
import { LetIn } from './fields';
import { Once } from './Once';
import classes from './People.module.css';

/** Keys with which pipelines come in. */
export function Keys({ keys }: { keys: Schema['Key'][] }) {
  const { name } = useWorkspace();
  const make = useAct(name, (wish: { name: string; role: Role }) => acts.makeKey(name, wish));
  const takeBack = useAct(name, (id: number) => acts.takeBackKey(name, id));
  return (
    <Section title="Keys for pipelines">
      <p className={classes.said}>
        With a key a pipeline uses the API and the command line: ORVANT_KEY=… bin/orvant sweep --server{' '}
        {window.location.origin} --workspace {name}
      </p>
      <LetIn
        label="What it is for"
        does="Make a key"
        busy={make.isPending}
        submit={(label, role) => make.mutateAsync({ name: label, role })}
      />
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
