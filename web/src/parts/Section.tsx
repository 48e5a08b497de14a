import type { ReactNode } from 'react';
import classes from './Section.module.css';

interface SectionProps {
  title: string;
  /** What stands at the right of the title. */
  aside?: ReactNode;
  children: ReactNode;
}

/** A titled stretch of evidence. */
export function Section({ title, aside, children }: SectionProps) {
  return (
    <section className={classes.section}>
      <header>
        <h2>{title}</h2>
        {aside}
      </header>
      {children}
    </section>
  );
}
