import type { Schema } from '../api/client';
import { count, money } from '../parts/format';
import { Section } from '../parts/Section';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Collect.module.css';

interface PreviewTableProps {
  rows: Schema['Preview']['sample'];
  /** How many good rows the file has. */
  total: number;
}

/** The first rows, as they were understood. */
export function PreviewTable({ rows, total }: PreviewTableProps) {
  const { currency } = useWorkspace();
  const columns = Object.keys(rows[0] ?? {}).filter(
    (column) => column !== 'click' && rows.some((row) => row[column] !== null && row[column] !== ''),
  );
  return (
    <Section title={`The first ${rows.length} of ${count(total)} good rows`}>
      <div className={classes.scroll}>
        <table className={classes.table}>
          <thead>
            <tr>
              {columns.map((column) => (
                <th key={column}>{column}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={String(row.line)}>
                {columns.map((column) => (
                  <td key={column} title={String(row[column] ?? '')}>
                    {shown(column, row[column], currency)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </Section>
  );
}

/** Amounts come in cents. */
function shown(column: string, cell: unknown, currency: string) {
  return typeof cell === 'number' && ['spend', 'revenue'].includes(column) ? money(cell, currency) : String(cell ?? '');
}
