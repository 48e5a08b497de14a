import type { Schema } from '../api/client';
import { count } from '../parts/format';
import { Section } from '../parts/Section';
import classes from './Collect.module.css';

const SHOWN = 100;

/** Rows that could not be used, each with its line and the reason. */
export function RejectedRows({ rows }: { rows: Schema['Rejected'][] }) {
  if (rows.length === 0) {
    return null;
  }
  return (
    <Section
      title={`${count(rows.length)} rejected`}
      aside={rows.length > SHOWN ? `the first ${SHOWN} are shown` : undefined}
    >
      <table className={classes.table}>
        <tbody>
          {rows.slice(0, SHOWN).map((row) => (
            <tr key={row.line}>
              <td>line {row.line}</td>
              <td>{row.reason}</td>
              <td className={classes.cells}>{row.cells.join(' | ')}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  );
}
