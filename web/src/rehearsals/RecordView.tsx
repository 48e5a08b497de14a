import { Button, TextInput } from '@mantine/core';
import { useSessionStorage } from '@mantine/hooks';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { acts, type RecorderWish } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { Failure } from '../parts/Failure';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { useWorkspace } from '../session/useWorkspace';
import { Split } from '../shell/Split';
import { RecordedPage } from './RecordedPage';
import { RecordedSteps } from './RecordedSteps';
import classes from './RecordView.module.css';
import { type Draft, inserted, nameOf, replayed, type Step } from './steps';

type Recorder = Schema['Recorder'];

interface Work {
  title: string;
  owner: string;
  /** Under which it is kept, where it is there already. */
  name: string;
  about: string;
  steps: Draft[];
  /** How many of the steps the page has gone through. */
  here: number;
}

const NOTHING: Work = { title: '', owner: '', name: '', about: '', steps: [], here: 0 };

/** A rehearsal made by doing it: the page at the left, what was done at the right. The steps outlive the page on which they were made. */
export function RecordView() {
  const { name } = useWorkspace();
  const [params] = useSearchParams();
  const of = params.get('of');
  const settings = useQuery({ ...queries.settings(name), enabled: of !== null });
  if (settings.isError) {
    return <Failure error={settings.error} />;
  }
  if (of !== null && !settings.data) {
    return <Loading />;
  }
  const kept = settings.data?.rehearsals.find((one) => one.rehearsal === of);
  return <Recording key={of} begun={kept ? workOf(kept) : NOTHING} />;
}

function workOf(kept: Record<string, unknown>): Work {
  const steps = (kept.steps as Step[]).map((step) => ({ step, heard: [], hidden: [] }));
  return {
    title: String(kept.title),
    owner: String(kept.owner ?? ''),
    name: String(kept.rehearsal),
    about: String(kept.about ?? ''),
    steps,
    here: 0,
  };
}

function Recording({ begun }: { begun: Work }) {
  const { name } = useWorkspace();
  const [params, setParams] = useSearchParams();
  const session = params.get('session');
  const [work, setWork] = useSessionStorage({ key: `recording ${name} ${begun.name}`, defaultValue: begun });
  const write = (changes: Partial<Work>) => setWork((now) => ({ ...now, ...changes }));
  const page = useRecorder(session, (done) => setWork((now) => ({ ...now, ...after(now, done) })));
  const enter = (id: string) => setParams((now) => ({ ...Object.fromEntries(now), session: id }), { replace: true });
  const begin = useMutation({ mutationFn: page.begin, onSuccess: enter });
  const opened = page.state.data && (page.state.data.taken.length > 0 || work.steps.length > 0);
  return (
    <Split
      evidence={
        <>
          <Keep work={work} write={write} begun={begun} session={session} forget={() => setWork(NOTHING)} />
          <RecordedSteps
            steps={work.steps}
            change={(steps) => write({ steps, here: Math.min(work.here, steps.length) })}
            busy={page.act.isPending}
            playTo={session ? (count) => page.act.mutate({ replay: documents(work.steps.slice(0, count)) }) : undefined}
            playOne={session ? (step) => page.again.mutate({ step }) : undefined}
          />
        </>
      }
    >
      {session && page.state.data && opened && !page.state.isError ? (
        <RecordedPage session={session} state={page.state.data} act={page.act} seen={page.seen} />
      ) : (
        <Begin
          steps={work.steps.length}
          why={begin.error?.message ?? page.state.error?.message ?? page.state.data?.problem ?? undefined}
          pending={begin.isPending || (session !== null && page.state.isPending)}
          begin={(address) => begin.mutate(address ? { step: openOf(address) } : { replay: documents(work.steps) })}
        />
      )}
    </Split>
  );
}

const documents = (steps: Draft[]) => steps.map((one) => one.step);

/** A link of the inventory is opened by its number, so that the rehearsal follows it when it changes. */
const openOf = (address: string): Step =>
  /^\d+$/.test(address) ? { open: { link: Number(address) } } : { open: address };

interface Done {
  wish: RecorderWish;
  /** What the page has taken that it had not before. */
  added: Recorder['taken'];
}

function after({ steps, here }: Work, { wish, added }: Done): Partial<Work> {
  return 'replay' in wish
    ? { steps: replayed(steps, added), here: added.length }
    : { steps: inserted(steps, here, added), here: here + added.length };
}

/** The picture follows a page that changes by itself: milliseconds between two looks. */
const LOOKS = 3_000;

/** The page that is worked on, and what is done to it. */
function useRecorder(session: string | null, done: (done: Done) => void) {
  const { name } = useWorkspace();
  const client = useQueryClient();
  const perform = async (id: string, wish: RecorderWish) => {
    const { queryKey } = queries.recorder(name, id);
    // What a look finds that began before the act is not what stands there after it.
    await client.cancelQueries({ queryKey });
    const before = 'replay' in wish ? 0 : (client.getQueryData<Recorder>(queryKey)?.taken.length ?? 0);
    const now = await acts.actInRecorder(name, id, wish);
    client.setQueryData(queryKey, now);
    return now.taken.slice(before);
  };
  const tell = (wish: RecorderWish, added: Recorder['taken']) => done({ wish, added });
  const begin = async (wish: RecorderWish) => {
    const { id } = await acts.beginRecording(name);
    tell(wish, await perform(id, wish));
    return id;
  };
  const act = useMutation({
    mutationFn: async (wish: RecorderWish) => tell(wish, await perform(session ?? '', wish)),
  });
  /** A step done once more is no step of its own. */
  const again = useMutation({
    mutationFn: async (wish: RecorderWish) => {
      await perform(session ?? '', wish);
    },
  });
  const acting = act.isPending || again.isPending;
  const state = useQuery({
    ...queries.recorder(name, session ?? ''),
    enabled: session !== null && !acting,
    refetchInterval: ({ state: { error } }) => (error ? false : LOOKS),
  });
  return { state, begin, act, again, seen: state.dataUpdatedAt };
}

interface BeginProps {
  /** How many steps are there already. */
  steps: number;
  /** Why no page is open, or not any more. */
  why: string | undefined;
  pending: boolean;
  /** Without an address the steps that are there are played. */
  begin: (address?: string) => void;
}

function Begin({ steps, why, pending, begin }: BeginProps) {
  const [params] = useSearchParams();
  const [address, setAddress] = useState(params.get('link') ?? params.get('address') ?? '');
  return (
    <div className={classes.begin}>
      {why && <p role="alert">{why}</p>}
      {steps > 0 ? (
        <>
          <p>The steps at the right are kept. Play them in a fresh page, and go on from there.</p>
          <Button variant="filled" loading={pending} onClick={() => begin()}>
            Play them
          </Button>
        </>
      ) : (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            begin(address.trim());
          }}
        >
          <TextInput
            label="Where the visit begins"
            description="An address with its parameters, as a visitor would click it, or the number of a link in the inventory."
            value={address}
            onChange={(event) => setAddress(event.currentTarget.value)}
          />
          <Button type="submit" variant="filled" mt={8} disabled={!address.trim()} loading={pending}>
            Open it
          </Button>
        </form>
      )}
      <p className={classes.faint}>
        The page opens in the sealed browser: whatever you do on it, nothing is counted by anybody. It ends by itself
        once nobody has worked on it for ten minutes.
      </p>
    </div>
  );
}

interface KeepProps {
  work: Work;
  write: (changes: Partial<Work>) => void;
  begun: Work;
  session: string | null;
  forget: () => void;
}

/** Names the rehearsal and keeps it. */
function Keep({ work, write, begun, session, forget }: KeepProps) {
  const { name } = useWorkspace();
  const navigate = useNavigate();
  const settings = useQuery(queries.settings(name));
  const own = begun.name || nameOf(work.title);
  const others = settings.data?.rehearsals.filter((one) => one.rehearsal !== own) ?? [];
  const taken = !begun.name && settings.data && others.length < settings.data.rehearsals.length;
  const keep = useAct(name, async () => {
    const { title, owner, about, steps } = work;
    const made = {
      rehearsal: own,
      title: title.trim(),
      steps: documents(steps),
      ...(owner.trim() ? { owner: owner.trim() } : {}),
      ...(about ? { about } : {}),
    };
    await acts.changeWorkspace(name, { rehearsals: [...others, made] });
    if (session) {
      await acts.endRecording(name, session).catch(() => undefined);
    }
    forget();
    navigate(`/w/${name}/rehearsals?chosen=${own}`);
  });
  return (
    <Section title={begun.name ? `Changing “${begun.title}”` : 'A new rehearsal'}>
      <div className={classes.keep}>
        <TextInput
          label="What it plays"
          placeholder="Book a day pass"
          value={work.title}
          error={taken ? 'There is one of this name already.' : undefined}
          onChange={(event) => write({ title: event.currentTarget.value })}
        />
        <TextInput
          label="Who can change the pages"
          value={work.owner}
          onChange={(event) => write({ owner: event.currentTarget.value })}
        />
        <Button
          variant="filled"
          disabled={!work.title.trim() || work.steps.length === 0 || !settings.data || taken}
          loading={keep.isPending}
          onClick={() => keep.mutate(undefined)}
        >
          Keep it
        </Button>
      </div>
    </Section>
  );
}
