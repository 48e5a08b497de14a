import { ProblemError } from '../api/client';
import classes from './states.module.css';

interface FailureProps {
  error: Error;
}

/** Something could not be shown, and why. */
export function Failure({ error }: FailureProps) {
  return (
    <div className={classes.state} role="alert">
      <h2>{error instanceof ProblemError ? error.title : 'This could not be shown.'}</h2>
      <p>{error.message}</p>
    </div>
  );
}
