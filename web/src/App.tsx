import { type ComponentType, lazy } from 'react';
import { Link, Navigate, Outlet, Route, Routes, useLocation } from 'react-router';
import { EmptyState } from './parts/EmptyState';
import { Fetched } from './parts/Fetched';
import { For } from './people/For';
import { Gate } from './people/Gate';
import { Workbench } from './shell/Workbench';

/** A screen that is fetched when its stop is first opened. */
const screen = <Name extends string>(load: () => Promise<Record<Name, ComponentType>>, name: Name) =>
  lazy(async () => ({ default: (await load())[name] }));

const LinksFrame = screen(() => import('./links/LinksFrame'), 'LinksFrame');
const LinksView = screen(() => import('./links/LinksView'), 'LinksView');
const OverAllView = screen(() => import('./links/OverAllView'), 'OverAllView');
const CollectView = screen(() => import('./collect/CollectView'), 'CollectView');
const ClickView = screen(() => import('./collect/ClickView'), 'ClickView');
const SheetsView = screen(() => import('./build/SheetsView'), 'SheetsView');
const SheetView = screen(() => import('./build/SheetView'), 'SheetView');
const SignpostsView = screen(() => import('./signposts/SignpostsView'), 'SignpostsView');
const ConventionFrame = screen(() => import('./convention/ConventionFrame'), 'ConventionFrame');
const RulesView = screen(() => import('./convention/RulesView'), 'RulesView');
const EditView = screen(() => import('./convention/EditView'), 'EditView');
const LearnView = screen(() => import('./convention/LearnView'), 'LearnView');
const VersionsView = screen(() => import('./convention/VersionsView'), 'VersionsView');
const TagsView = screen(() => import('./tags/TagsView'), 'TagsView');
const UnopenedView = screen(() => import('./tags/UnopenedView'), 'UnopenedView');
const RecordingView = screen(() => import('./tags/RecordingView'), 'RecordingView');
const SendersView = screen(() => import('./tags/SendersView'), 'SendersView');
const RecordView = screen(() => import('./rehearsals/RecordView'), 'RecordView');
const RehearsalsView = screen(() => import('./rehearsals/RehearsalsView'), 'RehearsalsView');
const TrafficFrame = screen(() => import('./traffic/TrafficFrame'), 'TrafficFrame');
const TrafficView = screen(() => import('./traffic/TrafficView'), 'TrafficView');
const SeriesView = screen(() => import('./traffic/SeriesView'), 'SeriesView');
const TableView = screen(() => import('./traffic/TableView'), 'TableView');
const ReferrersView = screen(() => import('./traffic/ReferrersView'), 'ReferrersView');
const StepsView = screen(() => import('./traffic/StepsView'), 'StepsView');
const ClaimsView = screen(() => import('./traffic/ClaimsView'), 'ClaimsView');
const OrdersView = screen(() => import('./traffic/OrdersView'), 'OrdersView');
const RowsView = screen(() => import('./traffic/RowsView'), 'RowsView');
const TrafficImportView = screen(() => import('./collect/TrafficImportView'), 'TrafficImportView');
const FixesView = screen(() => import('./fixes/FixesView'), 'FixesView');
const HistoryView = screen(() => import('./history/HistoryView'), 'HistoryView');
const WorkspacesView = screen(() => import('./workspaces/WorkspacesView'), 'WorkspacesView');
const NewWorkspaceView = screen(() => import('./workspaces/NewWorkspaceView'), 'NewWorkspaceView');
const SettingsView = screen(() => import('./workspaces/SettingsView'), 'SettingsView');
const PeopleView = screen(() => import('./people/PeopleView'), 'PeopleView');
const JoinView = screen(() => import('./people/JoinView'), 'JoinView');
const AccountView = screen(() => import('./people/AccountView'), 'AccountView');
const SweepsView = screen(() => import('./sweeps/SweepsView'), 'SweepsView');

/** The stops that have views of their own. */
const CONVENTION = (
  <Route path="convention" element={<ConventionFrame />}>
    <Route index element={<RulesView />} />
    <Route element={<For least="owner" />}>
      <Route path="edit" element={<EditView />} />
    </Route>
    <Route element={<For least="editor" />}>
      <Route path="learn" element={<LearnView />} />
    </Route>
    <Route path="versions" element={<VersionsView />} />
  </Route>
);
const LINKS = (
  <Route path="links" element={<LinksFrame />}>
    <Route index element={<LinksView />} />
    <Route element={<For least="editor" />}>
      <Route path="import" element={<CollectView />} />
      <Route path="build" element={<SheetsView />} />
      <Route path="build/:id" element={<SheetView />} />
    </Route>
    <Route path="over-all" element={<OverAllView />} />
    <Route path="signposts" element={<SignpostsView />} />
    <Route path="click-address" element={<ClickView />} />
  </Route>
);
const TRAFFIC = (
  <Route path="traffic" element={<TrafficFrame />}>
    <Route index element={<TrafficView />} />
    <Route path="series" element={<SeriesView />} />
    <Route path="table" element={<TableView />} />
    <Route path="referrers" element={<ReferrersView />} />
    <Route path="steps" element={<StepsView />} />
    <Route path="claims" element={<ClaimsView />} />
    <Route path="orders" element={<OrdersView />} />
    <Route path="rows" element={<RowsView />} />
    <Route element={<For least="editor" />}>
      <Route path="import" element={<TrafficImportView />} />
    </Route>
  </Route>
);

/** Which screen stands at which address. */
export function App() {
  return (
    <Routes>
      <Route
        element={
          <Gate>
            <Fetched at={useLocation().pathname}>
              <Outlet />
            </Fetched>
          </Gate>
        }
      >
        <Route path="/" element={<WorkspacesView />} />
        <Route path="/join/:token" element={<JoinView />} />
        <Route path="/account" element={<AccountView />} />
        <Route path="/new" element={<NewWorkspaceView />} />
      </Route>
      <Route
        path="/w/:workspace"
        element={
          <Gate>
            <Workbench />
          </Gate>
        }
      >
        <Route index element={<Navigate to="links" replace />} />
        {CONVENTION}
        {LINKS}
        <Route path="tags" element={<TagsView />} />
        <Route path="tags/senders" element={<SendersView />} />
        <Route path="tags/not-opened" element={<UnopenedView />} />
        <Route path="tags/recording" element={<RecordingView />} />
        <Route path="rehearsals" element={<RehearsalsView />} />
        <Route element={<For least="owner" />}>
          <Route path="rehearsals/record" element={<RecordView />} />
        </Route>
        {TRAFFIC}
        <Route path="fixes" element={<FixesView />} />
        <Route path="sweeps" element={<SweepsView />} />
        <Route path="history" element={<HistoryView />} />
        <Route path="people" element={<PeopleView />} />
        <Route element={<For least="owner" />}>
          <Route path="settings" element={<SettingsView />} />
        </Route>
      </Route>
      <Route
        path="*"
        element={
          <EmptyState title="There is nothing at this address." hint="It may have been mistyped, or renamed since.">
            <Link to="/">Begin at the top</Link>
          </EmptyState>
        }
      />
    </Routes>
  );
}
