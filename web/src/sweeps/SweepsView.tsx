import { Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { atMoment, count, counted } from '../parts/format';
import { Section } from '../parts/Section';
import { Toolbar } from '../parts/Toolbar';
import { Weight, type WeightName } from '../parts/Weight';
import { useWorkspace } from '../session/useWorkspace';
import { useListState } from '../shell/useListState';
import classes from './SweepsView.module.css';

type Difference = Schema['SweepDifference'];

/** What has changed between two sweeps: trails that lead elsewhere, findings that came and went. */
export function SweepsView() {
  const { name } = useWorkspace();
  const { list, set } = useListState();
  const sweeps = useQuery(queries.sweeps(name));
  const done = sweeps.data?.sweeps.filter((one) => one.state === 'done' && one.whole) ?? [];
  const id = Number(list.sweep ?? done[0]?.id ?? 0);
  const earlier = Number(list.earlier ?? done.find((one) => one.id < id)?.id ?? 0);
  const difference = useQuery({ ...queries.difference(name, id, earlier), enabled: id > 0 && earlier > 0 });
  const options = done.map((one) => ({
    value: String(one.id),
    label: `${atMoment(one.finished_at)} · ${counted(one.findings, 'finding')}`,
  }));

  if (sweeps.isSuccess && done.length < 2) {
    return (
      <EmptyState
        title="There are not two finished sweeps yet."
        hint="Sweep twice, and what has changed in between stands here."
      />
    );
  }
  return (
    <div className={classes.view}>
      <Toolbar>
        <span>Sweep of</span>
        <Select
          aria-label="Sweep"
          w={230}
          data={options}
          value={String(id)}
          onChange={(value) => set({ sweep: value, earlier: null })}
        />
        <span>compared with</span>
        <Select
          aria-label="Earlier sweep"
          w={230}
          data={options.filter((one) => Number(one.value) < id)}
          value={earlier ? String(earlier) : null}
          onChange={(value) => set({ earlier: value })}
        />
      </Toolbar>
      <div className={classes.body}>
        {difference.isError && <Failure error={difference.error} />}
        {difference.data && <Changes difference={difference.data} />}
      </div>
    </div>
  );
}

function Changes({ difference }: { difference: Difference }) {
  const { name } = useWorkspace();
  const { trails, findings, counts } = difference;
  return (
    <>
      <Section title="Findings" aside={tally(counts.findings)}>
        {findings.length === 0 && <p className={classes.none}>The same as before.</p>}
        <table className={classes.table}>
          <tbody>
            {findings.map((one, index) => (
              <tr key={index}>
                <td data-what={one.what}>{one.what}</td>
                <td>
                  <Weight weight={one.weight as WeightName} />
                </td>
                <td>{one.code}</td>
                <td>
                  <Subject name={name} link={one.link_id} text={one.subject ?? ''} />
                  <p>{one.message}</p>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Section>
      <Section title="Trails" aside={tally(counts.trails)}>
        {trails.length === 0 && <p className={classes.none}>Every link leads where it led before.</p>}
        <table className={classes.table}>
          <tbody>
            {trails.map((one) => (
              <tr key={one.link_id}>
                <td data-what={one.what}>{one.what}</td>
                <td>
                  <Subject name={name} link={one.link_id} text={one.address ?? ''} />
                  {one.before && <del>{one.before}</del>}
                  {one.after && <code>{one.after}</code>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Section>
    </>
  );
}

function Subject({ name, link, text }: { name: string; link: number | null; text: string }) {
  return link ? (
    <Link className={classes.subject} to={`/w/${name}/links?chosen=${link}`}>
      {text}
    </Link>
  ) : (
    <span className={classes.subject}>{text}</span>
  );
}

function tally(counts: Record<string, number> | undefined) {
  return Object.entries(counts ?? {})
    .map(([what, many]) => `${count(many)} ${what}`)
    .join(', ');
}
