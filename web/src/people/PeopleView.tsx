import { Button, NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { Failure } from '../parts/Failure';
import { atMoment } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { useWorkspace } from '../shell/Workbench';
import { FirstOwner } from './FirstOwner';
import { Invite } from './Invite';
import { Keys } from './Keys';
import { Once } from './Once';
import classes from './People.module.css';
import { ROLES, type Role, useMay, useSession } from './session';

/** Who works in this workspace, as what, who is invited, and which pipelines have a key. */
export function PeopleView() {
  const { name } = useWorkspace();
  const session = useSession();
  const owns = useMay('owner');
  const people = useQuery(queries.people(name));
  if (session?.alone) {
    return <FirstOwner />;
  }
  if (people.isError) {
    return <Failure error={people.error} />;
  }
  if (!people.data) {
    return <Loading />;
  }
  return (
    <div className={classes.view}>
      <Section title="People">
        <table className={classes.list}>
          <thead>
            <tr>
              <th>Name</th>
              <th>Mail address</th>
              <th>Role</th>
              <th>Last here</th>
              <th>Way out</th>
            </tr>
          </thead>
          <tbody>
            {people.data.people.map((one) => (
              <Member key={one.id} member={one} owns={owns} self={one.id === session?.person?.id} />
            ))}
          </tbody>
        </table>
        <ul className={classes.said}>
          {ROLES.map((one) => (
            <li key={one.role}>
              <b>{one.label}</b>: {one.about}
            </li>
          ))}
        </ul>
      </Section>
      {owns && <Invite open={people.data.invitations} sends={people.data.mail_server} />}
      {owns && <Keys keys={people.data.keys} />}
    </div>
  );
}

interface MemberProps {
  member: Schema['Member'];
  owns: boolean;
  self: boolean;
}

function Member({ member, owns, self }: MemberProps) {
  const { name } = useWorkspace();
  const change = useAct(name, (role: Role) => acts.changeMember(name, member.id, role));
  const remove = useAct(name, () => acts.removeMember(name, member.id));
  const link = useAct(name, () => acts.makePasswordLink(name, member.id));
  return (
    <>
      <tr>
        <td>
          {member.name}
          {self && ' (you)'}
        </td>
        <td>{member.mail}</td>
        <td>
          {owns ? (
            <NativeSelect
              aria-label={`Role of ${member.name}`}
              data={ROLES.map((one) => one.role)}
              value={member.role}
              onChange={(event) => change.mutate(event.currentTarget.value as Role)}
            />
          ) : (
            member.role
          )}
        </td>
        <td>{member.seen_at ? atMoment(member.seen_at) : '–'}</td>
        <td>
          {owns && !self && (
            <Button variant="subtle" onClick={() => link.mutate(undefined)}>
              New password …
            </Button>
          )}
          {(owns || self) && (
            <Button
              variant="subtle"
              onClick={() => remove.mutate(undefined)}
              aria-label={self ? 'Leave this workspace' : `Take out ${member.name}`}
            >
              {self ? 'Leave' : 'Take out'}
            </Button>
          )}
        </td>
      </tr>
      {link.data && (
        <tr>
          <td colSpan={5}>
            <Once
              said={`Good once, until ${atMoment(link.data.ends_at)}: with this link ${member.name} takes a new password.${link.data.sent ? ' It was sent, too.' : ''}`}
              text={link.data.link ?? ''}
              what="the link"
            />
          </td>
        </tr>
      )}
    </>
  );
}
