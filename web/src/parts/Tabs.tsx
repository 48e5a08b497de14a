import { NavLink } from 'react-router';
import { type Role, useReach } from '../session/session';
import classes from './Tabs.module.css';

export interface Tab {
  /** Where it leads. */
  to: string;
  words: string;
  /** How many things wait there. */
  count?: number | undefined;
  /** Who may go there; everybody where nothing is said. */
  role?: Role;
}

interface TabsProps {
  label: string;
  tabs: Tab[];
}

/** The sides of one screen, each with an address of its own. */
export function Tabs({ label, tabs }: TabsProps) {
  const reach = useReach();
  return (
    <nav className={classes.tabs} aria-label={label}>
      {tabs
        .filter((tab) => reach(tab.role))
        .map((tab) => (
          <NavLink key={tab.to} to={tab.to} end={tabs.some((other) => other.to.startsWith(`${tab.to}/`))}>
            {tab.words}
            {tab.count ? <span> {tab.count}</span> : null}
          </NavLink>
        ))}
    </nav>
  );
}
