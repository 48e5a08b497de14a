import { NavLink } from 'react-router';
import classes from './Tabs.module.css';

export interface Tab {
  /** Where it leads. */
  to: string;
  words: string;
  /** How many things wait there. */
  count?: number | undefined;
}

interface TabsProps {
  label: string;
  tabs: Tab[];
}

/** The sides of one screen, each with an address of its own. */
export function Tabs({ label, tabs }: TabsProps) {
  return (
    <nav className={classes.tabs} aria-label={label}>
      {tabs.map((tab) => (
        <NavLink key={tab.to} to={tab.to} end={tabs.some((other) => other.to.startsWith(`${tab.to}/`))}>
          {tab.words}
          {tab.count ? <span> {tab.count}</span> : null}
        </NavLink>
      ))}
    </nav>
  );
}
