import { Button, Group, Select, TextInput } from '@mantine/core';
import type { UseMutationResult } from '@tanstack/react-query';
import { type MouseEvent, useState } from 'react';
import type { RecorderWish } from '../api/acts';
import type { Schema } from '../api/client';
import { Toolbar } from '../parts/Toolbar';
import { useWorkspace } from '../session/useWorkspace';
import classes from './RecordView.module.css';
import type { Act } from './steps';

type Recorder = Schema['Recorder'];
type Useful = Schema['Useful'];
type Acting = UseMutationResult<void, Error, RecorderWish>;

const DOWN = 600;
/** Acts that need nothing pointed at. */
const PLAIN: { act: Act; label: string }[] = [
  { act: 'back', label: 'Back' },
  { act: 'reload', label: 'Load again' },
  { act: 'new_tab', label: 'To the new tab' },
  { act: 'accept', label: 'Say yes' },
  { act: 'refuse', label: 'Say no' },
];

interface RecordedPageProps {
  session: string;
  state: Recorder;
  act: Acting;
  /** When the page may have changed last: a picture of its own address is fetched anew. */
  seen: number;
}

/** The picture of the page: a click on it is a click on the page. Whoever has no pointer chooses from what is there. */
export function RecordedPage({ session, state, act, seen }: RecordedPageProps) {
  const { name } = useWorkspace();
  const [chosen, setChosen] = useState<Useful | null>(null);
  const asked = chosen ?? state.asks;
  const perform = (wish: RecorderWish) => act.mutate(wish, { onSuccess: () => setChosen(null) });
  return (
    <div className={classes.page}>
      <Toolbar>
        {PLAIN.map(({ act: does, label }) => (
          <Button key={does} disabled={act.isPending} onClick={() => perform({ step: { [does]: true } })}>
            {label}
          </Button>
        ))}
      </Toolbar>
      <p className={classes.address} title={state.address}>
        {state.address}
      </p>
      <Group gap={8} className={classes.below}>
        <Button disabled={act.isPending} onClick={() => perform({ scroll: -DOWN })}>
          Further up
        </Button>
        <Button disabled={act.isPending} onClick={() => perform({ scroll: DOWN })}>
          Further down
        </Button>
        <Select
          aria-label="Or choose what is on the page"
          placeholder="Or choose what is on the page"
          searchable
          w={260}
          data={state.useful.map((one, at) => ({ value: String(at), label: `${one.said} (${one.kind})` }))}
          value={chosen && String(state.useful.findIndex((one) => same(one, chosen)))}
          onChange={(at) => setChosen(at === null ? null : (state.useful[Number(at)] ?? null))}
        />
      </Group>
      <div className={classes.said}>
        {!asked && !state.problem && !act.isError && <p>Click on the page as a visitor would.</p>}
        {asked && <Asked key={JSON.stringify(asked.target)} asked={asked} perform={perform} pending={act.isPending} />}
        {state.problem && (
          <p role="alert" className={classes.problem}>
            That was not done: {state.problem}
          </p>
        )}
        {act.isError && (
          <p role="alert" className={classes.problem}>
            {act.error.message}
          </p>
        )}
      </div>
      <button
        type="button"
        className={classes.picture}
        aria-label="The page. A click here clicks there; without a pointer, choose from the list above."
        aria-busy={act.isPending}
        disabled={act.isPending}
        onClick={(event) => {
          const at = placeOf(event);
          if (at) {
            perform({ at });
          }
        }}
      >
        <img alt="" src={`/api/workspaces/${name}/recorders/${session}/view.png?seen=${seen}`} />
      </button>
    </div>
  );
}

/** A page that has changed meanwhile names its parts anew. */
const same = (one: Useful, other: Useful) => JSON.stringify(one.target) === JSON.stringify(other.target);

/** Where on the page the picture was clicked; a click by the keyboard has no place. */
function placeOf(event: MouseEvent<HTMLButtonElement>) {
  const picture = event.currentTarget.querySelector('img');
  if (!picture || event.detail === 0) {
    return undefined;
  }
  const box = picture.getBoundingClientRect();
  const scale = picture.naturalWidth / box.width;
  return { x: (event.clientX - box.left) * scale, y: (event.clientY - box.top) * scale };
}

interface AskedProps {
  asked: Useful;
  perform: (wish: RecorderWish) => void;
  pending: boolean;
}

/** What is to be done with what was pointed at. */
function Asked({ asked, perform, pending }: AskedProps) {
  const [value, setValue] = useState(asked.kind === 'choose' ? '' : asked.value);
  const within = asked.within ? { within: asked.within } : {};
  const does = (act: Act, more: Record<string, unknown> = {}) =>
    perform({ step: { [act]: asked.target, ...more, ...within } });
  if (asked.kind === 'click' || asked.kind === 'tick') {
    return (
      <Group gap={8} className={classes.asked}>
        <b>{asked.said}</b>
        <Button disabled={pending} onClick={() => does(asked.kind)}>
          {asked.kind === 'tick' ? 'Tick it' : 'Click it'}
        </Button>
        {asked.kind === 'click' && (
          <Button disabled={pending} onClick={() => does('double_click')}>
            Click it twice
          </Button>
        )}
        <Button disabled={pending} onClick={() => does('wait_for')}>
          Wait for it
        </Button>
      </Group>
    );
  }
  return (
    <form
      className={classes.asked}
      onSubmit={(event) => {
        event.preventDefault();
        does(asked.kind, { with: value });
      }}
    >
      {asked.options ? (
        <Select
          label={asked.said}
          data={choices(asked.options)}
          value={value}
          onChange={(one) => setValue(one ?? '')}
        />
      ) : (
        <TextInput
          label={asked.said}
          description={WHAT[asked.kind]}
          data-autofocus
          autoFocus
          value={value}
          onChange={(event) => setValue(event.currentTarget.value)}
        />
      )}
      <Button type="submit" variant="filled" disabled={pending || value === ''}>
        {asked.kind === 'choose' ? 'Choose it' : 'Fill it in'}
      </Button>
    </form>
  );
}

/** A page may offer one value twice; a rehearsal cannot tell the two apart. */
function choices(options: NonNullable<Useful['options']>) {
  const named = options.map((one) => [one.value, one.said || one.value || '(empty)'] as const);
  return [...new Map(named)].map(([value, label]) => ({ value, label }));
}

const WHAT: Record<string, string> = {
  date: 'As 2026-12-24, or 2026-12-24T09:30 where it asks for a time.',
  upload: 'The text of the small file that is given.',
};
