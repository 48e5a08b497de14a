import { NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { acts } from '../api/acts';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { Figures } from '../parts/Figures';
import { count, counted, percent } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { useReach } from '../session/session';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Traffic.module.css';

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
            <Figures
              heads={['Host', 'Taken for', 'Stands in', 'Sessions', 'Conversions']}
              rows={hosts.map((host) => ({
                key: host.host,
                cells: [
                  host.host,
                  reach('owner') ? (
                    <NativeSelect
                      key="taken"
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
                  ),
                  host.channels.join(', '),
                  count(host.sessions),
                  count(host.conversions),
                ],
              }))}
            />
          )}
        </Section>
        <Section
          title="Direct or unassigned, and unexplained"
          aside={`${counted(
            rest.reduce((sum, one) => sum + one.sessions, 0),
            'session',
          )}: look for a message, an application or a printed code that leads there, and collect it`}
        >
          <Figures
            heads={['Landing page', 'Channel', 'Source / medium', 'Sessions', 'Of all']}
            rows={rest.map((one) => ({
              key: [one.landing, one.channel, one.source, one.medium, one.referrer].join(' '),
              cells: [
                one.landing || '–',
                one.channel,
                [one.source, one.medium].map((value) => value || '–').join(' / '),
                count(one.sessions),
                percent(one.share),
              ],
            }))}
          />
        </Section>
      </div>
    </div>
  );
}
