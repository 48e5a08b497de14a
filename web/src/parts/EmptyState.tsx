import type { ReactNode } from 'react';
import classes from './states.module.css';

interface EmptyStateProps {
  title: string;
  hint: string;
  /** What to do next. */
  children?: ReactNode;
}

/** Nothing is here, and what to do next. */
export function EmptyState({ title, hint, children }: EmptyStateProps) {
  return (
    <div className={classes.state}>
      <h2>{title}</h2>
      <p>{hint}</p>
      {children}
    </div>
  );
}
