import { Checkbox } from '@mantine/core';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { counted, money } from '../parts/format';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Causes.module.css';

type Cause = Schema['Cause'];

interface CausesProps {
  causes: Cause[];
  /** Ids of the chosen fixes. */
  chosen: number[];
  currency: string;
  onChoose: (fixes: number[]) => void;
  onOpen: (cause: string) => void;
}

/** The causes of misplaced sessions, each as wide as the sessions it holds; choosing one chooses its fixes. */
export function Causes({ causes, chosen, currency, onChoose, onOpen }: CausesProps) {
  const { name } = useWorkspace();
  const most = Math.max(...causes.map((cause) => cause.sessions), 1);
  return (
    <div className={classes.causes}>
      {causes.map((cause) => {
        const all = cause.fixes.length > 0 && cause.fixes.every((fix) => chosen.includes(fix));
        const words = `${cause.cause}, ${cause.channel}`;
        return (
          <div key={`${cause.cause} ${cause.channel} ${cause.becomes}`} className={classes.cause}>
            <Checkbox
              size="xs"
              aria-label={`Choose the fixes for ${words}`}
              checked={all}
              disabled={cause.fixes.length === 0}
              onChange={() =>
                onChoose(
                  all ? chosen.filter((fix) => !cause.fixes.includes(fix)) : [...new Set([...chosen, ...cause.fixes])],
                )
              }
            />
            <button type="button" className={classes.name} onClick={() => onOpen(cause.cause)}>
              {cause.cause}
            </button>
            <span className={classes.move}>
              {cause.channel} → {cause.becomes ?? 'cannot be told'}
            </span>
            <span className={classes.weight}>
              <span style={{ width: `${(cause.sessions / most) * 100}%` }} data-chosen={all || undefined} />
            </span>
            <span className={classes.number}>{counted(cause.sessions, 'session')}</span>
            <span className={classes.number}>{money(cause.revenue, currency)}</span>
            <span className={classes.fixes}>
              {cause.fixes.length === 0 ? (
                'no fix known'
              ) : cause.fixes.length === 1 ? (
                <Link to={`/w/${name}/fixes?chosen=${cause.fixes[0]}`}>its fix</Link>
              ) : (
                <Link to={`/w/${name}/fixes?only=${cause.fixes.join(',')}`}>
                  {counted(cause.fixes.length, 'fix', 'fixes')}
                </Link>
              )}
            </span>
          </div>
        );
      })}
    </div>
  );
}
