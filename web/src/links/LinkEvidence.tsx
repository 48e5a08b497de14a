import { Button, Group } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { notices } from '../api/notices';
import { queries } from '../api/queries';
import { AddressBlock, type Fault } from '../parts/Address';
import { Copy } from '../parts/Copy';
import { Facts } from '../parts/Facts';
import { Failure } from '../parts/Failure';
import { FindingList } from '../parts/FindingList';
import { atMoment, counted } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { May } from '../session/May';
import { useWorkspace } from '../session/useWorkspace';
import { ClickHosts } from '../shell/ClickHosts';
import { SweepThese } from '../shell/SweepThese';
import { Labels } from './Labels';
import classes from './LinkEvidence.module.css';
import { LinkRules } from './LinkRules';
import { ReadByTags } from './ReadByTags';
import { Sightings } from './Sightings';
import { TrailPicture } from './TrailPicture';
import { Visits } from './Visits';

type LinkFinding = Schema['LinkFinding'];

/** Everything known of one link: the address with its faults in place, its trail, where it was found, the traffic it explains. */
export function LinkEvidence({ id }: { id: number }) {
  const { name } = useWorkspace();
  const detail = useQuery(queries.link(name, id));
  const corrected = detail.data?.findings.find((finding) => finding.corrected_address);
  useHotkeys([['c', () => copy(corrected?.corrected_address ?? detail.data?.link.address)]]);

  if (detail.isError) {
    return <Failure error={detail.error} />;
  }
  if (!detail.data) {
    return <Loading />;
  }
  const { link, trail, findings, sightings, judged, read, visits, traffic, visitors, rules, signposts } = detail.data;
  const { may_charge: mayCharge, costly } = detail.data;
  const own = !judged || judged.address === link.address;
  const faults = findings.filter((finding) => finding.code.startsWith('param/')).map(asFault);
  return (
    <div className={classes.evidence} data-stale={detail.isPlaceholderData || undefined}>
      <AddressBlock parts={link.parts} faults={own ? faults : []} />
      {judged && !own && (
        <Section title={judgedTitle(link)} aside="judged here">
          <AddressBlock parts={judged.parts} faults={faults} />
        </Section>
      )}
      <Doors link={link} landed={trail?.outcome === 'landed'} costly={costly} />
      <ClickHosts name={name} hosts={mayCharge} />
      <May least="editor">
        <Labels link={link} />
      </May>
      {trail && (
        <Section
          title="Trail"
          aside={`${looked(trail)} · ${atMoment(trail.followed_at)} · convention version ${trail.convention_version}`}
        >
          <TrailPicture trail={trail} />
          <LookedAt trail={trail} />
          {trail.reason && <p className={classes.reason}>{trail.reason}</p>}
          <Landing trail={trail} />
        </Section>
      )}
      {read && <ReadByTags read={read} />}
      {trail?.outcome === 'landed' && !read && (
        <p className={classes.hint}>
          Its page was not opened with its own values yet: test this link to see what the tags read of it.
        </p>
      )}
      {visitors.map((other) => (
        <OtherVisitor key={other.visitor} trail={other} />
      ))}
      {corrected && <Corrected finding={corrected} />}
      {findings.length > 0 && <Findings findings={findings} />}
      <Sightings sightings={sightings} />
      <LinkRules rules={rules} />
      {signposts.length > 0 && <Signposts signposts={signposts} />}
      {visits && <Visits visits={visits} />}
      <Explained traffic={traffic} />
    </div>
  );
}

type Detail = Schema['LinkDetail'];

/** An ad is judged with tokens where only samples stand; any other link where its trail first reaches an own host. */
function judgedTitle(link: Detail['link']) {
  return link.parts.some((part) => part.sample) ? 'As its network is told to write it' : 'Where it reaches an own host';
}

interface DoorsProps {
  link: Detail['link'];
  /** Whether its trail ends on a page. */
  landed: boolean;
  /** Whether whoever opens it may have to pay for a click. */
  costly: boolean;
}

/** What can be done with the link. */
function Doors({ link, landed, costly }: DoorsProps) {
  const { name } = useWorkspace();
  return (
    <Group gap={6} mt={8}>
      <Copy text={link.address} what="address" />
      {!costly && link.address.match(/^https?:/) && (
        <Button component="a" href={link.address} target="_blank" rel="noopener noreferrer nofollow">
          Open in a new tab
        </Button>
      )}
      <SweepThese wish={{ links: [link.id] }}>Test this link</SweepThese>
      {landed && (
        <May least="owner">
          <Button component={Link} to={`/w/${name}/rehearsals/record?link=${link.id}`}>
            Rehearse from here
          </Button>
        </May>
      )}
    </Group>
  );
}

function OtherVisitor({ trail }: { trail: Detail['visitors'][number] }) {
  return (
    <Section
      title={`As the visitor “${trail.visitor}”`}
      aside={trail.parts_at === null ? 'the same all the way' : `parts at hop ${trail.parts_at}`}
    >
      {trail.parts_at !== null && <TrailPicture trail={trail} />}
      {trail.reason && <p className={classes.reason}>{trail.reason}</p>}
    </Section>
  );
}

function Corrected({ finding }: { finding: LinkFinding }) {
  const { code, corrected_address: address, corrected_parts: parts } = finding;
  if (!address || !parts) {
    return null;
  }
  return (
    <Section
      title={
        code === 'trail/dropped'
          ? 'An address that keeps everything, followed and proven'
          : 'Corrected, and judged again'
      }
    >
      <AddressBlock parts={parts} />
      <Group gap={6} mt={6}>
        <Copy text={address} what="corrected address" />
        <span className={classes.hint}>or press c</span>
      </Group>
    </Section>
  );
}

function Findings({ findings }: { findings: LinkFinding[] }) {
  return (
    <Section title={counted(findings.length, 'finding')}>
      <FindingList findings={findings} seen={(finding) => !finding.code.startsWith('param/')} />
    </Section>
  );
}

function Signposts({ signposts }: { signposts: Detail['signposts'] }) {
  const { name } = useWorkspace();
  return (
    <Section title="Signposts that lead here">
      {signposts.map((post) => (
        <p key={post.id} className={classes.traffic}>
          <Link to={`/w/${name}/links/signposts?chosen=${post.id}`}>{post.address}</Link>,{' '}
          {counted(post.counts.passes, 'pass', 'passes')} by {counted(post.counts.first, 'visitor')}
        </p>
      ))}
    </Section>
  );
}

function Explained({ traffic }: { traffic: Detail['traffic'] }) {
  const { name } = useWorkspace();
  return (
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
  );
}

/** What the landing page says of itself. */
const LOOKS = {
  browser: 'followed in the browser',
  page: 'followed by HTTP, its page seen by the browser',
  http: 'followed by HTTP',
  nobody: 'followed by HTTP alone',
} as const;

function looked(trail: Schema['Trail']) {
  return LOOKS[trail.look.by];
}

/** Who has looked at what the pages on the way do, and what they tried besides. */
function LookedAt({ trail }: { trail: Schema['Trail'] }) {
  const { name } = useWorkspace();
  const { look, attempts } = trail;
  return (
    <>
      {look.by === 'page' && (
        <p className={classes.look}>
          Seen by the browser on {look.on ? atMoment(look.on) : 'the same day'}, with {look.as}: its pages do what HTTP
          has read.
        </p>
      )}
      {look.by === 'browser' && look.ms !== undefined && (
        <p className={classes.look}>
          Watched for {(look.ms / 1000).toFixed(1)} s, {ENDS[look.ended ?? 'still']}.
        </p>
      )}
      {look.by === 'nobody' && (
        <p className={classes.reason}>
          Something on this way can run, and no browser has looked yet: its visitors may end elsewhere. A whole sweep
          looks.
        </p>
      )}
      {look.undecided && (
        <p className={classes.look}>
          The page asked for <span className={classes.address}>{look.undecided.join(', ')}</span>, which was held: what
          it does with an answer is not known. <Link to={`/w/${name}/tags/senders`}>Say which senders pages need</Link>
        </p>
      )}
      {attempts.map((address) => (
        <p key={address} className={classes.look}>
          The page tried to open <span className={classes.address}>{address}</span>; the visitor stayed.
        </p>
      ))}
    </>
  );
}

const ENDS = {
  still: 'until nothing was under way',
  patience: 'and it was still busy when its time was over',
  bounds: 'and it had gone on long enough',
} as const;

function Landing({ trail }: { trail: Schema['Trail'] }) {
  const { landing } = trail;
  if (!landing) {
    return null;
  }
  return (
    <Facts
      facts={[
        ['Title', landing.title],
        ['Canonical', landing.canonical],
        ['Listed', landing.noindex ? 'asks search engines not to list it' : ''],
        ['Referrer', landing.referrer_policy],
      ]}
    />
  );
}

function asFault(finding: LinkFinding): Fault {
  const { pair } = finding.place as { pair?: number };
  return { pair, weight: finding.weight, message: finding.message };
}

function copy(text: string | undefined) {
  if (text) {
    navigator.clipboard?.writeText(text).then(() => notices.show({ message: `Copied: ${text}`, autoClose: 2500 }));
  }
}
