import { Button } from '@mantine/core';
import { Failure } from '../parts/Failure';
import { Toolbar } from '../parts/Toolbar';
import { useListState } from '../shell/useListState';
import { Period } from './Period';
import classes from './Traffic.module.css';

/** A view of traffic that cannot be shown as it is asked for, with what brings it back. */
export function Unshown({ error }: { error: Error }) {
  const { list, set } = useListState();
  const nothing = () => set(Object.fromEntries(Object.keys(list).map((asked) => [asked, null])));
  return (
    <div className={classes.view}>
      <Toolbar>
        <Period from={list.from} to={list.to} set={set} />
        <Toolbar.Rest>
          <Button variant="default" onClick={nothing}>
            Show all traffic
          </Button>
        </Toolbar.Rest>
      </Toolbar>
      <Failure error={error} />
    </div>
  );
}
