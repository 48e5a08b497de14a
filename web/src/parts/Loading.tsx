import classes from './states.module.css';

/** Says that something is on its way. */
export function Loading() {
  return (
    <p className={classes.loading} role="status">
      Loading …
    </p>
  );
}
