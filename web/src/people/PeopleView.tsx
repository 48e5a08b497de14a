import { Button, Checkbox, NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { Failure } from '../parts/Failure';
import { atMoment, counted } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { ROLES, type Role, useMay, useSession } from '../session/session';
import { useWorkspace } from '../session/useWorkspace';
import { FirstOwner } from './FirstOwner';
import { Invite } from './Invite';
import { Keys } from './Keys';
import { Once } from './Once';
import classes from './People.module.css';

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
              <th>Second factor</th>
              <th>Last here</th>
              <th>Way out</th>
            </tr>
          </thead>
          <tbody>
            {people.data.people.map((one) => (
              <Member
                key={one.id}
                member={one}
                owns={owns}
                self={one.id === session?.person?.id}
                heirs={people.data.people.filter((other) => other.role === 'owner' && other.id !== one.id)}
              />
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
        {owns && <Demand on={people.data.second_factor} />}
      </Section>
      {owns && <Invite open={people.data.invitations} sends={people.data.mail_server} />}
      {owns && <Keys keys={people.data.keys} />}
    </div>
  );
}

/** Whether everybody here needs a second factor. */
function Demand({ on }: { on: boolean }) {
  const { name } = useWorkspace();
  const change = useAct(name, (second_factor: boolean) => acts.changeWorkspace(name, { second_factor }));
  return (
    <Checkbox
      mt={10}
      label="Everybody here needs a second factor"
      description="Who has none gets in again once they have turned one on in their account. Keys are not asked for one."
      checked={on}
      disabled={change.isPending}
      onChange={(event) => change.mutate(event.currentTarget.checked)}
    />
  );
}

interface MemberProps {
  member: Schema['Member'];
  owns: boolean;
  self: boolean;
  /** Owners to whom what they made can pass. */
  heirs: Schema['Member'][];
}

function Member({ member, owns, self, heirs }: MemberProps) {
  const { name } = useWorkspace();
  const [wish, setWish] = useState<Role | 'out'>();
  const change = useAct(name, (body: { role: Role; heir?: number }) => acts.changeMember(name, member.id, body));
  const remove = useAct(name, (heir?: number) => acts.removeMember(name, member.id, heir));
  const link = useAct(name, () => acts.makePasswordLink(name, member.id));
  const loses = (wanted: Role | 'out') => member.made > 0 && wanted !== 'owner';
  const carryOut = (wanted: Role | 'out', heir?: number) => {
    setWish(undefined);
    return wanted === 'out' ? remove.mutate(heir) : change.mutate({ role: wanted, ...(heir ? { heir } : {}) });
  };
  const ask = (wanted: Role | 'out') => (loses(wanted) ? setWish(wanted) : carryOut(wanted));
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
              onChange={(event) => ask(event.currentTarget.value as Role)}
            />
          ) : (
            member.role
          )}
        </td>
        <td>{member.second_factor ? 'on' : 'off'}</td>
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
              onClick={() => ask('out')}
              aria-label={self ? 'Leave this workspace' : `Take out ${member.name}`}
            >
              {self ? 'Leave' : 'Take out'}
            </Button>
          )}
        </td>
      </tr>
      {wish && (
        <tr>
          <td colSpan={6}>
            <Legacy
              member={member}
              heirs={heirs}
              carryOut={(heir) => carryOut(wish, heir)}
              cancel={() => setWish(undefined)}
            />
          </td>
        </tr>
      )}
      {link.data && (
        <tr>
          <td colSpan={6}>
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

interface LegacyProps {
  member: Schema['Member'];
  heirs: Schema['Member'][];
  carryOut: (heir?: number) => void;
  cancel: () => void;
}

/** What becomes of the invitations and keys that somebody has made. */
function Legacy({ member, heirs, carryOut, cancel }: LegacyProps) {
  const [heir, setHeir] = useState('');
  return (
    <div className={classes.row}>
      <NativeSelect
        label={`${member.name} has made ${counted(member.made, 'invitation or key', 'invitations and keys')} that are still good`}
        value={heir}
        onChange={(event) => setHeir(event.currentTarget.value)}
        data={[
          { value: '', label: 'They end now' },
          ...heirs.map((one) => ({ value: String(one.id), label: `They pass to ${one.name}` })),
        ]}
      />
      <Button variant="filled" onClick={() => carryOut(heir ? Number(heir) : undefined)}>
        Do it
      </Button>
      <Button onClick={cancel}>Leave it</Button>
    </div>
  );
}
