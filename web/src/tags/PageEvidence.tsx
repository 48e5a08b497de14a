import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { AddressBlock } from '../parts/Address';
import { Facts } from '../parts/Facts';
import { Failure } from '../parts/Failure';
import { FindingList } from '../parts/FindingList';
import { atMoment, counted } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { useWorkspace } from '../session/useWorkspace';
import { ConsentStates } from './ConsentStates';
import classes from './TagsView.module.css';

/** What was seen on one landing page: findings, every signal with its values, and what was refused. */
export function PageEvidence({ page }: { page: string }) {
  const { name } = useWorkspace();
  const detail = useQuery(queries.page(name, page));
  if (detail.isError) {
    return <Failure error={detail.error} />;
  }
  if (!detail.data) {
    return <Loading />;
  }
  const { page: seen, parts, signals, refused, held, findings, links, states, standing } = detail.data;
  return (
    <>
      <h2>{seen.title || seen.page}</h2>
      <AddressBlock parts={parts} />
      <Facts
        facts={[
          ['seen', atMoment(seen.visited_at)],
          [
            'recording',
            <a key="har" href={`/api/workspaces/${name}/page.har?page=${encodeURIComponent(page)}`}>
              HAR
            </a>,
          ],
          ['watched', `${(seen.watched / 1000).toFixed(1)} s`],
          [
            'landed on by',
            <Link key="links" to={`/w/${name}/links?q=${encodeURIComponent(page.replace(/^[^/]*|[?#].*$/g, ''))}`}>
              {counted(links, 'link')}
            </Link>,
          ],
        ]}
      />
      {seen.reason && <p role="alert">{seen.reason}</p>}
      {seen.others > 0 && <p>It stands for {counted(seen.others, 'more address', 'more addresses')} of its path.</p>}
      {seen.trouble && (
        <p className={classes.trouble}>
          {seen.trouble} <Link to={`/w/${name}/tags/senders`}>Say which senders pages need</Link>
        </p>
      )}
      <FindingList findings={findings} />
      {states.length > 0 && <ConsentStates states={states} />}
      {standing.length > 0 && <Standing tags={standing} />}
      <Signals signals={signals} />
      {held.length > 0 && <HeldBack held={held} />}
      {refused.length > 0 && (
        <Section title={`${counted(refused.length, 'request')} refused`}>
          {refused.map((one) => (
            <p key={one.address}>
              {one.address}: {one.reason}
            </p>
          ))}
        </Section>
      )}
    </>
  );
}

type Detail = Schema['PageDetail'];

function Standing({ tags }: { tags: Detail['standing'] }) {
  return (
    <Section title="In the markup as it was answered">
      {tags.map((one) => (
        <p key={`${one.tag} ${one.position}`}>
          {one.tag}
          {one.account && `, account ${one.account}`}: script {one.position}, in the {one.head ? 'head' : 'body'}
          {one.how === 'inline' && ', as a base code'}
        </p>
      ))}
    </Section>
  );
}

function Signals({ signals }: { signals: Detail['signals'] }) {
  return (
    <Section title={`${counted(signals.length, 'signal')} left`} aside="answered here, sent to nobody">
      <table className={classes.signals}>
        <tbody>
          {signals.map((signal) => (
            <tr key={`${signal.at} ${signal.request}`}>
              <td>{((signal.at ?? 0) / 1000).toFixed(2)} s</td>
              <td>{signal.tag}</td>
              <td>{signal.event}</td>
              <td>{signal.way && `as ${signal.way}, ${signal.method}`}</td>
              <td>
                {Object.entries(signal.values)
                  .map(([role, value]) => `${role} ${value || '(empty)'}`)
                  .join(', ')}
                <br />
                <code>{signal.request}</code>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

function HeldBack({ held }: { held: Detail['held'] }) {
  const { name } = useWorkspace();
  return (
    <Section
      title={`${counted(held.length, 'request')} held, sender not known`}
      aside={<Link to={`/w/${name}/tags/senders`}>who are they?</Link>}
    >
      <table className={classes.signals}>
        <tbody>
          {held.map((one) => (
            <tr key={`${one.at} ${one.address}`}>
              <td>{((one.at ?? 0) / 1000).toFixed(2)} s</td>
              <td>{one.way}</td>
              <td>
                <code>{one.address}</code>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}
