import { Button, NativeSelect, PasswordInput, TextInput } from '@mantine/core';
import { type FormEvent, useState } from 'react';
import { ROLES, type Role } from '../session/session';
import classes from './People.module.css';

interface FieldProps {
  value: string;
  change: (text: string) => void;
}

/** A mail address, by which somebody signs in. */
export function MailField({ value, change }: FieldProps) {
  return (
    <TextInput
      label="Mail address"
      type="email"
      autoComplete="username"
      value={value}
      onChange={(event) => change(event.currentTarget.value)}
    />
  );
}

/** One's password as it is, which shows who one is. */
export function CurrentPasswordField({ label, value, change }: FieldProps & { label: string }) {
  return (
    <PasswordInput
      label={label}
      autoComplete="current-password"
      value={value}
      onChange={(event) => change(event.currentTarget.value)}
    />
  );
}

/** The code of a second factor. */
export function CodeField({ value, change }: FieldProps) {
  return (
    <TextInput
      label="Code"
      description="That your device shows now, or one of the recovery codes that you wrote down."
      autoComplete="one-time-code"
      inputMode="text"
      value={value}
      onChange={(event) => change(event.currentTarget.value)}
    />
  );
}

/** One's own name. */
export function NameField({ value, change }: FieldProps) {
  return (
    <TextInput
      label="Your name"
      description="As colleagues see it beside what you do."
      autoComplete="name"
      value={value}
      onChange={(event) => change(event.currentTarget.value)}
    />
  );
}

interface LetInProps {
  /** What is asked for: a mail address, or what a key is for. */
  label: string;
  type?: 'email';
  does: string;
  busy: boolean;
  /** Answers once it is done. */
  submit: (text: string, role: Role) => Promise<unknown>;
}

/** Lets somebody or something in, with a role. What was typed stays where it did not work. */
export function LetIn({ label, type, does, busy, submit }: LetInProps) {
  const [text, setText] = useState('');
  const [role, setRole] = useState<Role>('editor');
  const send = (event: FormEvent) => {
    event.preventDefault();
    submit(text, role).then(
      () => setText(''),
      () => undefined,
    );
  };
  return (
    <form onSubmit={send} className={classes.row}>
      <TextInput
        label={label}
        {...(type ? { type } : {})}
        w={260}
        value={text}
        onChange={(event) => setText(event.currentTarget.value)}
      />
      <NativeSelect
        label="As"
        data={ROLES.map((one) => one.role)}
        value={role}
        onChange={(event) => setRole(event.currentTarget.value as Role)}
      />
      <Button type="submit" variant="filled" loading={busy} disabled={!text.trim()}>
        {does}
      </Button>
    </form>
  );
}
