import { Button, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { atMoment, counted } from '../parts/format';
import { Loading } from '../parts/Loading';
import { SearchField } from '../parts/SearchField';
import { Toolbar } from '../parts/Toolbar';
import { useMay } from '../session/session';
import { useWorkspace } from '../session/useWorkspace';
import { useListState } from '../shell/useListState';
import classes from './HistoryView.module.css';

type Deed = Schema['Deed'];

/** What takes a deed back, by what it was done to. */
const UNDO: Record<
  Exclude<NonNullable<Deed['undo']>, 'version'>,
  (workspace: string, id: number) => Promise<unknown>
> = {
  act: acts.undoAct,
  sheet: acts.bringSheetBack,
  signpost: acts.putSignpostUpAgain,
  waiver: acts.takeBackWaiver,
  import: acts.removeImport,
  setting: acts.takeBackSetting,
};

/** What was done here, the latest first, and the way back from it. */
export function HistoryView() {
  const { name } = useWorkspace();
  const { list, set } = useListState();
  const history = useQuery(queries.history(name));
  const words = (list.q ?? '').toLowerCase();
  const all = history.data?.deeds ?? [];
  const people = [...new Set(all.map((deed) => deed.by))].filter(Boolean).toSorted();
  const shown = all.filter(
    (deed) => (!list.by || deed.by === list.by) && `${deed.what} ${deed.by}`.toLowerCase().includes(words),
  );
  if (history.isError) {
    return <Failure error={history.error} />;
  }
  return (
    <div className={classes.view}>
      <Toolbar>
        <SearchField label="Search what was done" value={list.q ?? ''} search={(q) => set({ q: q || null })} />
        {people.length > 1 && (
          <Select
            aria-label="By whom"
            placeholder="By whom"
            clearable
            w={150}
            data={people}
            value={list.by ?? null}
            onChange={(by) => set({ by })}
          />
        )}
        {history.isSuccess && <span>{counted(shown.length, 'deed')}, the latest first</span>}
        <Toolbar.Rest>
          <Button component="a" href={`/api/workspaces/${name}/history.csv`}>
            CSV
          </Button>
        </Toolbar.Rest>
      </Toolbar>
      {history.isPending && <Loading />}
      {history.isSuccess && shown.length === 0 && (
        <EmptyState
          title={words ? 'Nothing that was done fits this search.' : 'Nothing has been done yet.'}
          hint="Files that are read, links that are changed and versions of the convention are listed here."
        />
      )}
      {shown.length > 0 && (
        <div className={classes.body}>
          <table className={classes.deeds}>
            <thead>
              <tr>
                <th>When</th>
                <th>What</th>
                <th>By</th>
                <th>Way back</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((deed) => (
                <tr key={`${deed.undo} ${deed.id}`}>
                  <td className={classes.when}>{atMoment(deed.at)}</td>
                  <td>{deed.what}</td>
                  <td>{deed.by || '–'}</td>
                  <td>
                    <WayBack deed={deed} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
}

function WayBack({ deed }: { deed: Deed }) {
  const { name } = useWorkspace();
  const { undo, id } = deed;
  const may = useMay(undo === 'setting' ? 'owner' : 'editor');
  const takeBack = useAct(name, () => (undo && undo !== 'version' ? UNDO[undo](name, id) : Promise.resolve(null)));
  if (deed.undone) {
    return <span className={classes.faint}>taken back</span>;
  }
  if (undo === 'version') {
    return <Link to={`/w/${name}/convention/versions`}>under Versions</Link>;
  }
  if (!undo || !may) {
    return <span className={classes.faint}>–</span>;
  }
  return (
    <Button
      loading={takeBack.isPending}
      onClick={() => takeBack.mutate(undefined)}
      aria-label={`Take back: ${deed.what}`}
    >
      Take back
    </Button>
  );
}
