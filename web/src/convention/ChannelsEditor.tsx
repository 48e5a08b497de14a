import { Button, Checkbox, TextInput } from '@mantine/core';
import { type DragEvent, useState } from 'react';
import { count } from '../parts/format';
import { Section } from '../parts/Section';
import { Conditions } from './Conditions';
import classes from './Convention.module.css';
import type { ChannelRule } from './document';
import type { PartProps } from './EditView';
import { useTrial } from './useTrial';

const FIELDS = ['source', 'medium', 'campaign', 'referrer'] as const;

/** The rules that give a visit its channel, in the order in which they are asked; and a line to try them with. */
export function ChannelsEditor({ document, change }: PartProps) {
  const [visit, setVisit] = useState<Record<string, string>>({});
  const [dragged, setDragged] = useState<number>();
  const trial = useTrial({ document, visit }).data;
  const rules = document.channels;
  const write = (channels: ChannelRule[]) => change({ ...document, channels: channels as typeof document.channels });
  const put = (at: number, rule: ChannelRule) => write(rules.map((one, index) => (index === at ? rule : one)));
  const move = (from: number, to: number) =>
    write(rules.toSpliced(from, 1).toSpliced(to, 0, rules[from] as ChannelRule));
  const drop = (event: DragEvent, to: number) => {
    event.preventDefault();
    if (dragged !== undefined) {
      move(dragged, to);
    }
    setDragged(undefined);
  };
  const hit = trial?.visit?.rule;
  return (
    <Section
      title="Channel rules"
      aside={<Button onClick={() => write([...rules, { channel: 'New channel', when: [] }])}>Add a rule</Button>}
    >
      <p className={classes.said}>
        In order: the first rule whose conditions all hold gives a visit its channel. Letter case counts.
      </p>
      <div className={classes.fields}>
        {FIELDS.map((field) => (
          <TextInput
            key={field}
            label={`Try a ${field}`}
            value={visit[field] ?? ''}
            onChange={(event) => setVisit({ ...visit, [field]: event.currentTarget.value })}
          />
        ))}
      </div>
      <p className={classes.said} role="status">
        {trial?.faults.length ? trial.faults.join(' ') : verdict(trial?.visit)}
      </p>
      <ol className={classes.channels}>
        {rules.map((rule, index) => (
          <li
            key={index}
            data-hit={hit === index + 1 || undefined}
            onDragOver={(event) => event.preventDefault()}
            onDrop={(event) => drop(event, index)}
          >
            <Rule
              rule={rule}
              number={index + 1}
              of={rules.length}
              caught={trial && trial.sessions > 0 ? (trial.caught[index] ?? 0) : null}
              sessions={trial?.sessions ?? 0}
              put={(changed) => put(index, changed)}
              move={(to) => move(index, to)}
              takeOut={() => write(rules.toSpliced(index, 1))}
              drag={() => setDragged(index)}
            />
            <Conditions number={index + 1} when={rule.when} write={(when) => put(index, { ...rule, when })} />
          </li>
        ))}
      </ol>
      {trial && trial.sessions > 0 && <p>{count(trial.unassigned)} sessions are caught by no rule.</p>}
    </Section>
  );
}

/** One rule: its channel, what it catches, and its place.
 * number: from 1 · of: how many there are · caught: of the sessions at hand, null where there are none · move: to an index. */
function Rule({
  rule,
  number,
  of,
  caught,
  sessions,
  put,
  move,
  takeOut,
  drag,
}: {
  rule: ChannelRule;
  number: number;
  of: number;
  caught: number | null;
  sessions: number;
  put: (rule: ChannelRule) => void;
  move: (to: number) => void;
  takeOut: () => void;
  drag: () => void;
}) {
  return (
    <div className={classes.channel}>
      <span className={classes.grip} draggable onDragStart={drag} title="Drag to another place" aria-hidden="true">
        {number}
      </span>
      <TextInput
        aria-label={`Channel of rule ${number}`}
        value={rule.channel}
        onChange={(event) => put({ ...rule, channel: event.currentTarget.value })}
      />
      <Checkbox
        label="paid"
        checked={rule.paid ?? false}
        onChange={(event) => put({ ...rule, paid: event.currentTarget.checked })}
      />
      <span className={classes.caught}>{caught !== null && `${count(caught)} of ${count(sessions)} sessions`}</span>
      <Button
        variant="subtle"
        disabled={number === 1}
        aria-label={`Ask rule ${number} earlier`}
        onClick={() => move(number - 2)}
      >
        ↑
      </Button>
      <Button
        variant="subtle"
        disabled={number === of}
        aria-label={`Ask rule ${number} later`}
        onClick={() => move(number)}
      >
        ↓
      </Button>
      <Button variant="subtle" disabled={of === 1} aria-label={`Take out rule ${number}`} onClick={takeOut}>
        Take out
      </Button>
    </div>
  );
}

function verdict(
  visit: { channel: string; rule: number | null; because: string | null; nearest: string | null } | null | undefined,
) {
  if (!visit) {
    return '';
  }
  return visit.rule
    ? `Such a visit is “${visit.channel}”, by rule ${visit.rule}: ${visit.because}.`
    : `Such a visit is caught by no rule.${visit.nearest ? ` Nearest: ${visit.nearest}.` : ''}`;
}
