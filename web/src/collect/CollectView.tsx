import { Link } from 'react-router';
import { useWorkspace } from '../session/useWorkspace';
import { useListState } from '../shell/useListState';
import classes from './Collect.module.css';
import { FetchSource } from './FetchSource';
import { FileSource } from './FileSource';
import { ImportHistory } from './ImportHistory';
import { isFetched, SOURCES } from './sources';

/** Where links come from: one source is chosen at the left, read, looked at, and kept. */
export function CollectView() {
  const { name } = useWorkspace();
  const { list, set } = useListState();
  const source = SOURCES.find((one) => one.kind === list.from) ?? SOURCES[0];
  if (!source) {
    return null;
  }
  return (
    <div className={classes.collect}>
      <nav className={classes.sources} aria-label="Sources">
        <h2>Collect links</h2>
        {SOURCES.map((one) => (
          <button
            key={one.kind}
            type="button"
            aria-current={one.kind === source.kind || undefined}
            onClick={() => set({ from: one.kind })}
          >
            {one.label}
          </button>
        ))}
        <Link to={`/w/${name}/links/click-address`}>Try a click pattern</Link>
      </nav>
      <div className={classes.view}>
        {isFetched(source.kind) ? (
          <FetchSource key={source.kind} kind={source.kind} />
        ) : (
          <FileSource key={source.kind} source={source} noun="placement" back="links" />
        )}
        <ImportHistory kinds={SOURCES.map((one) => one.kind)} />
      </div>
    </div>
  );
}
