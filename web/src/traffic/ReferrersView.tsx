import { NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { count, counted, percent } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { useReach } from '../people/session';
import { useWorkspace } from '../shell/Workbench';
import classes from './Traffic.module.css';

type Referrer = Schema['Referrers']['referrers'][number];

const KINDS = ['unknown', 'own', 'payment', 'mail', 'social', 'search', 'partner'];

/** Who sent visits and what each is taken for; and what is direct or unassigned and nobody knows why. */
export function ReferrersView() {
  const { name } = useWorkspace();
  const reach = useReach();
  const referrers = useQuery(queries.referrers(name));
  const take = useAct(name, (wish: { host: string; taken_for: string; version: number }) =>
    acts.takeReferrer(name, wish),
  );
  if (referrers.isError) {
    return <Failure error={referrers.error} />;
  }
  if (!referrers.data) {
    return <Loading />;
  }
  const { referrers: hosts, rest, version } = referrers.data;
  return (
    <div className={classes.view}>
      <div className={classes.body}>
        {take.isError && <Failure error={take.error} />}
        <Section title="Who sent visits" aside="what a host is taken for is a rule: it is explained anew at once">
          {hosts.length === 0 ? (
            <EmptyState
              title="No row names a referrer."
              hint="Import session rows with a column for the referrer's host."
            />
          ) : (
            <table className={classes.figures}>
              <thead>
                <tr>
                  <th>Host</th>
                  <th>Taken for</th>
                  <th>Stands in</th>
                  <th>Sessions</th>
                  <th>Conversions</th>
                </tr>
              </thead>
              <tbody>
                {hosts.map((host) => (
                  <tr key={host.host}>
                    <td>{host.host}</td>
                    <td>
                      {reach('owner') ? (
                        <NativeSelect
                          size="xs"
                          aria-label={`What ${host.host} is taken for`}
                          value={host.taken_for}
                          disabled={take.isPending}
                          data={KINDS}
                          onChange={(event) =>
                            take.mutate({ host: host.host, taken_for: event.currentTarget.value, version })
                          }
                        />
                      ) : (
                        host.taken_for
                      )}
                    </td>
                    <td>{standing(host)}</td>
                    <td>{count(host.sessions)}</td>
                    <td>{count(host.conversions)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </Section>
        <Section
          title="Direct or unassigned, and unexplained"
          aside={`${counted(
            rest.reduce((sum, one) => sum + one.sessions, 0),
            'session',
          )}: look for a message, an application or a printed code that leads there, and collect it`}
        >
          <table className={classes.figures}>
            <thead>
              <tr>
                <th>Landing page</th>
                <th>Channel</th>
                <th>Source / medium</th>
                <th>Sessions</th>
                <th>Of all</th>
              </tr>
            </thead>
            <tbody>
              {rest.map((one) => (
                <tr key={`${one.landing} ${one.channel} ${one.source} ${one.medium} ${one.referrer}`}>
                  <td>{one.landing || '–'}</td>
                  <td>{one.channel}</td>
                  <td>{[one.source, one.medium].map((value) => value || '–').join(' / ')}</td>
                  <td>{count(one.sessions)}</td>
                  <td>{percent(one.share)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Section>
      </div>
    </div>
  );
}

const standing = (host: Referrer) => host.channels.join(', ');
