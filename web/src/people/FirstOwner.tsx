import { Button } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { acts } from '../api/acts';
import { Failure } from '../parts/Failure';
import { Section } from '../parts/Section';
import { MailField, NameField } from './fields';
import { PasswordField } from './PasswordField';
import classes from './People.module.css';

/** One person alone is asked nothing; whoever wants to work with others makes the first account. */
export function FirstOwner() {
  const client = useQueryClient();
  const [name, setName] = useState('');
  const [mail, setMail] = useState('');
  const [password, setPassword] = useState('');
  const make = useMutation({
    mutationFn: () => acts.makeFirstOwner({ name, mail, password }),
    onSuccess: () => client.resetQueries(),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate();
  };
  return (
    <div className={classes.view}>
      <Section title="You work alone">
        <p className={classes.said}>
          Orvant listens on this machine only and asks nobody who they are. To work with others, make your account: from
          then on everybody signs in, you own every workspace, and you invite others from here.
        </p>
        <form onSubmit={submit} className={classes.form}>
          <NameField value={name} change={setName} />
          <MailField value={mail} change={setMail} />
          <PasswordField label="A password" value={password} change={setPassword} />
          {make.isError && <Failure error={make.error} />}
          <Button
            type="submit"
            variant="filled"
            loading={make.isPending}
            disabled={!name.trim() || !mail.trim() || !password}
          >
            Make the first account
          </Button>
        </form>
      </Section>
    </div>
  );
}
