import { Button, Group, Textarea, TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { acts } from '../api/acts';
import { ProblemError, type Schema } from '../api/client';
import { useAct } from '../api/useAct';
import { count, counted, ofAll } from '../parts/format';
import { useAuthor } from '../parts/useAuthor';
import { Weight } from '../parts/Weight';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Convention.module.css';
import { Differences } from './Differences';
import type { ConventionDocument } from './document';
import type { useDraft } from './useDraft';

type Outlook = Schema['RulesOutlook'];

/** What the change would do to the links at hand, and saving it. */
export function Effect({ draft }: { draft: ReturnType<typeof useDraft> }) {
  const { name } = useWorkspace();
  const [settled] = useDebouncedValue(draft.document, 500);
  const effect = useQuery({
    queryKey: ['effect', name, settled],
    queryFn: () => acts.previewConvention(name, settled as unknown as Record<string, unknown>),
    enabled: draft.changed,
    gcTime: 10_000,
    placeholderData: (before) => before,
  });
  return (
    <aside className={classes.effect} aria-label="Effect">
      <h2>{draft.changed ? 'What this would change' : 'Nothing is changed yet'}</h2>
      {!draft.changed && (
        <p className={classes.faint}>
          Change a rule, and the links whose verdict it would change stand here before anything is saved.
        </p>
      )}
      {draft.changed && effect.data && <Shown outlook={effect.data} />}
      {draft.changed && effect.isError && <p role="alert">{effect.error.message}</p>}
      {draft.changed && (
        <Saving draft={draft} blocked={!effect.data || effect.data.faults.length > 0 || settled !== draft.document} />
      )}
    </aside>
  );
}

const VERDICT = { '': 'clean', untidy: 'untidy', skews: 'skewed', breaks: 'broken' };

function Shown({ outlook }: { outlook: Outlook }) {
  if (outlook.faults.length > 0) {
    return (
      <>
        <p>These rules cannot be saved yet:</p>
        <ul className={classes.faults}>
          {outlook.faults.map((fault) => (
            <li key={fault}>{fault}</li>
          ))}
        </ul>
      </>
    );
  }
  return (
    <>
      <p role="status">
        {outlook.changed === 0
          ? `No verdict changes: ${ofAll(outlook.links, outlook.links, 'link')} ${outlook.links === 1 ? 'is' : 'are'} judged as before.`
          : `${counted(outlook.changed, 'link changes', 'links change')} of ${count(outlook.links)}: ${outlook.shifts
              .map((shift) => `${count(shift.links)} ${turned(shift)}`)
              .join(', ')}.`}
      </p>
      {outlook.reread > 0 && (
        <p>
          {counted(outlook.reread, 'ad is', 'ads are')} read anew: their clicks open another address, which is judged
          with the next sweep.
        </p>
      )}
      {outlook.traffic.moved > 0 && (
        <p>
          {count(outlook.traffic.moved)} of {counted(outlook.traffic.sessions, 'session')} move:{' '}
          {outlook.traffic.moves
            .map((move) => `${count(move.sessions)} from ${move.before} to ${move.after}`)
            .join(', ')}
          .
        </p>
      )}
      <ul>
        {outlook.codes.map((code) => (
          <li key={code.code} className={classes.shift}>
            <code className={classes.code}>{code.code}</code>
            {code.come > 0 && <span>{count(code.come)} more</span>}
            {code.gone > 0 && <span>{count(code.gone)} fewer</span>}
          </li>
        ))}
      </ul>
      {outlook.sample.length > 0 && (
        <ul className={classes.sample}>
          {outlook.sample.map((one) => (
            <li key={one.link_id}>
              <Weight weight={one.before} /> → <Weight weight={one.after} /> {one.address}
              <small>
                {one.come.length > 0 && `now ${one.come.join(', ')} `}
                {one.gone.length > 0 && `no longer ${one.gone.join(', ')}`}
              </small>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

const turned = ({ before, after }: Outlook['shifts'][number]) =>
  before === after ? `stay ${VERDICT[after]} for another reason` : `become ${VERDICT[after]}`;

function Saving({ draft, blocked }: { draft: ReturnType<typeof useDraft>; blocked: boolean }) {
  const { name, convention_version } = useWorkspace();
  const { author, setAuthor, signedIn } = useAuthor();
  const [note, setNote] = useState('');
  const [overtaken, setOvertaken] = useState<Schema['Problem']>();
  const save = useAct(name, (base: number) =>
    acts
      .saveConvention(name, { document: draft.document as unknown as Record<string, unknown>, base, note, author })
      .then((saved) => {
        // What is saved is shown anew: the draft must be gone by then.
        draft.forget();
        return saved;
      })
      .catch((error: Error) => {
        if (error instanceof ProblemError && error.problem.kind === 'overtaken') {
          setOvertaken(error.problem);
        }
        throw error;
      }),
  );
  return (
    <>
      <Textarea
        label="What changes, and why"
        value={note}
        onChange={(event) => setNote(event.currentTarget.value)}
        autosize
        minRows={2}
      />
      <TextInput
        label="By"
        readOnly={signedIn}
        value={author}
        onChange={(event) => setAuthor(event.currentTarget.value)}
      />
      <Group gap={6}>
        <Button
          variant="filled"
          disabled={blocked || !note.trim()}
          loading={save.isPending}
          onClick={() => save.mutate(draft.base)}
        >
          Save as version {convention_version + 1}
        </Button>
        <DropDraft draft={draft} />
      </Group>
      {overtaken?.latest && (
        <div role="alert">
          <p>{overtaken.detail}</p>
          <Differences differences={overtaken.differences ?? []} />
          <Button mt={6} onClick={() => save.mutate(overtaken.latest?.version ?? 0)}>
            Save mine on top of version {overtaken.latest.version}
          </Button>
        </div>
      )}
    </>
  );
}

function DropDraft({ draft }: { draft: ReturnType<typeof useDraft> }) {
  const { name } = useWorkspace();
  const latest = useAct(name, async () => {
    const answer = await fetch(`/api/workspaces/${name}/convention`);
    return (await answer.json()) as Schema['Convention'];
  });
  return (
    <Button
      onClick={() =>
        latest.mutate(undefined, {
          onSuccess: (saved) => draft.restart(saved.version, saved.document as unknown as ConventionDocument),
        })
      }
    >
      Drop these changes
    </Button>
  );
}
