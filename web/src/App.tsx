import { useQuery } from '@tanstack/react-query';
import { Navigate, Route, Routes } from 'react-router';
import { queries } from './api/queries';
import { ClickView } from './collect/ClickView';
import { CollectView } from './collect/CollectView';
import { TrafficImportView } from './collect/TrafficImportView';
import { ConventionView } from './convention/ConventionView';
import { FixesView } from './fixes/FixesView';
import { LinksView } from './links/LinksView';
import { EmptyState } from './parts/EmptyState';
import { Failure } from './parts/Failure';
import { RehearsalsView } from './rehearsals/RehearsalsView';
import { Workbench } from './shell/Workbench';
import { SweepsView } from './sweeps/SweepsView';
import { TagsView } from './tags/TagsView';
import { TrafficView } from './traffic/TrafficView';

/** Which screen stands at which address. */
export function App() {
  return (
    <Routes>
      <Route path="/" element={<FirstWorkspace />} />
      <Route path="/w/:workspace" element={<Workbench />}>
        <Route index element={<Navigate to="links" replace />} />
        <Route path="convention" element={<ConventionView />} />
        <Route path="links" element={<LinksView />} />
        <Route path="links/import" element={<CollectView />} />
        <Route path="links/click-address" element={<ClickView />} />
        <Route path="tags" element={<TagsView />} />
        <Route path="rehearsals" element={<RehearsalsView />} />
        <Route path="traffic" element={<TrafficView />} />
        <Route path="traffic/import" element={<TrafficImportView />} />
        <Route path="fixes" element={<FixesView />} />
        <Route path="sweeps" element={<SweepsView />} />
      </Route>
      <Route
        path="*"
        element={<EmptyState title="There is nothing at this address." hint="Go back, or begin at the top: /" />}
      />
    </Routes>
  );
}

function FirstWorkspace() {
  const workspaces = useQuery(queries.workspaces());
  if (workspaces.isError) {
    return <Failure error={workspaces.error} />;
  }
  if (!workspaces.data) {
    return null;
  }
  const first = workspaces.data.workspaces[0];
  return first ? (
    <Navigate to={`/w/${first.name}/links`} replace />
  ) : (
    <EmptyState title="There is no workspace yet." hint="Run bin/demo to look at a finished one." />
  );
}
