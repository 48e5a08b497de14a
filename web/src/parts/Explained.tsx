import type { Schema } from '../api/client';
import { atMoment } from './format';

/** Says, while the worker is still at it, how far fixes and traffic are in step with what is stored. */
export function Explained({ explained }: { explained: Schema['Workspace']['explained'] }) {
  if (explained.problem) {
    return <span role="alert">Not explained: {explained.problem}</span>;
  }
  if (!explained.pending) {
    return null;
  }
  return (
    <span role="status">
      {explained.up_to ? `Explained up to ${atMoment(explained.up_to)}; more is under way` : 'Being explained …'}
    </span>
  );
}
