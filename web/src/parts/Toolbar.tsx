import type { ReactNode } from 'react';
import classes from './Toolbar.module.css';

/** The row of controls above a list. */
export function Toolbar({ children }: { children: ReactNode }) {
  return <div className={classes.bar}>{children}</div>;
}

/** What stands at the far end of the row. */
function Rest({ children }: { children: ReactNode }) {
  return <div className={classes.rest}>{children}</div>;
}

Toolbar.Rest = Rest;
