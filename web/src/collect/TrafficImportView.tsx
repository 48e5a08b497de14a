import classes from './Collect.module.css';
import { FileSource } from './FileSource';
import { ImportHistory } from './ImportHistory';
import { TRAFFIC } from './sources';

/** Session rows come from one kind of file. */
export function TrafficImportView() {
  return (
    <div className={classes.view}>
      <h2>Import session rows</h2>
      <FileSource source={TRAFFIC} noun="row" back="traffic" />
      <ImportHistory kinds={['traffic']} />
    </div>
  );
}
