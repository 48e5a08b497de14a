import { Button, Group, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { May } from '../session/May';
import { useWorkspace } from '../session/useWorkspace';
import classes from './FindingNote.module.css';
import { onDay } from './format';
import { useAuthor } from './useAuthor';

/** A person's word that a finding may stand until a day, with the reason; and taking it back. */
export function Waive({ finding }: { finding: Schema['Finding'] }) {
  return finding.waived_until ? (
    <Waived finding={finding} />
  ) : (
    <May least="editor">
      <Grant finding={finding} />
    </May>
  );
}

function Grant({ finding }: { finding: Schema['Finding'] }) {
  const { name } = useWorkspace();
  const { author, setAuthor, signedIn } = useAuthor();
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState('');
  const [ends, setEnds] = useState('');
  const waive = useAct(name, () => acts.waive(name, finding.id, { reason, ends, author }));
  if (!open) {
    return (
      <div className={classes.waive}>
        <Button onClick={() => setOpen(true)}>Let it stand until …</Button>
      </div>
    );
  }
  return (
    <Group gap={6} align="end" className={classes.waive}>
      <TextInput label="Why it may stand" value={reason} onChange={(event) => setReason(event.currentTarget.value)} />
      <TextInput label="Until" type="date" value={ends} onChange={(event) => setEnds(event.currentTarget.value)} />
      <TextInput
        label="By"
        readOnly={signedIn}
        value={author}
        onChange={(event) => setAuthor(event.currentTarget.value)}
      />
      <Button disabled={!reason.trim() || !ends} onClick={() => waive.mutate(undefined)}>
        Let it stand
      </Button>
    </Group>
  );
}

function Waived({ finding }: { finding: Schema['Finding'] }) {
  const { name } = useWorkspace();
  const waivers = useQuery(queries.waivers(name));
  const waiver = waivers.data?.waivers.find(
    (one) => !one.over && one.code === finding.code && one.link_id === finding.link_id,
  );
  const back = useAct(name, (id: number) => acts.takeBackWaiver(name, id));
  return (
    <p className={classes.waive}>
      May stand until {onDay(finding.waived_until)}
      {waiver && `: ${waiver.reason}${waiver.author && ` (${waiver.author})`}`}{' '}
      {waiver && (
        <May least="editor">
          <Button onClick={() => back.mutate(waiver.id)}>Take that back</Button>
        </May>
      )}
    </p>
  );
}
