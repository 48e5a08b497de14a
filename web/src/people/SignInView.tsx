import { Button } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { acts } from '../api/acts';
import { asksForCode } from '../api/client';
import { Failure } from '../parts/Failure';
import { useSession } from '../session/session';
import { CodeField, CurrentPasswordField, MailField } from './fields';
import classes from './People.module.css';

/** Asks who is there. */
export function SignInView() {
  const client = useQueryClient();
  const session = useSession();
  const [mail, setMail] = useState('');
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  const enter = useMutation({
    mutationFn: () => acts.signIn({ mail, password, ...(code ? { code } : {}) }),
    onSuccess: () => client.resetQueries(),
  });
  const asked = code !== '' || asksForCode(enter.error);
  const ask = useMutation({ mutationFn: () => acts.askForPassword({ mail }) });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    enter.mutate();
  };
  return (
    <main className={classes.door}>
      <h1>Sign in to Orvant</h1>
      <form onSubmit={submit} className={classes.form}>
        <MailField value={mail} change={setMail} />
        <CurrentPasswordField label="Password" value={password} change={setPassword} />
        {asked && <CodeField value={code} change={setCode} />}
        {enter.isError && !(asksForCode(enter.error) && code === '') && <Failure error={enter.error} />}
        <Button type="submit" variant="filled" loading={enter.isPending} disabled={!mail.trim() || !password}>
          Sign in
        </Button>
        {session?.mail_server ? (
          <Button variant="subtle" disabled={!mail.trim()} loading={ask.isPending} onClick={() => ask.mutate()}>
            Send me a link to a new password
          </Button>
        ) : (
          <p className={classes.said}>Without the password, ask an owner of your workspace for a link to a new one.</p>
        )}
        {ask.isError && <Failure error={ask.error} />}
        {ask.data && <p role="status">{ask.data.said}</p>}
      </form>
    </main>
  );
}
