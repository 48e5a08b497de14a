import { UnstyledButton } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { queries } from '../api/queries';
import { Foldout } from '../parts/Foldout';
import { counted } from '../parts/format';
import classes from './JobLine.module.css';

/** Names the workspace, and leads to the others. */
export function Switch({ name, title }: { name: string; title: string }) {
  const [asked, setAsked] = useState(false);
  const workspaces = useQuery({ ...queries.workspaces(), enabled: asked });
  const others = workspaces.data?.workspaces.filter((one) => one.name !== name && !one.archived) ?? [];
  return (
    <Foldout
      side="start"
      onOpen={() => setAsked(true)}
      button={
        <UnstyledButton className={classes.name}>
          {title} <span aria-hidden="true">▾</span>
        </UnstyledButton>
      }
    >
      {(close) => (
        <nav className={classes.others} aria-label="Workspaces">
          {others.slice(0, 12).map((one) => (
            <Link key={one.name} to={`/w/${one.name}/links`} onClick={close}>
              {one.title} <small>{counted(one.fixes, 'fix', 'fixes')} to do</small>
            </Link>
          ))}
          <Link to="/" onClick={close}>
            All workspaces
          </Link>
        </nav>
      )}
    </Foldout>
  );
}
