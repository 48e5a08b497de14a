import type { Schema } from '../api/client';
import { counted, money } from '../parts/format';
import { Weight, type WeightName } from '../parts/Weight';
import classes from './FixesView.module.css';
import { type Facet, sums } from './filters';

interface GroupSumsProps {
  fixes: Schema['Fix'][];
  by: Facet;
  currency: string;
  /** Narrows the list to one group. */
  choose: (value: string) => void;
}

/** What each group of fixes wins back, above their list. */
export function GroupSums({ fixes, by, currency, choose }: GroupSumsProps) {
  return (
    <table className={classes.sums}>
      <tbody>
        {sums(fixes, by).map((group) => (
          <tr key={group.value}>
            <td>
              <button type="button" onClick={() => choose(group.value)}>
                {by === 'weight' ? <Weight weight={group.value as WeightName} word /> : group.value || 'nobody named'}
              </button>
            </td>
            <td>{counted(group.fixes, 'fix', 'fixes')}</td>
            <td>{counted(group.sessions, 'session')} to win back</td>
            <td>{group.revenue > 0 && money(group.revenue, currency)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
