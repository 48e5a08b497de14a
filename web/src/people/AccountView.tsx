import { Button, TextInput } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, Navigate } from 'react-router';
import { acts } from '../api/acts';
import { Failure } from '../parts/Failure';
import { Section } from '../parts/Section';
import { useSession } from '../session/session';
import { CurrentPasswordField } from './fields';
import { PasswordField } from './PasswordField';
import classes from './People.module.css';
import { SecondFactor } from './SecondFactor';
import { SignIns } from './SignIns';

/** One's own name and password, and the way out. */
export function AccountView() {
  const client = useQueryClient();
  const person = useSession()?.person;
  const [name, setName] = useState(person?.name ?? '');
  const [now, setNow] = useState('');
  const [password, setPassword] = useState('');
  const rename = useMutation({
    mutationFn: () => acts.changeAccount({ name }),
    onSuccess: () => client.invalidateQueries(),
  });
  const renew = useMutation({
    mutationFn: () => acts.changeAccount({ password, current_password: now }),
    onSuccess: () => {
      setNow('');
      setPassword('');
    },
  });
  const leave = useMutation({ mutationFn: () => acts.signOut(), onSuccess: () => client.resetQueries() });
  if (!person) {
    return <Navigate to="/" replace />;
  }
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <h1>{person.name}</h1>
        <Link to="/">All workspaces</Link>
        <Button loading={leave.isPending} onClick={() => leave.mutate()}>
          Sign out
        </Button>
      </header>
      <Section title="Your name">
        <div className={classes.form}>
          <TextInput label="Name" value={name} onChange={(event) => setName(event.currentTarget.value)} />
          <p className={classes.said}>You sign in with {person.mail}.</p>
          {rename.isError && <Failure error={rename.error} />}
          <Button
            disabled={name.trim() === '' || name === person.name}
            loading={rename.isPending}
            onClick={() => rename.mutate()}
          >
            Change the name
          </Button>
        </div>
      </Section>
      <Section title="A new password">
        <div className={classes.form}>
          <CurrentPasswordField label="The password of now" value={now} change={setNow} />
          <PasswordField label="The new one" value={password} change={setPassword} />
          {renew.isError && <Failure error={renew.error} />}
          {renew.isSuccess && <p role="status">Changed. Wherever else you were signed in, you are not any more.</p>}
          <Button disabled={!now || !password} loading={renew.isPending} onClick={() => renew.mutate()}>
            Change the password
          </Button>
        </div>
      </Section>
      <SecondFactor />
      <SignIns />
    </main>
  );
}
