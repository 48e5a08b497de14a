import { useQuery } from '@tanstack/react-query';
import { Navigate, Route, Routes } from 'react-router';
import { queries } from './api/queries';
import { SheetsView } from './build/SheetsView';
import { SheetView } from './build/SheetView';
import { ClickView } from './collect/ClickView';
import { CollectView } from './collect/CollectView';
import { TrafficImportView } from './collect/TrafficImportView';
import { ConventionFrame } from './convention/ConventionFrame';
import { EditView } from './convention/EditView';
import { LearnView } from './convention/LearnView';
import { RulesView } from './convention/RulesView';
import { VersionsView } from './convention/VersionsView';
import { FixesView } from './fixes/FixesView';
import { LinksView } from './links/LinksView';
import { OverAllView } from './links/OverAllView';
import { EmptyState } from './parts/EmptyState';
import { Failure } from './parts/Failure';
import { RehearsalsView } from './rehearsals/RehearsalsView';
import { Workbench } from './shell/Workbench';
import { SignpostsView } from './signposts/SignpostsView';
import { SweepsView } from './sweeps/SweepsView';
import { SendersView } from './tags/SendersView';
import { TagsView } from './tags/TagsView';
import { TrafficView } from './traffic/TrafficView';

/** Which screen stands at which address. */
export function App() {
  return (
    <Routes>
      <Route path="/" element={<FirstWorkspace />} />
      <Route path="/w/:workspace" element={<Workbench />}>
        <Route index element={<Navigate to="links" replace />} />
        <Route path="convention" element={<ConventionFrame />}>
          <Route index element={<RulesView />} />
          <Route path="edit" element={<EditView />} />
          <Route path="learn" element={<LearnView />} />
          <Route path="versions" element={<VersionsView />} />
        </Route>
        <Route path="links" element={<LinksView />} />
        <Route path="links/import" element={<CollectView />} />
        <Route path="links/over-all" element={<OverAllView />} />
        <Route path="links/build" element={<SheetsView />} />
        <Route path="links/build/:id" element={<SheetView />} />
        <Route path="links/signposts" element={<SignpostsView />} />
        <Route path="links/click-address" element={<ClickView />} />
        <Route path="tags" element={<TagsView />} />
        <Route path="tags/senders" element={<SendersView />} />
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
