import { Button, NativeSelect, TextInput } from '@mantine/core';
import { type FormEvent, useState } from 'react';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { useAct } from '../api/useAct';
import { atMoment } from '../parts/format';
import { Section } from '../parts/Section';
import { useWorkspace } from '../shell/Workbench';
import { Once } from './Once';
import classes from './People.module.css';
import { ROLES, type Role } from './session';

interface InviteProps {
  open: Schema['Invitation'][];
  /** Whether a mail server is set. */
  sends: boolean;
}

/** Lets somebody in by a link that is good once. */
export function Invite({ open, sends }: InviteProps) {
  const { name } = useWorkspace();
  const [mail, setMail] = useState('');
  const [role, setRole] = useState<Role>('editor');
  const invite = useAct(name, () => acts.invite(name, { mail, role }));
  const withdraw = useAct(name, (id: number) => acts.withdrawInvitation(name, id));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    invite.mutate(undefined, { onSuccess: () => setMail('') });
  };
  return (
    <Section title="Invite somebody">
      <form onSubmit={submit} className={classes.row}>
        <TextInput
          label="Mail address"
          type="email"
          w={260}
          value={mail}
          onChange={(event) => setMail(event.currentTarget.value)}
        />
        <NativeSelect
          label="As"
          data={ROLES.map((one) => one.role)}
          value={role}
          onChange={(event) => setRole(event.currentTarget.value as Role)}
        />
        <Button type="submit" variant="filled" loading={invite.isPending} disabled={!mail.trim()}>
          Make a link
        </Button>
      </form>
      {invite.data && (
        <Once
          said={
            invite.data.sent
              ? `Sent to ${invite.data.mail}. Good once, until ${atMoment(invite.data.ends_at)}:`
              : `${sends ? 'The mail server did not take it: give' : 'Give'} this link to ${invite.data.mail}. Good once, until ${atMoment(invite.data.ends_at)}:`
          }
          text={invite.data.link ?? ''}
          what="the link"
        />
      )}
      {open.length > 0 && (
        <table className={classes.list}>
          <thead>
            <tr>
              <th>Invited</th>
              <th>As</th>
              <th>By</th>
              <th>Until</th>
              <th>Way back</th>
            </tr>
          </thead>
          <tbody>
            {open.map((one) => (
              <tr key={one.id}>
                <td>{one.mail}</td>
                <td>{one.role}</td>
                <td>{one.author || '–'}</td>
                <td>{atMoment(one.ends_at)}</td>
                <td>
                  <Button
                    variant="subtle"
                    onClick={() => withdraw.mutate(one.id)}
                    aria-label={`Withdraw the invitation of ${one.mail}`}
                  >
                    Withdraw
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Section>
  );
}
