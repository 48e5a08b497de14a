import { Button, Group } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { isActive, queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { AddressLine } from '../parts/Address';
import { Copy } from '../parts/Copy';
import { Facts } from '../parts/Facts';
import { Failure } from '../parts/Failure';
import { count, counted, money } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { Weight } from '../parts/Weight';
import { May } from '../session/May';
import { useWorkspace } from '../session/useWorkspace';
import classes from './FixEvidence.module.css';
import { Proof } from './Proof';

type Detail = Schema['FixDetail'];

const PLACES: Record<Schema['Fix']['at'], string> = {
  sighting: 'where the link stands',
  server: 'server',
  page: 'page',
  settings: 'settings',
  convention: 'convention',
};

/** Found on what networks claim, not on links. */
const CLAIMED = ['traffic/missing-sessions', 'traffic/claim-gap'];

/** One fix: what to do, where, the exact value, what it wins back, and the proof. */
export function FixEvidence({ id }: { id: number }) {
  const { name, currency, sweep } = useWorkspace();
  const detail = useQuery(queries.fix(name, id));
  const check = useAct(name, () => acts.checkFix(name, id));
  if (detail.isError) {
    return <Failure error={detail.error} />;
  }
  if (!detail.data) {
    return <Loading />;
  }
  const { fix, can_check, checks } = detail.data;
  const busy = isActive(sweep?.state);
  return (
    <>
      <Group gap={10} wrap="nowrap" align="baseline">
        <Weight weight={fix.weight} word />
        <code className={classes.codes}>{fix.codes.join(', ')}</code>
      </Group>
      <h2 className={classes.action}>{fix.action}</h2>
      <Facts
        facts={[
          ['where', `${PLACES[fix.at]}: ${fix.where}`],
          [fix.at === 'sighting' ? 'who' : 'whose links', fix.owner],
          ['wins back', winsBack(fix, currency)],
        ]}
      />
      {fix.codes.some((code) => CLAIMED.includes(code)) && (
        <p>
          <Link to={`/w/${name}/traffic/claims`}>What is claimed, beside what was found</Link>
        </p>
      )}
      <ExactValue detail={detail.data} />
      <Upload detail={detail.data} />
      <Section title="Proof">
        <Proof fix={fix} unasked={detail.data.unasked} checks={checks} />
        <May least="editor">
          <Group gap={10} mt={6}>
            <Button
              variant="filled"
              disabled={!can_check || busy}
              loading={check.isPending}
              onClick={() => check.mutate(undefined)}
            >
              Check again
            </Button>
            <span className={classes.hint}>{hint(can_check, busy)}</span>
          </Group>
        </May>
      </Section>
      <Findings detail={detail.data} />
      <Rows detail={detail.data} />
    </>
  );
}

function hint(can: boolean, busy: boolean) {
  if (!can) {
    return 'Only session rows from after the change can prove this one.';
  }
  return busy ? 'A sweep is under way.' : 'Sweeps just what this fix touches.';
}

function winsBack(fix: Schema['Fix'], currency: string) {
  const own = fix.sessions
    ? `${counted(fix.sessions, 'session')}, ${counted(fix.conversions, 'conversion')}, ${money(fix.revenue, currency)}`
    : '';
  const shared = fix.shared_sessions
    ? `up to ${counted(fix.shared_sessions, 'session')} that another fix may win back as well`
    : '';
  return [own, shared].filter(Boolean).join('; ') || 'no misplaced sessions are traced to it in the rows at hand';
}

/** The text to paste: a value, one corrected address, or all of them as a file. */
function ExactValue({ detail }: { detail: Detail }) {
  const { name } = useWorkspace();
  const { fix, findings, corrected } = detail;
  const proven = findings.find((finding) => finding.corrected_address && finding.corrected_parts);
  if (!fix.value && !proven) {
    return null;
  }
  return (
    <Section title="Exact value">
      {fix.value && (
        <Group gap={8}>
          <code className={classes.value}>{fix.value}</code>
          <Copy text={fix.value} what="value" />
        </Group>
      )}
      {proven?.corrected_address && proven.corrected_parts && (
        <div className={classes.corrected}>
          <AddressLine parts={proven.corrected_parts} />
          <Group gap={6} mt={4}>
            <Copy text={proven.corrected_address} what="corrected address" />
            {corrected > 0 && (
              <Button component="a" href={`/api/workspaces/${name}/fixes/${fix.id}/corrected.csv`}>
                Save {counted(corrected, 'corrected link')}
              </Button>
            )}
          </Group>
        </div>
      )}
    </Section>
  );
}

/** What a network takes in: each part to change, at the level that sets it; or why there is nothing to upload. */
function Upload({ detail }: { detail: Detail }) {
  const { name } = useWorkspace();
  const { fix, ads, ad_rows, no_list } = detail;
  if (no_list) {
    return <p className={classes.hint}>{no_list}</p>;
  }
  if (ads.length === 0) {
    return null;
  }
  return (
    <Section
      title={`${counted(ad_rows, 'row')} to upload`}
      aside={<a href={`/api/workspaces/${name}/fixes/${fix.id}/ads.csv`}>Save as CSV</a>}
    >
      {ads.map((row) => (
        <div key={[row.network, row.level, row.id, row.name, row.part].join('|')} className={classes.finding}>
          <p>{[row.network, `${row.level} ${row.name ?? ''}`, row.part].join(' · ')}</p>
          <p className={classes.was}>
            <code>{row.as_it_is || 'nothing'}</code>
          </p>
          <p className={classes.is}>
            <code>{row.as_it_should_be}</code> <Copy text={row.as_it_should_be} what={row.part} />
          </p>
        </div>
      ))}
    </Section>
  );
}

function Findings({ detail }: { detail: Detail }) {
  const { name } = useWorkspace();
  const { findings, fix } = detail;
  const latest = Math.max(0, ...findings.map((finding) => finding.sweep_id));
  const current = findings.filter((finding) => finding.current);
  const shown = current.length > 0 ? current : findings.filter((finding) => finding.sweep_id === latest);
  if (shown.length === 0) {
    return null;
  }
  return (
    <Section
      title={
        current.length > 0 ? counted(shown.length, 'finding') : `${counted(shown.length, 'finding')}, no longer seen`
      }
      aside={<Link to={`/w/${name}/links?fix=${fix.id}`}>as a list of links</Link>}
    >
      {shown.map((finding) => (
        <div key={finding.id} className={classes.finding}>
          {finding.parts && finding.link_id ? (
            <Link to={`/w/${name}/links?chosen=${finding.link_id}`} title={finding.address ?? ''}>
              <AddressLine parts={finding.parts} />
            </Link>
          ) : (
            <Link
              to={
                finding.page
                  ? `/w/${name}/tags?chosen=${encodeURIComponent(finding.page)}`
                  : `/w/${name}/rehearsals?chosen=${finding.rehearsal}`
              }
            >
              {finding.page ?? finding.rehearsal}
            </Link>
          )}
          <p>{finding.message}</p>
        </div>
      ))}
    </Section>
  );
}

function Rows({ detail }: { detail: Detail }) {
  const { name, currency } = useWorkspace();
  if (detail.rows.length === 0) {
    return null;
  }
  return (
    <Section title="Its rows" aside={<Link to={`/w/${name}/traffic?fix=${detail.fix.id}`}>day by day</Link>}>
      <table className={classes.rows}>
        <tbody>
          {detail.rows.map((row) => (
            <tr
              key={[row.channel, row.becomes, row.source, row.medium, row.campaign, row.landing, row.referrer].join(
                '|',
              )}
            >
              <td>
                {row.channel} → {row.becomes ?? '?'}
              </td>
              <td className={classes.mono}>
                {[row.source, row.medium, row.campaign].filter(Boolean).join(' / ') || 'no source'}
              </td>
              <td className={classes.mono}>{row.landing}</td>
              <td className={classes.number}>{count(row.sessions)}</td>
              <td className={classes.number}>{money(row.revenue, currency)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}
