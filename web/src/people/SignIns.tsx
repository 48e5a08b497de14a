import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { acts } from '../api/acts';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { Failure } from '../parts/Failure';
import { atMoment } from '../parts/format';
import { Section } from '../parts/Section';
import classes from './People.module.css';

/** Where one is signed in, with an end for each. */
export function SignIns() {
  const signIns = useQuery(queries.signIns());
  const end = useAct('account', (id: number) => acts.endSignIn(id));
  return (
    <Section title="Where you are signed in">
      {signIns.isError && <Failure error={signIns.error} />}
      {signIns.data && (
        <table className={classes.list}>
          <thead>
            <tr>
              <th>Browser</th>
              <th>Machine</th>
              <th>Since</th>
              <th>Last here</th>
              <th>Way out</th>
            </tr>
          </thead>
          <tbody>
            {signIns.data.sign_ins.map((one) => (
              <tr key={one.id}>
                <td>{one.agent || 'unknown'}</td>
                <td>{one.machine || '–'}</td>
                <td>{atMoment(one.created_at)}</td>
                <td>{one.current ? 'now, this one' : atMoment(one.seen_at)}</td>
                <td>
                  {!one.current && (
                    <Button
                      variant="subtle"
                      onClick={() => end.mutate(one.id)}
                      aria-label={`End the visit with ${one.agent || 'an unknown browser'} since ${atMoment(one.created_at)}`}
                    >
                      End
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Section>
  );
}
