import { Button, FileButton, TagsInput, TextInput } from '@mantine/core';
import type { Schema } from '../api/client';
import { Section } from '../parts/Section';
import classes from './Workspaces.module.css';

type Settings = Schema['Settings'];
interface Event {
  tag: string;
  event: string;
}
interface Goal {
  page: string;
  events: Event[];
}

interface Step {
  name: string;
  page: string;
}

interface GoalsProps {
  settings: Settings;
  write: (changes: Partial<Settings>) => void;
}

/** Pages that belong to a conversion, with its events; and the events that the analytics tool counts. */
export function Goals({ settings, write }: GoalsProps) {
  const { watching } = settings;
  const goals = (watching.goals ?? []) as Goal[];
  const steps = (watching.steps ?? []) as Step[];
  const counted = watching.counted_events as Event[] | undefined;
  const put = (changes: Record<string, unknown>) => {
    const changed = Object.entries({ ...watching, ...changes }).filter(([, value]) => value !== undefined);
    write({ watching: Object.fromEntries(changed) });
  };
  const putGoal = (index: number, goal: Goal) => put({ goals: goals.map((one, at) => (at === index ? goal : one)) });
  return (
    <>
      <Section
        title="Goal pages"
        aside={<Button onClick={() => put({ goals: [...goals, { page: '', events: [] }] })}>Add a goal page</Button>}
      >
        <p className={classes.said}>
          A conversion that leaves from any other page when it is opened is a finding. Events are written tag:event.
        </p>
        {goals.map((goal, index) => (
          <div key={index} className={classes.row}>
            <TextInput
              label="Page"
              w={320}
              placeholder="www.your-site.example/thanks"
              value={goal.page}
              onChange={(event) => putGoal(index, { ...goal, page: event.currentTarget.value })}
            />
            <TagsInput
              label="Its events"
              w={320}
              value={goal.events.map(written)}
              onChange={(events) => putGoal(index, { ...goal, events: events.flatMap(read) })}
            />
            <Button
              aria-label={`${goal.page || 'This page'} is no goal`}
              onClick={() => put({ goals: goals.length === 1 ? undefined : goals.filter((_, at) => at !== index) })}
            >
              Take away
            </Button>
          </div>
        ))}
        <FileButton
          accept=".csv,.txt"
          onChange={async (file) => file && put({ counted_events: listed(await file.text()) })}
        >
          {(props) => <Button {...props}>Take counted events from a list (CSV: tag, event)</Button>}
        </FileButton>
        <TagsInput
          label="Events that the analytics tool counts as conversions"
          description="An event of a goal page that is not among them is a finding, and so is one of them that nothing sends; where none is named, neither is."
          w={650}
          value={(counted ?? []).map(written)}
          onChange={(events) => put({ counted_events: events.length ? events.flatMap(read) : undefined })}
        />
      </Section>
      <Steps steps={steps} put={(next) => put({ steps: next.length ? next : undefined })} />
    </>
  );
}

/** Pages on the way to a goal, in their order. */
function Steps({ steps, put }: { steps: Step[]; put: (steps: Step[]) => void }) {
  const set = (index: number, step: Step) => put(steps.map((one, at) => (at === index ? step : one)));
  return (
    <Section
      title="Steps on the way to a goal"
      aside={<Button onClick={() => put([...steps, { name: '', page: '' }])}>Add a step</Button>}
    >
      <p className={classes.said}>
        Access logs tell how far each visit went: Traffic › Steps shows where those of a campaign end. A star at the end
        covers every page that begins so, one before it a part of the path.
      </p>
      {steps.map((step, index) => (
        <div key={index} className={classes.row}>
          <TextInput
            label="Step"
            w={160}
            value={step.name}
            onChange={(event) => set(index, { ...step, name: event.currentTarget.value })}
          />
          <TextInput
            label="Its page"
            w={320}
            placeholder="/groups/enquiry"
            value={step.page}
            onChange={(event) => set(index, { ...step, page: event.currentTarget.value })}
          />
          <Button
            aria-label={`${step.name || 'This'} is no step`}
            onClick={() => put(steps.filter((_, at) => at !== index))}
          >
            Take away
          </Button>
        </div>
      ))}
    </Section>
  );
}

const written = ({ tag, event }: Event) => `${tag}:${event}`;

/** A tag and an event in each line; a heading is none. */
const listed = (text: string) =>
  text
    .split(/\r?\n/)
    .map((line) => line.split(/[,;\t]/).map((cell) => cell.trim().replace(/^"|"$/g, '')))
    .flatMap(([tag, event]) => (tag && event && tag.toLowerCase() !== 'tag' ? [{ tag, event }] : []));

/** What has no colon is no event yet. */
function read(text: string): Event[] {
  const [tag, ...rest] = text.split(':');
  const event = rest.join(':').trim();
  return tag?.trim() && event ? [{ tag: tag.trim(), event }] : [];
}
