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
import { Split } from '../shell/Split';
import { useWorkspace } from '../shell/Workbench';
import { RecordedPage } from './RecordedPage';
import { RecordedSteps } from './RecordedSteps';
import classes from './RecordView.module.css';
import { type Draft, draftOf, nameOf, type Step } from './steps';

type Recorder = Schema['Recorder'];

interface Work {
  title: string;
  owner: string;
  /** Under which it is kept, where it is there already. */
  name: string;
  about: string;
  steps: Draft[];
}

const NOTHING: Work = { title: '', owner: '', name: '', about: '', steps: [] };

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
  };
}

function Recording({ begun }: { begun: Work }) {
  const { name } = useWorkspace();
  const [params, setParams] = useSearchParams();
  const session = params.get('session');
  const [work, setWork] = useSessionStorage({ key: `recording ${name} ${begun.name}`, defaultValue: begun });
  const write = (changes: Partial<Work>) => setWork((now) => ({ ...now, ...changes }));
  const page = useRecorder(session, (taken) => setWork((now) => ({ ...now, steps: stepsAfter(now.steps, taken) })));
  const enter = (id: string) => setParams((now) => ({ ...Object.fromEntries(now), session: id }), { replace: true });
  const begin = useMutation({ mutationFn: () => acts.beginRecording(name), onSuccess: (made) => enter(made.id) });
  const steps = (
    <RecordedSteps
      steps={work.steps}
      change={(changed) => write({ steps: changed })}
      busy={page.act.isPending}
      playTo={session ? (count) => page.act.mutate({ replay: documents(work.steps.slice(0, count)) }) : undefined}
      playOne={session ? (step) => page.act.mutate({ step }) : undefined}
    />
  );
  return (
    <Split
      evidence={
        <>
          <Keep work={work} write={write} begun={begun} session={session} forget={() => setWork(NOTHING)} />
          {steps}
        </>
      }
    >
      {session && page.state.data ? (
        <RecordedPage session={session} state={page.state.data} act={page.act} />
      ) : (
        <Begin
          steps={work.steps.length}
          ended={page.state.error}
          pending={begin.isPending || (session !== null && page.state.isPending)}
          error={begin.error}
          begin={(address) =>
            begin.mutate(undefined, {
              onSuccess: (made) =>
                page.actIn(made.id, address ? { step: openOf(address) } : { replay: documents(work.steps) }),
            })
          }
        />
      )}
    </Split>
  );
}

const documents = (steps: Draft[]) => steps.map((one) => one.step);

/** A link of the inventory is opened by its number, so that the rehearsal follows it when it changes. */
const openOf = (address: string): Step =>
  /^\d+$/.test(address) ? { open: { link: Number(address) } } : { open: address };

/** What was done last is added; steps that were played again tell anew what was heard. */
function stepsAfter(steps: Draft[], { before, after }: { before: number; after: Recorder['taken'] }): Draft[] {
  const added = after.slice(before).map(draftOf);
  if (before > 0 || steps.length === 0) {
    return [...steps, ...added];
  }
  return steps.map((one, at) => {
    const again = after[at];
    return again ? { ...one, heard: again.heard, hidden: again.hidden, page: again.page } : one;
  });
}

/** The page that is worked on, and what is done to it. */
function useRecorder(session: string | null, done: (taken: { before: number; after: Recorder['taken'] }) => void) {
  const { name } = useWorkspace();
  const client = useQueryClient();
  const state = useQuery({ ...queries.recorder(name, session ?? ''), enabled: session !== null });
  const perform = async (id: string, wish: RecorderWish) => {
    const before =
      'replay' in wish ? 0 : (client.getQueryData<Recorder>(queries.recorder(name, id).queryKey)?.taken.length ?? 0);
    const now = await acts.actInRecorder(name, id, wish);
    client.setQueryData(queries.recorder(name, id).queryKey, now);
    if ('replay' in wish || now.taken.length > before) {
      done({ before, after: now.taken });
    }
  };
  const act = useMutation({ mutationFn: (wish: RecorderWish) => perform(session ?? '', wish) });
  return { state, act, actIn: perform };
}

interface BeginProps {
  /** How many steps are there already. */
  steps: number;
  /** Why the page that was worked on is there no more. */
  ended: Error | null;
  error: Error | null;
  pending: boolean;
  /** Without an address the steps that are there are played. */
  begin: (address?: string) => void;
}

function Begin({ steps, ended, error, pending, begin }: BeginProps) {
  const [params] = useSearchParams();
  const [address, setAddress] = useState(params.get('link') ?? params.get('address') ?? '');
  const failed = error ?? ended;
  return (
    <div className={classes.begin}>
      {failed && <Failure error={failed} />}
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
