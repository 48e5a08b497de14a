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
  /** What has changed since it was asked whether it is there. */
  unasked: Schema['FixDetail']['unasked'];
  /** Sweeps over just this fix, the newest first. */
  checks: Schema['Sweep'][];
}

/** Where a fix stands, and what was looked at to know. */
export function Proof({ fix, unasked, checks }: ProofProps) {
  const last = checks[0];
  if (last && isActive(last.state)) {
    return (
      <p className={classes.proof} role="status">
        Checking: {count(last.done)} of {count(last.total)} looked at.
      </p>
    );
  }
  if (fix.state === 'proven' && fix.proof) {
    return <Looks proof={fix.proof} />;
  }
  if (unasked) {
    return (
      <p className={classes.proof} role="status">
        No longer asked, and not proven: {unasked.what}
        {unasked.by && `, by ${unasked.by}`}, {atMoment(unasked.at)}. It comes back if it is asked again.
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

/** What a proof looked at, when, what was seen there, and by which checks. */
function Looks({ proof }: { proof: NonNullable<Schema['Fix']['proof']> }) {
  const looks = proof.looks ?? [];
  return (
    <div className={classes.proof} data-proven role="status">
      Proven {atMoment(proof.at)} by sweep {proof.sweep_id}:{' '}
      {counted(proof.looked_at, 'link, page or rehearsal', 'links, pages and rehearsals')} looked at again, nothing
      found.
      {looks.length > 0 && (
        <details>
          <summary>What was looked at</summary>
          <ul className={classes.looks}>
            {looks.map((look) => (
              <li key={look.subject}>
                <code>{look.subject}</code>
                <span>
                  {atMoment(look.at)}: {look.seen}; by {look.codes.join(', ')}
                </span>
              </li>
            ))}
          </ul>
          {proof.looked_at > looks.length && <span>The first {looks.length} are shown.</span>}
        </details>
      )}
    </div>
  );
}
