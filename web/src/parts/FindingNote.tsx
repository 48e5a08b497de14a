import type { Schema } from '../api/client';
import { Copy } from './Copy';
import classes from './FindingNote.module.css';
import { Weight } from './Weight';

interface FindingNoteProps {
  finding: Schema['Finding'];
  /** Whether the raw evidence is shown. @default true */
  evidence?: boolean;
}

/** One finding: weight, sentence, evidence as seen, and the corrected value to copy. */
export function FindingNote({ finding, evidence = true }: FindingNoteProps) {
  return (
    <article className={classes.note} data-weight={finding.weight}>
      <header>
        <Weight weight={finding.weight} word />
        <code>{finding.code}</code>
        <span className={classes.version}>by version {finding.convention_version} of the rules</span>
      </header>
      <p>{finding.message}</p>
      {evidence && finding.evidence.length > 0 && <pre>{finding.evidence.join('\n')}</pre>}
      {finding.correction && <Copy text={finding.correction} what={`“${finding.correction}”`} />}
    </article>
  );
}
