import { Popover, UnstyledButton } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { queries } from '../api/queries';
import { counted } from '../parts/format';
import classes from './JobLine.module.css';

/** Names the workspace, and leads to the others. */
export function Switch({ name, title }: { name: string; title: string }) {
  const [open, setOpen] = useState(false);
  const workspaces = useQuery({ ...queries.workspaces(), enabled: open });
  const others = workspaces.data?.workspaces.filter((one) => one.name !== name && !one.archived) ?? [];
  const close = () => setOpen(false);
  return (
    <Popover opened={open} onChange={setOpen} position="bottom-start" trapFocus>
      <Popover.Target>
        <UnstyledButton className={classes.name} aria-expanded={open} onClick={() => setOpen(!open)}>
          {title} <span aria-hidden="true">▾</span>
        </UnstyledButton>
      </Popover.Target>
      <Popover.Dropdown>
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
      </Popover.Dropdown>
    </Popover>
  );
}
