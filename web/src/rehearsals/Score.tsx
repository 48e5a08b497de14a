import { Fragment } from 'react';
import type { Schema } from '../api/client';
import classes from './Score.module.css';

type Run = Schema['Run'];
type Signal = Schema['Signal'];
type Expectation = Run['expectations'][number];

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
  const staves = Object.keys(tags).filter(
    (tag) => run.signals.some((signal) => signal.tag === tag) || run.expectations.some((one) => one.tag === tag),
  );
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
              signals={run.signals.filter((signal) => signal.tag === tag && signal.step === step.number)}
              expectations={run.expectations.filter((one) => one.tag === tag && one.step === step.number)}
              expectedEvents={run.expectations.filter((one) => one.tag === tag).map((one) => one.event)}
            />
          ))}
        </Fragment>
      ))}
    </div>
  );
}

interface MeasureProps {
  chosen: boolean;
  signals: Signal[];
  expectations: Expectation[];
  /** Events of this tag that any step speaks of: others are merely overheard. */
  expectedEvents: string[];
}

function Measure({ chosen, signals, expectations, expectedEvents }: MeasureProps) {
  const awaited = expectations.flatMap((one) => {
    const heard = signals.filter((signal) => signal.event === one.event);
    return Array.from({ length: Math.max(one.times, heard.length) }, (_, nth) => ({
      key: `${one.event} ${nth}`,
      event: one.event,
      state: nth >= heard.length ? 'absent' : nth >= one.times ? 'extra' : 'heard',
    }));
  });
  const overheard = signals
    .filter((signal) => !expectations.some((one) => one.event === signal.event))
    .map((signal) => ({
      key: `${signal.at} ${signal.event}`,
      event: signal.event,
      state:
        signal.kind === 'conversion' || (signal.kind !== 'page_view' && expectedEvents.includes(signal.event))
          ? 'extra'
          : 'overheard',
    }));
  return (
    <span className={classes.bar} data-chosen={chosen || undefined}>
      {[...awaited, ...overheard].map((note) => (
        <span
          key={note.key}
          className={classes.note}
          data-state={note.state}
          title={`${note.event}: ${WORDS[note.state] ?? ''}`}
        >
          <i />
          {note.event}
          {note.state === 'absent' && <em> absent</em>}
          {note.state === 'extra' && <em> again</em>}
        </span>
      ))}
    </span>
  );
}

const WORDS: Record<string, string> = {
  heard: 'expected and heard',
  absent: 'expected and never heard',
  extra: 'heard, though nothing was expected here',
  overheard: 'heard; nothing is expected of it',
};
