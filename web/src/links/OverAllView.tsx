import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { counted } from '../parts/format';
import { Waive } from '../parts/Waive';
import { Weight } from '../parts/Weight';
import { useWorkspace } from '../session/useWorkspace';
import classes from './OverAll.module.css';

type Finding = Schema['Finding'];

interface Place {
  role?: string;
  keep?: string;
  values?: { value: string; links: number; sessions: number }[];
  links?: number[];
}

/** What shows only over many links: one value in several spellings, one name with several meanings, one ad with two pages. */
export function OverAllView() {
  const { name } = useWorkspace();
  const found = useQuery(queries.overAll(name));
  if (found.isError) {
    return <Failure error={found.error} />;
  }
  if (found.data?.findings.length === 0) {
    return (
      <EmptyState
        title="Nothing is spelled in two ways."
        hint="A sweep of all links compares their values, their names and their ads with each other."
      />
    );
  }
  return (
    <div className={classes.page}>
      <h2>What shows only over many links</h2>
      {found.data?.findings.map((finding) => (
        <Group key={finding.id} finding={finding} />
      ))}
    </div>
  );
}

function Group({ finding }: { finding: Finding }) {
  const { name } = useWorkspace();
  const place = finding.place as Place;
  return (
    <article className={classes.group}>
      <header>
        <Weight weight={finding.weight} word /> <code>{finding.code}</code>
      </header>
      <p>{finding.message}</p>
      {place.values && (
        <table>
          <tbody>
            {place.values.map((value) => (
              <tr key={value.value}>
                <td>
                  <code>{value.value}</code>
                </td>
                <td>{counted(value.links, 'link')}</td>
                <td>{value.sessions > 0 && counted(value.sessions, 'session')}</td>
                <td>{value.value === place.keep ? 'to keep' : ''}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {!place.values && finding.evidence.map((line) => <p key={line}>{line}</p>)}
      {place.links && (
        <Link to={`/w/${name}/links?group=${finding.id}`}>{counted(place.links.length, 'link')} to change</Link>
      )}
      <Waive finding={finding} />
    </article>
  );
}
