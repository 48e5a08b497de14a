import type { Schema } from '../api/client';
import { isActive } from '../api/queries';
import { atMoment, count, counted } from '../parts/format';
import classes from './FixEvidence.module.css';

const SETTLED: Partial<Record<Schema['Fix']['state'], string>> = {
  let_stand: 'Let stand: every finding of it may stand for now. Nothing was proven.',
  ended: 'Ended: what it was for is gone. Nothing was proven.',
};

interface ProofProps {
  fix: Schema['Fix'];
  /** Sweeps over just this fix, the newest first. */
  checks: Schema['Sweep'][];
}

/** Where a fix stands, and what was looked at to know. */
export function Proof({ fix, checks }: ProofProps) {
  const last = checks[0];
  if (last && isActive(last.state)) {
    return (
      <p className={classes.proof} role="status">
        Checking: {count(last.done)} of {count(last.total)} looked at.
      </p>
    );
  }
  if (fix.state === 'proven' && fix.proof) {
    return (
      <p className={classes.proof} data-proven role="status">
        Proven {atMoment(fix.proof.at)} by sweep {fix.proof.sweep_id}:{' '}
        {counted(fix.proof.looked_at, 'link or page', 'links and pages')} looked at again, nothing found.
      </p>
    );
  }
  const settled = SETTLED[fix.state];
  if (settled) {
    return (
      <p className={classes.proof} role="status">
        {settled}
      </p>
    );
  }
  if (last) {
    return (
      <p className={classes.proof} role="status">
        {last.state === 'done'
          ? `Checked ${atMoment(last.finished_at)}: ${counted(fix.findings, 'finding')} still there.`
          : (last.problem ?? `The check was ${last.state} at ${count(last.done)} of ${count(last.total)}.`)}
      </p>
    );
  }
  return (
    <p className={classes.proof}>
      {fix.state === 'returned' ? 'It was proven once, and is there again.' : 'Not checked since it was found.'}
    </p>
  );
}
