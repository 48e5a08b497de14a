import { VisuallyHidden } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { Outlet, useLocation, useNavigate, useParams } from 'react-router';
import type { Schema } from '../api/client';
import { isActive, queries } from '../api/queries';
import { Failure } from '../parts/Failure';
import { Fetched } from '../parts/Fetched';
import { showIn } from '../parts/format';
import { Loading } from '../parts/Loading';
import { JobLine, STOPS } from './JobLine';
import classes from './Workbench.module.css';

/** The frame of every screen: the line of the job across the top, the work below it at full width. */
export function Workbench() {
  const { workspace = '' } = useParams();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const summary = useQuery(queries.workspace(workspace));
  useRefreshBySweep(workspace, summary.data?.sweep);
  if (summary.data) {
    showIn(summary.data.time_zone);
  }
  useHotkeys(STOPS.map((stop, index) => [String(index + 1), () => navigate(`/w/${workspace}/${stop.path}`)]));

  if (summary.isError && !summary.data) {
    return <Failure error={summary.error} />;
  }
  return (
    <div className={classes.bench}>
      {summary.data ? (
        <>
          <JobLine summary={summary.data} />
          <main className={classes.work}>
            <VisuallyHidden component="h1">{title(pathname)}</VisuallyHidden>
            <Fetched at={pathname}>
              <Outlet context={summary.data} />
            </Fetched>
          </main>
        </>
      ) : (
        <Loading />
      )}
    </div>
  );
}

/** What the screen at an address is about. */
const title = (pathname: string) =>
  [
    ...STOPS,
    { path: 'sweeps', label: 'Sweeps' },
    { path: 'history', label: 'What was done' },
    { path: 'settings', label: 'Settings' },
    { path: 'people', label: 'People' },
  ].find((stop) => pathname.split('/')[3] === stop.path)?.label ?? 'Orvant';

/** What a sweep has stored is shown as it comes, at most once a second; and all again when it ends. */
function useRefreshBySweep(workspace: string, sweep: Schema['Sweep'] | null | undefined) {
  const client = useQueryClient();
  const seen = useRef({ at: 0, active: false });
  useEffect(() => {
    const active = isActive(sweep?.state);
    const ended = seen.current.active && !active;
    if (ended || (active && Date.now() - seen.current.at > 1000)) {
      seen.current.at = Date.now();
      client.invalidateQueries({ queryKey: [workspace], predicate: (query) => query.queryKey[1] !== 'summary' });
    }
    seen.current.active = active;
  }, [client, workspace, sweep]);
}
