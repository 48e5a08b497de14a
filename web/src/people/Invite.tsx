import { Button } from '@mantine/core';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { useAct } from '../api/useAct';
import { atMoment } from '../parts/format';
import { Section } from '../parts/Section';
import type { Role } from '../session/session';
import { useWorkspace } from '../session/useWorkspace';
import { LetIn } from './fields';
import { Once } from './Once';
import classes from './People.module.css';

interface InviteProps {
  open: Schema['Invitation'][];
  /** Whether a mail server is set. */
  sends: boolean;
}

/** Lets somebody in by a link that is good once. */
export function Invite({ open, sends }: InviteProps) {
  const { name } = useWorkspace();
  const invite = useAct(name, (wish: { mail: string; role: Role }) => acts.invite(name, wish));
  const withdraw = useAct(name, (id: number) => acts.withdrawInvitation(name, id));
  return (
    <Section title="Invite somebody">
      <LetIn
        label="Mail address"
        type="email"
        does="Make a link"
        busy={invite.isPending}
        submit={(mail, role) => invite.mutateAsync({ mail, role })}
      />
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
