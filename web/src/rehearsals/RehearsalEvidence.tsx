import { Button, Group } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { AddressBlock } from '../parts/Address';
import { Facts } from '../parts/Facts';
import { Failure } from '../parts/Failure';
import { FindingList } from '../parts/FindingList';
import { atMoment } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { May } from '../session/May';
import { useWorkspace } from '../session/useWorkspace';
import { SweepThese } from '../shell/SweepThese';
import { Compared } from './Compared';
import classes from './RehearsalsView.module.css';
import { Score } from './Score';

const ROLES = ['source', 'medium', 'campaign'];

/** One rehearsal as a score, with what was expected and heard, and the page at the chosen step. */
export function RehearsalEvidence({ name: rehearsal }: { name: string }) {
  const { name } = useWorkspace();
  const detail = useQuery(queries.rehearsal(name, rehearsal));
  const [step, setStep] = useState<number>();
  if (detail.isError) {
    return <Failure error={detail.error} />;
  }
  if (!detail.data) {
    return <Loading />;
  }
  const { rehearsal: row, run, findings, tags, landing_parts } = detail.data;
  const { step: blamed } = (findings[0]?.place ?? {}) as { step?: number };
  const shown =
    run?.steps.find((one) => one.number === step) ??
    run?.steps.find((one) => one.number === blamed) ??
    run?.steps.at(-1);
  return (
    <>
      <h2>{row.title}</h2>
      <Facts
        facts={[
          ['about', row.about],
          ['owner', row.owner],
          ['played', atMoment(row.played_at)],
          [
            'recording',
            run ? (
              <a key="har" href={`/api/workspaces/${name}/rehearsals/${rehearsal}/run.har`}>
                HAR
              </a>
            ) : null,
          ],
        ]}
      />
      <Group gap={6}>
        <SweepThese wish={{ rehearsals: [rehearsal] }}>Play it now</SweepThese>
        <May least="owner">
          <Button component={Link} to={`/w/${name}/rehearsals/record?of=${rehearsal}`}>
            Change its steps
          </Button>
        </May>
      </Group>
      <FindingList findings={findings} />
      {run ? (
        <>
          <Section title="Score" aside="hollow: expected · filled: heard">
            <Score run={run} tags={tags} chosen={shown?.number} onChoose={setStep} />
          </Section>
          {shown && <StepShown row={row} step={shown} signals={run.signals} />}
          {run.trouble && (
            <Section title="What was held">
              <p>
                {run.trouble} <Link to={`/w/${name}/tags/senders`}>Say which senders pages need</Link>
              </p>
            </Section>
          )}
          <Compared rehearsal={rehearsal} />
          <Section title="From landing to conversion">
            <Lineage run={run} />
          </Section>
        </>
      ) : (
        <p>Not played yet: it is played with the next sweep.</p>
      )}
      <Section title="Begins at">
        <AddressBlock parts={landing_parts} />
      </Section>
    </>
  );
}

/** What was seen and heard in one step. signals: of the whole run. */
function StepShown({
  row,
  step,
  signals,
}: {
  row: Schema['RehearsalDetail']['rehearsal'];
  step: Schema['Step'];
  signals: Schema['Signal'][];
}) {
  const { name } = useWorkspace();
  return (
    <Section title={`Step ${step.number}: ${step.does}`} aside={step.page}>
      {step.error && <p role="alert">{step.error}</p>}
      <Facts facts={[...kept(step), ...left(signals, step.number)]} />
      {step.picture && row.sweep_id && (
        <img
          className={classes.picture}
          alt={`The page at the end of step ${step.number}`}
          src={`/api/workspaces/${name}/rehearsals/${row.name}/pictures/${row.sweep_id}/${step.number}`}
        />
      )}
    </Section>
  );
}

/** What fields, cookies and storage held at the end of a step. */
function kept(step: Schema['Step']): [string, string][] {
  const holds = (step.holds ?? []) as { kind: string; name: string; found?: string; wanted?: unknown }[];
  return holds.map((one) => {
    const wanted = typeof one.wanted === 'string' && one.wanted !== one.found ? `, not “${one.wanted}”` : '';
    return [`${one.kind} ${one.name}`, `${one.found ? `“${one.found}”` : 'nothing'}${wanted}`];
  });
}

/** What left in a step, with what it said. */
function left(signals: Schema['Signal'][], step: number): [string, string][] {
  return signals
    .filter((one) => one.step === step)
    .map((one) => {
      const said = Object.entries(one.values).map(([field, value]) => `${field} ${value}`);
      return [`${one.tag} ${one.event}`, said.join(', ') || 'left'];
    });
}

/** What the landing brought against what each conversion carried. */
function Lineage({ run }: { run: Schema['Run'] }) {
  const conversions = run.lineage;
  return (
    <table className={classes.lineage}>
      <thead>
        <tr>
          <td />
          {ROLES.map((role) => (
            <th key={role}>{role}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        <tr>
          <td>landing</td>
          {ROLES.map((role) => (
            <td key={role}>
              <code>{run.landing[role] ?? '–'}</code>
            </td>
          ))}
        </tr>
        {conversions.map((signal) => (
          <tr key={`${signal.at} ${signal.event}`}>
            <td>
              {signal.event}, step {signal.step}
            </td>
            {ROLES.map((role) => (
              <td key={role}>
                <code data-changed={signal.lost.includes(role) || undefined}>{signal.values[role] || 'nothing'}</code>
              </td>
            ))}
          </tr>
        ))}
        {conversions.length === 0 && (
          <tr>
            <td colSpan={4}>No conversion left.</td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
