import { Fragment, type ReactNode } from 'react';
import classes from './Facts.module.css';

/** Names and values, one a line; empty values are left out. */
export function Facts({ facts }: { facts: [string, ReactNode][] }) {
  return (
    <dl className={classes.facts}>
      {facts
        .filter(([, value]) => value !== null && value !== undefined && value !== '')
        .map(([name, value], at) => (
          <Fragment key={`${name} ${at}`}>
            <dt>{name}</dt>
            <dd>{value}</dd>
          </Fragment>
        ))}
    </dl>
  );
}
