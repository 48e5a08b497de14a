import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { counted, onDay } from '../parts/format';
import { Section } from '../parts/Section';
import { useWorkspace } from '../session/useWorkspace';

type Found = NonNullable<Schema['LinkDetail']['visits']>;

/** From a link to the visits that carry its values; or that there are none, and since when there should have been some. */
export function Visits({ visits }: { visits: Found }) {
  const { name } = useWorkspace();
  const values = Object.values(visits.values).join(' / ');
  const where = new URLSearchParams(visits.values);
  return (
    <Section title="Visits with its values" aside={values}>
      {visits.sessions > 0 ? (
        <p>
          <Link to={`/w/${name}/traffic/rows?${where}`}>{counted(visits.sessions, 'session')}</Link> and{' '}
          {counted(visits.conversions, 'conversion')}, from {onDay(visits.first)} to {onDay(visits.last)}.
        </p>
      ) : (
        <p>
          No visits yet.{' '}
          {visits.since && visits.since <= visits.until
            ? `It has been out since ${onDay(visits.since)}, and rows are here up to ${onDay(visits.until)}: some should carry these values.`
            : `Rows are here up to ${onDay(visits.until)}.`}
        </p>
      )}
    </Section>
  );
}
