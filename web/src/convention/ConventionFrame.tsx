import { Outlet } from 'react-router';
import { Tabs } from '../parts/Tabs';
import { Toolbar } from '../parts/Toolbar';
import { useWorkspace } from '../shell/Workbench';
import classes from './Convention.module.css';

/** The sides of the convention: read it, change it, learn it from what is live, and look back. */
export function ConventionFrame() {
  const workspace = useWorkspace();
  const base = `/w/${workspace.name}/convention`;
  return (
    <div className={classes.view}>
      <div className={classes.screen}>
        <Toolbar>
          <Tabs
            label="Convention"
            tabs={[
              { to: base, words: 'Rules' },
              { to: `${base}/edit`, words: 'Change', count: workspace.proposed_values },
              { to: `${base}/learn`, words: 'Learn from what is live' },
              { to: `${base}/versions`, words: 'Versions' },
            ]}
          />
          <Toolbar.Rest>version {workspace.convention_version}</Toolbar.Rest>
        </Toolbar>
      </div>
      <Outlet context={workspace} />
    </div>
  );
}
