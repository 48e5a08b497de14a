import { NavLink } from 'react-router';
import classes from './Tabs.module.css';

interface TabsProps {
  label: string;
  /** Where each leads, relative to the screen, and its words. */
  tabs: { to: string; words: string; count?: number | undefined }[];
}

/** The sides of one screen, each with an address of its own. */
export function Tabs({ label, tabs }: TabsProps) {
  return (
    <nav className={classes.tabs} aria-label={label}>
      {tabs.map((tab) => (
        <NavLink key={tab.to} to={tab.to} end>
          {tab.words}
          {tab.count ? <span> {tab.count}</span> : null}
        </NavLink>
      ))}
    </nav>
  );
}
