import { Button, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { atMoment, count, counted } from '../parts/format';
import { Loading } from '../parts/Loading';
import { SearchField } from '../parts/SearchField';
import { useMay, useSession } from '../session/session';
import { useListState } from '../shell/useListState';
import { BringIn, BringingIn } from './BringIn';
import classes from './Workspaces.module.css';

type Listed = Schema['ListedWorkspace'];

/** Every advertiser that is looked after: what is wrong there now, and when it was last swept. */
export function WorkspacesView() {
  const session = useSession();
  const { list, set } = useListState();
  const workspaces = useQuery(queries.workspaces());
  const all = workspaces.data?.workspaces ?? [];
  const shown = all.filter((one) => one.title.toLowerCase().includes((list.q ?? '').toLowerCase()));
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <h1>Workspaces</h1>
        {all.length > 8 && (
          <SearchField label="Search workspaces" value={list.q ?? ''} search={(q) => set({ q: q || null })} />
        )}
        {session?.makes_workspaces && (
          <>
            <BringIn />
            <Button component={Link} to="/new" variant="filled">
              New workspace
            </Button>
          </>
        )}
        {session?.person && <Link to="/account">{session.person.name}</Link>}
      </header>
      <BringingIn />
      {workspaces.isError && <Failure error={workspaces.error} />}
      {workspaces.isPending && <Loading />}
      {workspaces.isSuccess && all.length === 0 && (
        <EmptyState
          title="There is no workspace yet."
          hint="A workspace holds all that is known of one advertiser. Its site’s address is enough to begin."
        />
      )}
      {shown.length > 0 && (
        <table className={classes.list}>
          <thead>
            <tr>
              <th>Advertiser</th>
              <th>Links</th>
              <th>Findings that break</th>
              <th>Fixes to do</th>
              <th>Last swept</th>
              <th>
                <span className={classes.aside}>Put away or delete</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.map((one) => (
              <Row key={one.name} workspace={one} />
            ))}
          </tbody>
        </table>
      )}
    </main>
  );
}

function Row({ workspace }: { workspace: Listed }) {
  const { name, title, archived } = workspace;
  const [deleting, setDeleting] = useState(false);
  const owns = useMay('owner', name);
  const change = useAct('workspaces', (put: boolean) => acts.changeWorkspace(name, { archived: put }));
  return (
    <>
      <tr data-archived={archived || undefined}>
        <td>
          <Link to={`/w/${name}/links`}>{title}</Link>
          {archived && ' (put away)'}
        </td>
        <td className={classes.number}>{count(workspace.links)}</td>
        <td className={classes.number}>{workspace.swept_at ? count(workspace.breaks) : '–'}</td>
        <td className={classes.number}>{count(workspace.fixes)}</td>
        <td>{workspace.swept_at ? atMoment(workspace.swept_at) : 'never'}</td>
        <td>
          {owns && (
            <Button
              variant="subtle"
              onClick={() => change.mutate(!archived)}
              aria-label={`${archived ? 'Take back' : 'Put away'} ${title}`}
            >
              {archived ? 'Take back' : 'Put away'}
            </Button>
          )}
          {owns && archived && (
            <Button
              variant="subtle"
              onClick={() => setDeleting(!deleting)}
              aria-expanded={deleting}
              aria-label={`Delete ${title} for good …`}
            >
              Delete …
            </Button>
          )}
        </td>
      </tr>
      {deleting && (
        <tr>
          <td colSpan={6}>
            <Deleting workspace={workspace} />
          </td>
        </tr>
      )}
    </>
  );
}

/** Says what goes, and asks for the name, so that no other goes by mistake. */
function Deleting({ workspace }: { workspace: Listed }) {
  const [typed, setTyped] = useState('');
  const remove = useAct('workspaces', () => acts.deleteWorkspace(workspace.name, typed));
  return (
    <div className={classes.deleting}>
      <p>
        {counted(workspace.links, 'link')} with their trails and findings, rules, traffic, rehearsals, signposts and
        pictures go for good. A backup (bin/orvant backup) is the only way back.
      </p>
      <TextInput
        label={`Type “${workspace.title}” to delete it`}
        value={typed}
        onChange={(event) => setTyped(event.currentTarget.value)}
      />
      <Button
        disabled={typed !== workspace.title}
        loading={remove.isPending}
        onClick={() => remove.mutate(undefined)}
        variant="filled"
        mt={8}
      >
        Delete for good
      </Button>
    </div>
  );
}
