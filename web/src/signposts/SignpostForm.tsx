import { Button, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { acts, type SignpostWish } from '../api/acts';
import type { Schema } from '../api/client';
import { useAct } from '../api/useAct';
import { useAuthor } from '../parts/useAuthor';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Signposts.module.css';

interface SignpostFormProps {
  hosts: string[];
  onDone: (made: Schema['SignpostDetail']) => void;
}

/** A new signpost. */
export function SignpostForm({ hosts, onDone }: SignpostFormProps) {
  const { name } = useWorkspace();
  const { author } = useAuthor();
  const [wish, setWish] = useState<SignpostWish>({
    target: new URLSearchParams(window.location.search).get('target') ?? '',
    pass_on: 'keep',
  });
  const put = useAct(name, () =>
    acts.putUpSignpost(name, { ...(hosts[0] ? { host: hosts[0] } : {}), ...wish, author }),
  );
  const text = (field: keyof SignpostWish, label: string, description = '') => (
    <TextInput
      label={label}
      description={description}
      value={wish[field] ?? ''}
      onChange={(event) => setWish({ ...wish, [field]: event.currentTarget.value })}
    />
  );
  return (
    <form
      className={`${classes.evidence} ${classes.form}`}
      onSubmit={(event) => {
        event.preventDefault();
        put.mutate(undefined, { onSuccess: onDone });
      }}
    >
      <h2>A new signpost</h2>
      <Select
        label="Host"
        data={hosts}
        allowDeselect={false}
        value={wish.host ?? hosts[0] ?? null}
        onChange={(host) => setWish({ ...wish, host: host ?? '' })}
      />
      {text('path', 'Path', 'such as /seals; left empty it gets a short code')}
      {text('target', 'Leads to', 'the full link, as a build sheet makes it')}
      {text('caption', 'Caption', 'printed under the code')}
      <PassingOn value={wish.pass_on ?? 'keep'} change={(pass_on) => setWish({ ...wish, pass_on })} />
      {put.isError && text('why', 'Why it is put up nevertheless', put.error.message)}
      {text('ends', 'Last day', 'such as 2026-12-31; left empty it has no end')}
      <Button type="submit" variant="filled" loading={put.isPending}>
        Put it up
      </Button>
    </form>
  );
}

export function PassingOn({ value, change }: { value: string; change: (value: string) => void }) {
  return (
    <Select
      label="Parameters that a visitor brings"
      data={[
        { value: 'keep', label: 'are handed on, unless the link has them' },
        { value: 'none', label: 'are left behind' },
      ]}
      allowDeselect={false}
      value={value}
      onChange={(chosen) => change(chosen ?? 'keep')}
    />
  );
}
