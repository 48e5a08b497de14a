import { ActionIcon, useComputedColorScheme, useMantineColorScheme } from '@mantine/core';
import { IconAdjustments, IconHistory, IconMoon, IconSun, IconUser, IconUsers } from '@tabler/icons-react';
import type { ReactNode } from 'react';
import { NavLink } from 'react-router';
import type { Schema } from '../api/client';
import { count } from '../parts/format';
import { useSession } from '../session/session';
import classes from './JobLine.module.css';
import { SweepControl } from './SweepControl';
import { Switch } from './Switch';

type Summary = Schema['Workspace'];

/** The stops of the job, in its order. */
export const STOPS = [
  { path: 'convention', label: 'Convention' },
  { path: 'links', label: 'Links' },
  { path: 'tags', label: 'Tags' },
  { path: 'rehearsals', label: 'Rehearsals' },
  { path: 'traffic', label: 'Traffic' },
  { path: 'fixes', label: 'Fixes' },
] as const;

/** The job is a line, and the line is the navigation: each stop with the count of what is wrong there now. */
export function JobLine({ summary }: { summary: Summary }) {
  const person = useSession()?.person;
  return (
    <header className={classes.head}>
      <Switch name={summary.name} title={summary.title} />
      <nav className={classes.line} aria-label="The job">
        {STOPS.map((stop, index) => (
          <NavLink
            key={stop.path}
            to={`/w/${summary.name}/${stop.path}`}
            className={classes.stop}
            title={`Key ${index + 1}`}
          >
            <span className={classes.label}>{stop.label}</span>
            <span className={classes.state}>{state(summary, stop.path)}</span>
          </NavLink>
        ))}
      </nav>
      <SweepControl summary={summary} />
      <Aside to={`/w/${summary.name}/settings`} label="Settings">
        <IconAdjustments size={16} />
      </Aside>
      <Aside to={`/w/${summary.name}/history`} label="What was done">
        <IconHistory size={16} />
      </Aside>
      <Aside to={`/w/${summary.name}/people`} label="People">
        <IconUsers size={16} />
      </Aside>
      <Scheme />
      {person && (
        <Aside to="/account" label={`Your account, ${person.name}`}>
          <IconUser size={16} />
        </Aside>
      )}
    </header>
  );
}

function state(summary: Summary, path: (typeof STOPS)[number]['path']) {
  if (path === 'convention') {
    return `version ${summary.convention_version}`;
  }
  const { total, wrong, unknown } = summary.stops[path];
  if (unknown && (total > 0 || path === 'tags')) {
    return unknown;
  }
  switch (path) {
    case 'fixes':
      return total === 0 ? 'none yet' : `${count(wrong)} to do`;
    case 'traffic':
      return total === 0 ? 'no visits yet' : `${count(wrong)} of ${count(total)} sessions misplaced`;
    default:
      return total === 0 ? 'none yet' : `${count(wrong)} of ${count(total)} wrong`;
  }
}

/** A way to what is no stop of the job. */
function Aside({ to, label, children }: { to: string; label: string; children: ReactNode }) {
  return (
    <ActionIcon component={NavLink} to={to} variant="subtle" aria-label={label} title={label}>
      {children}
    </ActionIcon>
  );
}

function Scheme() {
  const { setColorScheme } = useMantineColorScheme();
  const scheme = useComputedColorScheme('light');
  const other = scheme === 'light' ? 'dark' : 'light';
  return (
    <ActionIcon variant="subtle" aria-label={`Switch to ${other} colours`} onClick={() => setColorScheme(other)}>
      {scheme === 'light' ? <IconMoon size={16} /> : <IconSun size={16} />}
    </ActionIcon>
  );
}
