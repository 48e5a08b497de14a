import { useListState } from '../shell/useListState';
import { RowsEvidence } from './RowsEvidence';
import classes from './Traffic.module.css';

/** The session rows themselves, all or those that the address bar names. */
export function RowsView() {
  const { list, set } = useListState();
  return (
    <div className={classes.rows}>
      <RowsEvidence
        list={list}
        onClose={() => set(Object.fromEntries(Object.keys(list).map((name) => [name, null])))}
      />
    </div>
  );
}
