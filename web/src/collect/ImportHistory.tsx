import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Fragment } from 'react';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { isActive, queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { atMoment, count, counted } from '../parts/format';
import { Section } from '../parts/Section';
import { useWorkspace } from '../session/useWorkspace';
import { ClickHosts } from '../shell/ClickHosts';
import { useListState } from '../shell/useListState';
import { ApartLinks } from './ApartLinks';
import { Changes } from './Changes';
import classes from './Collect.module.css';
import { ExportDifference } from './ExportDifference';
import { RejectedRows } from './RejectedRows';
import { SitePages } from './SitePages';
import { SOURCES, TRAFFIC_SOURCES } from './sources';

type Import = Schema['Import'];

/** What was collected before: how far it is, what it found, what changed; each can be taken back. */
export function ImportHistory({ kinds }: { kinds: string[] }) {
  const { name } = useWorkspace();
  const { list, set } = useListState();
  const imports = useQuery(queries.imports(name));
  const hosts = useQuery(queries.clickHosts(name)).data?.may_charge ?? [];
  const own = imports.data?.imports.filter((one) => kinds.includes(one.kind)) ?? [];
  const followed = (kinds.includes('logs') && imports.data?.followed) || [];
  if (own.length + followed.length === 0) {
    return null;
  }
  return (
    <Section title="Collected so far">
      {kinds.includes('ads') && <ClickHosts name={name} hosts={hosts} />}
      {followed.map((log) => (
        <p
          key={log.source}
          role={log.problem ? 'alert' : undefined}
          className={log.problem ? classes.problem : undefined}
        >
          {log.problem ??
            `${log.file} is read as it grows${log.read_at ? `; last ${atMoment(log.read_at)}` : ', from the next minute on'}.`}
        </p>
      ))}
      <table className={classes.table}>
        <tbody>
          {own.map((one) => (
            <Fragment key={one.id}>
              <Row
                one={one}
                open={list.import === String(one.id)}
                onOpen={(open) => set({ import: open ? String(one.id) : null })}
              />
              {list.import === String(one.id) && (
                <tr>
                  <td colSpan={5} className={classes.contents}>
                    <Contents one={one} />
                  </td>
                </tr>
              )}
            </Fragment>
          ))}
        </tbody>
      </table>
    </Section>
  );
}

function Row({ one, open, onOpen }: { one: Import; open: boolean; onOpen: (open: boolean) => void }) {
  const { name } = useWorkspace();
  const remove = useAct(name, (id: number) => acts.removeImport(name, id));
  const stop = useAct(name, (id: number) => acts.stopImport(name, id));
  const label = [...SOURCES, ...TRAFFIC_SOURCES].find((source) => source.kind === one.kind)?.label ?? one.kind;
  const more =
    one.pages + one.changes.length + one.apart.length + one.rejected.length + one.notes.length > 0 || replaces(one);
  return (
    <tr>
      <td>{atMoment(one.created_at)}</td>
      <td>{label}</td>
      <td className={classes.file}>{one.source || one.filename}</td>
      <td>{outcome(one)}</td>
      <td>
        {isActive(one.state) ? (
          <Button variant="subtle" disabled={one.state === 'stopping'} onClick={() => stop.mutate(one.id)}>
            Stop
          </Button>
        ) : (
          <>
            {more && (
              <Button variant="subtle" aria-expanded={open} onClick={() => onOpen(!open)}>
                {open ? 'Less' : more && one.changes.length > 0 ? counted(one.changes.length, 'change') : 'More'}
              </Button>
            )}
            <Button variant="subtle" onClick={() => remove.mutate(one.id)} title="Importing it again brings it back">
              Take back
            </Button>
          </>
        )}
      </td>
    </tr>
  );
}

function outcome(one: Import) {
  if (one.state === 'failed') {
    return <span className={classes.problem}>{one.problem}</span>;
  }
  if (isActive(one.state)) {
    return (
      <span role="status">
        <progress max={Math.max(one.total, 1)} value={one.done} /> {soFar(one)}
      </span>
    );
  }
  const words = [
    `${count(one.added)} added`,
    one.already > 0 && `${count(one.already)} there already`,
    one.ended > 0 && `${count(one.ended)} gone`,
    one.rejected.length > 0 && `${count(one.rejected.length)} rejected`,
    one.pages > 0 && `${counted(one.pages, 'page')} read`,
    one.state === 'stopped' && 'stopped',
    !one.explained && 'not explained yet',
  ];
  return words.filter(Boolean).join(', ');
}

function Contents({ one }: { one: Import }) {
  return (
    <>
      {one.notes.map((note) => (
        <p key={note} className={classes.about}>
          {note}
        </p>
      ))}
      {one.changes.length > 0 && <Changes changes={one.changes} />}
      {replaces(one) && <ExportDifference id={one.id} />}
      {one.pages > 0 && <SitePages id={one.id} />}
      <ApartLinks links={one.apart} />
      <RejectedRows rows={one.rejected} />
    </>
  );
}

/** Whether it holds days that an export of the same source held before. */
const replaces = ({ kind, already, ended }: Import) => ['traffic', 'logs'].includes(kind) && already + ended > 0;

/** Session rows are read by the byte: how many there are shows at the end only. */
const soFar = ({ kind, done, total }: { kind: string; done: number; total: number }) =>
  ['traffic', 'logs'].includes(kind)
    ? `${(done / 1e6).toFixed(1)} of ${(total / 1e6).toFixed(1)} MB`
    : `${count(done)} of ${count(total)}`;
