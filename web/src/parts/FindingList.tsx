import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { useWorkspace } from '../session/useWorkspace';
import { FindingNote } from './FindingNote';
import classes from './FindingNote.module.css';
import { Waive } from './Waive';

interface FindingListProps {
  findings: Schema['Finding'][];
  /** Whether what was seen says more than the view around it. @default all of it does */
  seen?: (finding: Schema['Finding']) => boolean;
}

/** Findings, each with a person's word that it may stand, and the way to what mends it. */
export function FindingList({ findings, seen = () => true }: FindingListProps) {
  const { name } = useWorkspace();
  return findings.map((finding) => (
    <div key={finding.id}>
      <FindingNote finding={finding} evidence={seen(finding)} />
      <Waive finding={finding} />
      {finding.fix_id && (
        <Link className={classes.door} to={`/w/${name}/fixes?chosen=${finding.fix_id}`}>
          To its fix
        </Link>
      )}
    </div>
  ));
}
