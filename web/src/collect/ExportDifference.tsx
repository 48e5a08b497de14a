import '@mantine/core/styles/FloatingIndicator.css';
import '@mantine/core/styles/SegmentedControl.css';
import { SegmentedControl } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { queries } from '../api/queries';
import { count, counted, onDay } from '../parts/format';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Collect.module.css';

const BY = [
  { value: 'day', label: 'By day' },
  { value: 'channel', label: 'By channel' },
  { value: 'campaign', label: 'By campaign' },
] as const;

/** An export beside the one that it has replaced: on which days they differ, in what, and since when. */
export function ExportDifference({ id }: { id: number }) {
  const { name } = useWorkspace();
  const [by, setBy] = useState<(typeof BY)[number]['value']>('day');
  const found = useQuery(queries.exportDifference(name, id)).data;
  if (!found || found.days === 0) {
    return null;
  }
  if (found.differ === 0) {
    return <p className={classes.about}>The same as before on {counted(found.days, 'day')} that both hold.</p>;
  }
  return (
    <>
      <p className={classes.about}>
        Beside the export that it has replaced: they differ on {count(found.differ)} of {counted(found.days, 'day')}{' '}
        that both hold.
      </p>
      <SegmentedControl
        size="xs"
        aria-label="Compared by"
        data={[...BY]}
        value={by}
        onChange={(value) => setBy(value as typeof by)}
      />
      <table className={classes.table}>
        <thead>
          <tr>
            <th>{by}</th>
            <th>Sessions before</th>
            <th>now</th>
            <th>Conversions before</th>
            <th>now</th>
            <th>Differs since</th>
          </tr>
        </thead>
        <tbody>
          {found.by[by].map((one) => (
            <tr key={one.value}>
              <td>{by === 'day' ? onDay(one.value) : one.value || '–'}</td>
              <td>{count(one.before.sessions)}</td>
              <td>{count(one.after.sessions)}</td>
              <td>{count(one.before.conversions)}</td>
              <td>{count(one.after.conversions)}</td>
              <td>{onDay(one.since)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
