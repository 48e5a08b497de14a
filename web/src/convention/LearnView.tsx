import { Button, Checkbox, Textarea } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { count, counted, percent } from '../parts/format';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Convention.module.css';
import type { ConventionDocument, Pair, Vocabulary } from './document';
import { draftOf, keepDraft } from './useDraft';

type Proposal = Schema['Proposal'];

/** What the links and the traffic at hand have in common, as rules to accept, edit or leave. */
export function LearnView() {
  const { name } = useWorkspace();
  const learned = useQuery(queries.learned(name));
  const convention = useQuery(queries.convention(name));
  if (learned.isError) {
    return <Failure error={learned.error} />;
  }
  if (!learned.data || !convention.data) {
    return <EmptyState title="Reading what is live …" hint="Every link and every row of traffic is looked at." />;
  }
  if (learned.data.proposals.length === 0) {
    return (
      <EmptyState
        title="There is nothing to learn from yet."
        hint="Collect links with parameters, or import traffic."
      />
    );
  }
  return (
    <Proposals
      proposals={learned.data.proposals}
      version={convention.data.version}
      document={convention.data.document as unknown as ConventionDocument}
    />
  );
}

function Proposals({
  proposals,
  version,
  document,
}: {
  proposals: Proposal[];
  version: number;
  document: ConventionDocument;
}) {
  const { name } = useWorkspace();
  const navigate = useNavigate();
  const [accepted, setAccepted] = useState<Record<string, boolean>>({});
  const [edited, setEdited] = useState<Record<string, unknown>>({});
  const chosen = proposals.filter((one) => accepted[one.id]);
  const kept = draftOf(name);
  const apply = useAct(name, () =>
    acts.applyProposals(
      name,
      (kept?.document ?? document) as unknown as Record<string, unknown>,
      chosen.map((one) => ({ ...one, proposed: edited[one.id] ?? one.proposed })),
    ),
  );
  const take = () =>
    apply.mutate(undefined, {
      onSuccess: (answer) => {
        keepDraft(name, kept?.base ?? version, answer.document as unknown as ConventionDocument);
        navigate(`/w/${name}/convention/edit`);
      },
    });
  return (
    <div className={classes.page}>
      <h2>What is live looks like this</h2>
      <p className={classes.said}>
        Each line is a rule that most links keep already. Tick what should be a rule; nothing is saved before you have
        seen its effect.
      </p>
      <Button variant="filled" disabled={chosen.length === 0} onClick={take}>
        Put {counted(chosen.length, 'proposal')} into a draft
      </Button>
      {proposals.map((one) => (
        <article key={one.id} className={classes.proposal} data-left={!accepted[one.id] || undefined}>
          <Checkbox
            aria-label={`Accept: ${one.sentence}`}
            checked={accepted[one.id] ?? false}
            onChange={(event) => setAccepted({ ...accepted, [one.id]: event.currentTarget.checked })}
          />
          <div>
            <h2>
              {one.role ?? 'pairs'} {one.role && one.rule}
            </h2>
            <p>{one.sentence}</p>
            <span className={classes.faint}>
              {counted(one.support.links, 'link')}
              {one.support.sessions > 0 && `, ${counted(one.support.sessions, 'session')}`} keep it (
              {percent(one.support.share)});{' '}
              {one.flags.links === 0 && one.flags.values.length === 0
                ? 'it would find fault with none'
                : `it would find fault with ${count(one.flags.links)}: ${one.flags.values.join(', ')}`}
            </span>
          </div>
          <Proposed proposal={one} change={(value) => setEdited({ ...edited, [one.id]: value })} />
        </article>
      ))}
    </div>
  );
}

/** The rule as it would be taken over; it can be edited before. */
function Proposed({ proposal, change }: { proposal: Proposal; change: (value: unknown) => void }) {
  const form = FORMS[proposal.rule];
  const [text, setText] = useState(() => form.write(proposal.proposed));
  const [fault, setFault] = useState('');
  const type = (typed: string) => {
    setText(typed);
    try {
      change(form.read(typed, proposal.proposed));
      setFault('');
    } catch (error) {
      setFault((error as Error).message);
    }
  };
  return (
    <Textarea
      className={classes.json}
      aria-label={`${proposal.id} as proposed`}
      description={form.about}
      value={text}
      onChange={(event) => type(event.currentTarget.value)}
      error={fault}
      autosize
      maxRows={9}
      spellCheck={false}
    />
  );
}

interface Form {
  about: string;
  write: (proposed: unknown) => string;
  read: (text: string, before: unknown) => unknown;
}

const lines = (text: string) =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean);

const asTyped: Form = { about: '', write: String, read: (text) => text.trim() };

/** How each kind of rule is written for a person to edit. */
const FORMS: Record<Proposal['rule'], Form> = {
  case: { ...asTyped, about: 'lower, upper or any' },
  separator: asTyped,
  vocabulary: {
    about: 'one value a line, behind = what else it is written as',
    write: (proposed) =>
      (proposed as Vocabulary).values
        .map((one) => [one.value, one.aliases?.join(', ')].filter(Boolean).join(' = '))
        .join('\n'),
    read: (text, before) => ({
      ...(before as Vocabulary),
      values: lines(text).map((line) => {
        const [value = '', aliases = ''] = line.split(' = ');
        const others = aliases.split(', ').filter(Boolean);
        return others.length > 0 ? { value, aliases: others } : { value };
      }),
    }),
  },
  pairs: {
    about: 'one pair a line: source / medium',
    write: (proposed) => (proposed as Pair[]).map((pair) => `${pair.source} / ${pair.medium}`).join('\n'),
    read: (text) =>
      lines(text).map((line) => {
        const [source, medium] = line.split(' / ');
        if (!source || !medium) {
          throw new Error(`“${line}” is no pair; write it as source / medium.`);
        }
        return { source, medium };
      }),
  },
  segments: {
    about: 'the parts in order, as the document has them',
    write: (proposed) => JSON.stringify(proposed, null, 1),
    read: (text) => JSON.parse(text),
  },
};
