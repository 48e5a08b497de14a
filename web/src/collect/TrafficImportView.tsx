import { NativeSelect } from '@mantine/core';
import { useListState } from '../shell/useListState';
import classes from './Collect.module.css';
import { FileSource } from './FileSource';
import { ImportHistory } from './ImportHistory';
import { TRAFFIC_SOURCES as SOURCES, TRAFFIC } from './sources';

/** Session rows, and what stands beside them: what networks claim, what was sold, and the visits before it. */
export function TrafficImportView() {
  const { list, set } = useListState();
  const source = SOURCES.find((one) => one.kind === list.of) ?? TRAFFIC;
  return (
    <div className={classes.view}>
      <h2>Import {source.label.toLowerCase()}</h2>
      <NativeSelect
        label="What the file holds"
        maw={280}
        value={source.kind}
        onChange={(event) => set({ of: event.currentTarget.value })}
        data={SOURCES.map((one) => ({ value: one.kind, label: one.label }))}
      />
      <FileSource key={source.kind} source={source} noun="row" back="traffic" />
      <ImportHistory kinds={SOURCES.map((one) => one.kind)} />
    </div>
  );
}
