import { Button, Group } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { notifications } from '@mantine/notifications';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { AddressBlock, type Fault } from '../parts/Address';
import { Copy } from '../parts/Copy';
import { Failure } from '../parts/Failure';
import { FindingNote } from '../parts/FindingNote';
import { atMoment, counted, money, onDay } from '../parts/format';
import { Section } from '../parts/Section';
import { useWorkspace } from '../shell/Workbench';
import classes from './LinkEvidence.module.css';
import { TrailPicture } from './TrailPicture';

type LinkFinding = Schema['LinkFinding'];

/** Everything known of one link: the address with its faults in place, its trail, where it was found, the traffic it explains. */
export function LinkEvidence({ id }: { id: number }) {
  const { name, currency } = useWorkspace();
  const detail = useQuery(queries.link(name, id));
  const corrected = detail.data?.findings.find((finding) => finding.corrected_address);
  useHotkeys([['c', () => copy(corrected?.corrected_address ?? detail.data?.link.address)]]);

  if (detail.isError) {
    return <Failure error={detail.error} />;
  }
  if (!detail.data) {
    return null;
  }
  const { link, trail, findings, sightings, judged, traffic } = detail.data;
  const own = !judged || judged.address === link.address;
  const faults = findings.filter((finding) => finding.code.startsWith('param/')).map(asFault);
  return (
    <div className={classes.evidence} data-stale={detail.isPlaceholderData || undefined}>
      <AddressBlock parts={link.parts} faults={own ? faults : []} />
      {judged && !own && (
        <Section title="Where it reaches an own host" aside="judged here">
          <AddressBlock parts={judged.parts} faults={faults} />
        </Section>
      )}
      <Group gap={6} mt={8}>
        <Copy text={link.address} what="address" />
        {link.address.match(/^https?:/) && (
          <Button component="a" href={link.address} target="_blank" rel="noopener noreferrer nofollow">
            Open in a new tab
          </Button>
        )}
      </Group>
      {trail && (
        <Section
          title="Trail"
          aside={`${trail.engine} · ${atMoment(trail.followed_at)} · convention version ${trail.convention_version}`}
        >
          <TrailPicture trail={trail} />
          {trail.reason && <p className={classes.reason}>{trail.reason}</p>}
        </Section>
      )}
      {corrected?.corrected_address && corrected.corrected_parts && (
        <Section
          title={
            corrected.code === 'trail/dropped'
              ? 'An address that keeps everything, followed and proven'
              : 'Corrected, and judged again'
          }
        >
          <AddressBlock parts={corrected.corrected_parts} />
          <Group gap={6} mt={6}>
            <Copy text={corrected.corrected_address} what="corrected address" />
            <span className={classes.hint}>or press c</span>
          </Group>
        </Section>
      )}
      {findings.length > 0 && (
        <Section title={counted(findings.length, 'finding')}>
          {findings.map((finding) => (
            <div key={finding.id}>
              <FindingNote finding={finding} evidence={!finding.code.startsWith('param/')} />
              {finding.fix_id && (
                <Link className={classes.door} to={`/w/${name}/fixes?chosen=${finding.fix_id}`}>
                  To its fix
                </Link>
              )}
            </div>
          ))}
        </Section>
      )}
      <Section title={`Found in ${counted(sightings.length, 'place')}`}>
        <table className={classes.sightings}>
          <tbody>
            {sightings.map((sighting) => (
              <tr key={`${sighting.kind} ${sighting.place}`}>
                <td>{sighting.kind}</td>
                <td>{sighting.place || 'place not named'}</td>
                <td>{sighting.owner || 'owner not named'}</td>
                <td>{sighting.since ? `since ${onDay(sighting.since)}` : ''}</td>
                <td>{sighting.spend ? money(sighting.spend, currency) : ''}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Section>
      <Section title="Traffic that it explains">
        {traffic.length === 0 && <p className={classes.hint}>No misplaced sessions are traced to this link.</p>}
        {traffic.map((one) => (
          <p key={one.cause} className={classes.traffic}>
            <Link to={`/w/${name}/traffic?cause=${encodeURIComponent(one.cause)}`}>
              {counted(one.sessions, 'session')}
            </Link>
            , {one.cause}
          </p>
        ))}
      </Section>
    </div>
  );
}

function asFault(finding: LinkFinding): Fault {
  const { pair } = finding.place as { pair?: number };
  return { pair, weight: finding.weight, message: finding.message };
}

function copy(text: string | undefined) {
  if (text) {
    navigator.clipboard
      ?.writeText(text)
      .then(() => notifications.show({ message: `Copied: ${text}`, autoClose: 2500 }));
  }
}
