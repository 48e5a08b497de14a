import '@mantine/core/styles/Radio.css';
import { Button, Radio, TextInput } from '@mantine/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { acts } from '../api/acts';
import { asksForCode } from '../api/client';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { Loading } from '../parts/Loading';
import { CodeField, CurrentPasswordField, NameField } from './fields';
import { PasswordField } from './PasswordField';
import classes from './People.module.css';

const TITLES = { founder: 'Make the first account', member: 'You are invited', password: 'Take a new password' };

/** A link that is good once: the first account, an invitation, or a new password. */
export function JoinView() {
  const { token = '' } = useParams();
  const client = useQueryClient();
  const navigate = useNavigate();
  const invitation = useQuery(queries.invitation(token));
  const [name, setName] = useState('');
  const [mail, setMail] = useState('');
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  const [known, setKnown] = useState(false);
  const accept = useMutation({
    mutationFn: () => acts.acceptInvitation(token, { name, mail, password, ...(code ? { code } : {}) }),
    onSuccess: async () => {
      await client.resetQueries({ queryKey: ['session'] });
      navigate('/');
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    accept.mutate();
  };
  if (invitation.isError) {
    return (
      <EmptyState
        title="This link is good for nothing any more."
        hint="Links are good once, and for a day. Ask whoever sent it for another."
      />
    );
  }
  if (!invitation.data) {
    return <Loading />;
  }
  const { purpose, workspace, role, by } = invitation.data;
  const newcomer = purpose === 'founder' || (purpose === 'member' && !known);
  return (
    <main className={classes.door}>
      <h1>{TITLES[purpose]}</h1>
      {purpose === 'member' && (
        <p>
          {by || 'Somebody'} lets you look after <b>{workspace}</b> as {role}.
        </p>
      )}
      {purpose === 'founder' && <p>It owns every workspace that is here, makes new ones, and invites others.</p>}
      <form onSubmit={submit} className={classes.form}>
        {purpose === 'member' && <BeenHere known={known} change={setKnown} />}
        {newcomer && <NameField value={name} change={setName} />}
        <TextInput
          label="Mail address"
          type="email"
          autoComplete="username"
          readOnly={purpose !== 'founder'}
          value={purpose === 'founder' ? mail : invitation.data.mail}
          onChange={(event) => setMail(event.currentTarget.value)}
        />
        {purpose === 'member' && known ? (
          <CurrentPasswordField label="The password of your account" value={password} change={setPassword} />
        ) : (
          <PasswordField label="A password" value={password} change={setPassword} />
        )}
        {(code !== '' || asksForCode(accept.error)) && <CodeField value={code} change={setCode} />}
        {accept.isError && !(asksForCode(accept.error) && code === '') && <Failure error={accept.error} />}
        <Button
          type="submit"
          variant="filled"
          loading={accept.isPending}
          disabled={!password || (newcomer && !name.trim())}
        >
          {purpose === 'password' ? 'Take this password' : 'Come in'}
        </Button>
      </form>
    </main>
  );
}

/** Whether there is an account is said by whoever comes, and by nobody else. */
function BeenHere({ known, change }: { known: boolean; change: (known: boolean) => void }) {
  return (
    <Radio.Group
      label="Have you been here before?"
      value={known ? 'yes' : 'no'}
      onChange={(answer) => change(answer === 'yes')}
    >
      <Radio value="no" label="No: I make an account" />
      <Radio value="yes" label="Yes: I have an account for this address" />
    </Radio.Group>
  );
}
