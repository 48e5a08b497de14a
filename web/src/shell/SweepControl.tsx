import { Button } from '@mantine/core';
import { Link } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { isActive } from '../api/queries';
import { useAct } from '../api/useAct';
import { atMoment, count, counted, lasting } from '../parts/format';
import { May } from '../session/May';
import classes from './SweepControl.module.css';
import { SweepStart } from './SweepStart';

/** Starts a sweep, shows how far it is, stops it, and goes on with one that was stopped. */
export function SweepControl({ summary }: { summary: Schema['Workspace'] }) {
  const { name, sweep, stops } = summary;
  const stop = useAct(name, (id: number) => acts.stopSweep(name, id));
  const resume = useAct(name, (id: number) => acts.resumeSweep(name, id));

  if (sweep && isActive(sweep.state)) {
    return (
      <div className={classes.control} role="status">
        <Progress sweep={sweep} />
        <May least="editor">
          <Button onClick={() => stop.mutate(sweep.id)} disabled={sweep.state === 'stopping'}>
            Stop
          </Button>
        </May>
      </div>
    );
  }
  return (
    <div className={classes.control}>
      {sweep && (
        <Link className={classes.last} to={`/w/${name}/sweeps`} title="What has changed since the sweep before">
          {lastSweep(sweep)}
        </Link>
      )}
      <May least="editor">
        {(sweep?.state === 'stopped' || sweep?.state === 'failed') && (
          <Button onClick={() => resume.mutate(sweep.id)}>Resume, {count(sweep.total - sweep.done)} left</Button>
        )}
        <SweepStart name={name} disabled={stops.links.total === 0} />
      </May>
    </div>
  );
}

/** What a sweep does at the moment. */
const DOING: Record<Schema['Sweep']['phase'], string> = {
  trails: 'Following links',
  looks: 'Looking at pages in the browser',
  pages: 'Watching tags and playing rehearsals',
  explaining: 'Comparing all links',
};

function Progress({ sweep }: { sweep: Schema['Sweep'] }) {
  return (
    <span className={classes.progress}>
      <progress max={Math.max(sweep.total, 1)} value={sweep.done} aria-label="Progress of the sweep" />
      <span>
        {sweep.state === 'waiting'
          ? 'Waiting for the worker'
          : `${DOING[sweep.phase]}: ${count(sweep.done)} of ${count(sweep.total)}`}{' '}
        · {counted(sweep.findings, 'finding')}
        {sweep.state === 'stopping' && ' · stopping'}
        {sweep.seconds_left !== null && ` · about ${lasting(sweep.seconds_left)} left`}
      </span>
    </span>
  );
}

function lastSweep(sweep: Schema['Sweep']) {
  if (sweep.problem) {
    return sweep.problem;
  }
  const what = sweep.fix_id ? 'Fix checked' : 'Swept';
  return sweep.state === 'stopped'
    ? `Stopped at ${count(sweep.done)} of ${count(sweep.total)}`
    : `${what} ${atMoment(sweep.finished_at)}`;
}
