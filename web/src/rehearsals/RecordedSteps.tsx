import { Button, Checkbox, Group, TextInput } from '@mantine/core';
import { EmptyState } from '../parts/EmptyState';
import { Section } from '../parts/Section';
import classes from './RecordView.module.css';
import { ACTS, actOf, type Draft, expecting, expects, holding, holds, moved, type Step, targetOf } from './steps';

interface RecordedStepsProps {
  steps: Draft[];
  change: (steps: Draft[]) => void;
  busy: boolean;
  /** Plays the first steps in a fresh page; nothing without one. */
  playTo?: (count: number) => void;
  /** Does one step where the page now stands. */
  playOne?: (step: Step) => void;
}

/** What was done so far: each step with what was heard in it, which it may expect from now on. */
export function RecordedSteps({ steps, change, busy, playTo, playOne }: RecordedStepsProps) {
  if (steps.length === 0) {
    return <EmptyState title="No step yet." hint="What you do on the page stands here, with what was heard." />;
  }
  return (
    <Section title="Steps">
      <ol className={classes.steps}>
        {steps.map((one, at) => (
          <li key={at}>
            <One draft={one} change={(step) => change(steps.with(at, { ...one, step }))} />
            <Group gap={4}>
              {at > 0 && (
                <Button variant="subtle" onClick={() => change(moved(steps, at, at - 1))}>
                  Earlier
                </Button>
              )}
              {at < steps.length - 1 && (
                <Button variant="subtle" onClick={() => change(moved(steps, at, at + 1))}>
                  Later
                </Button>
              )}
              <Button variant="subtle" onClick={() => change(steps.toSpliced(at, 1))}>
                Take out
              </Button>
              {playTo && (
                <Button variant="subtle" disabled={busy} onClick={() => playTo(at + 1)}>
                  Play to here
                </Button>
              )}
              {playOne && (
                <Button variant="subtle" disabled={busy} onClick={() => playOne(one.step)}>
                  Do it once more
                </Button>
              )}
            </Group>
          </li>
        ))}
      </ol>
    </Section>
  );
}

function One({ draft, change }: { draft: Draft; change: (step: Step) => void }) {
  const { step, heard, hidden } = draft;
  const expected =
    step.expect?.filter((one) => !heard.some((signal) => signal.tag === one.tag && signal.event === one.event)) ?? [];
  return (
    <div className={classes.step}>
      <p>
        <b>{ACTS[actOf(step)]}</b> <span className={classes.target}>{targetOf(step)}</span>
      </p>
      {step.with !== undefined && (
        <TextInput
          aria-label={`With what: ${targetOf(step)}`}
          value={step.with}
          onChange={(event) => change({ ...step, with: event.currentTarget.value })}
        />
      )}
      {heard.map((signal) => (
        <Checkbox
          key={`${signal.tag} ${signal.event}`}
          label={`expect ${signal.tag} “${signal.event}”${signal.times > 1 ? `, ${signal.times} times` : ''}${said(signal.values)}`}
          checked={expects(step, signal)}
          onChange={() => change(expecting(step, signal))}
        />
      ))}
      {hidden.map((field) => (
        <Checkbox
          key={field.field}
          label={`hidden field ${field.field} holds ${field.role ? `the landing’s ${field.role}` : 'something'} (now “${field.value.slice(0, 60)}”)`}
          checked={holds(step, field)}
          onChange={() => change(holding(step, field))}
        />
      ))}
      {expected.map((one) => (
        <p key={`${one.tag} ${one.event}`} className={classes.faint}>
          expects {one.tag} “{one.event}”
        </p>
      ))}
      {heard.length > 0 && (
        <Checkbox
          label="and nothing else leaves"
          checked={step.only === true}
          onChange={() => {
            const { only, ...rest } = step;
            change((only ? rest : { ...step, only: true }) as Step);
          }}
        />
      )}
    </div>
  );
}

function said(values: Record<string, unknown>) {
  const parts = Object.entries(values).map(([field, value]) => `${field} ${value}`);
  return parts.length > 0 ? `: ${parts.join(', ')}` : '';
}
