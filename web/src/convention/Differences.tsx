import type { Schema } from '../api/client';
import classes from './Convention.module.css';

/** What differs between two versions, rule by rule. */
export function Differences({ differences }: { differences: Schema['ConventionDifference'][] }) {
  if (differences.length === 0) {
    return <p className={classes.faint}>Nothing differs.</p>;
  }
  return (
    <table className={classes.table}>
      <tbody>
        {differences.map((one) => (
          <tr key={`${one.area} ${one.what}`}>
            <td className={classes.faint}>{one.area}</td>
            <td>{one.what}</td>
            <td>{one.before !== null && <del>{one.before}</del>}</td>
            <td>{one.after !== null && <ins>{one.after}</ins>}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
