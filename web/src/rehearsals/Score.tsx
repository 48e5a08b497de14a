import { Fragment } from 'react';
import type { Schema } from '../api/client';
import classes from './Score.module.css';

type Run = Schema['Run'];
type Note = Schema['Note'];

interface ScoreProps {
  run: Run;
  /** Readable names of the tags. */
  tags: Record<string, string>;
  chosen: number | undefined;
  onChoose: (step: number) => void;
}

/**
 * A rehearsal as a score: time runs to the right, steps are measures, each tag has a stave. What was expected is drawn hollow and
 * filled when it was heard; what is missing stays hollow, what sounded twice stands twice.
 */
export function Score({ run, tags, chosen, onChoose }: ScoreProps) {
  const columns = { gridTemplateColumns: `max-content repeat(${run.steps.length}, minmax(max-content, 1fr))` };
  const staves = Object.keys(tags).filter((tag) => run.notes.some((note) => note.tag === tag));
  return (
    <div className={classes.score} style={columns}>
      <span />
      {run.steps.map((step) => (
        <button
          key={step.number}
          type="button"
          className={classes.measure}
          aria-pressed={step.number === chosen}
          data-failed={step.error !== undefined || undefined}
          title={step.does}
          onClick={() => onChoose(step.number)}
        >
          <b>{step.number}</b> {step.does.split(' ')[0]}
          <span>{(step.from / 1000).toFixed(1)} s</span>
        </button>
      ))}
      {staves.map((tag) => (
        <Fragment key={tag}>
          <span className={classes.tag}>{tags[tag]}</span>
          {run.steps.map((step) => (
            <Measure
              key={step.number}
              chosen={step.number === chosen}
              notes={run.notes.filter((note) => note.tag === tag && note.step === step.number)}
            />
          ))}
        </Fragment>
      ))}
    </div>
  );
}

interface MeasureProps {
  chosen: boolean;
  /** Of one tag in one step. */
  notes: Note[];
}

function Measure({ chosen, notes }: MeasureProps) {
  return (
    <span className={classes.bar} data-chosen={chosen || undefined}>
      {notes.map((note, nth) => (
        <span
          key={`${note.at} ${note.event} ${nth}`}
          className={classes.note}
          data-state={note.state}
          title={`${note.event}: ${TITLES[note.state]}`}
        >
          <i />
          {note.event}
          {WORDS[note.state] && <em> {WORDS[note.state]}</em>}
        </span>
      ))}
    </span>
  );
}

const WORDS: Partial<Record<Note['state'], string>> = {
  absent: 'absent',
  awaited: 'came in another step',
  elsewhere: 'expected in another step',
  again: 'again',
  unexpected: 'unexpected',
};

const TITLES: Record<Note['state'], string> = {
  heard: 'expected and heard',
  absent: 'expected and never heard',
  awaited: 'expected here, heard in another step',
  elsewhere: 'heard here, expected in another step',
  again: 'one conversion, heard once more',
  unexpected: 'a conversion that nobody speaks of',
  overheard: 'heard; nothing is expected of it',
};
