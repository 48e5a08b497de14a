import type { ReactNode } from 'react';
import { Outlet } from 'react-router';
import type { Schema } from '../api/client';
import { type Tab, Tabs } from '../parts/Tabs';
import { Toolbar } from '../parts/Toolbar';
import classes from './StopFrame.module.css';

interface StopFrameProps {
  workspace: Schema['Workspace'];
  /** Names the stop of the job. */
  label: string;
  tabs: Tab[];
  /** What stands at the far end of the tabs. */
  aside?: ReactNode;
}

/** One stop of the job that has several sides, each with an address of its own. */
export function StopFrame({ workspace, label, tabs, aside }: StopFrameProps) {
  return (
    <div className={classes.frame}>
      <div className={classes.sides}>
        <Toolbar>
          <Tabs label={label} tabs={tabs} />
          <Toolbar.Rest>{aside}</Toolbar.Rest>
        </Toolbar>
      </div>
      <Outlet context={workspace} />
    </div>
  );
}
