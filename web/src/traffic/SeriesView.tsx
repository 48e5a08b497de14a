import '@mantine/charts/styles.css';
import { LineChart } from '@mantine/charts';
import { NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { Failure } from '../parts/Failure';
import { Figures } from '../parts/Figures';
import { count, money, onDay } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { Toolbar } from '../parts/Toolbar';
import { useListState } from '../shell/useListState';
import { useWorkspace } from '../shell/Workbench';
import { Period } from './Period';
import classes from './Traffic.module.css';

const MARKS: Record<string, string> = {
  sweep: 'swept',
  fix: 'fix proven',
  convention: 'rules changed',
  sending: 'sent',
};

/** A measure by day or week, with what happened meanwhile: the picture that shows whether a fix worked. */
export function SeriesView() {
  const { name, currency } = useWorkspace();
  const { list, set } = useListState();
  const by = list.by === 'day' ? 'day' : 'week';
  const measure = list.measure ?? 'sessions';
  const series = useQuery(
    queries.series(name, { by, from: list.from, to: list.to, channel: list.channel, fix: list.fix }),
  );
  if (series.isError) {
    return <Failure error={series.error} />;
  }
  if (!series.data) {
    return <Loading />;
  }
  const { points, channels, marks } = series.data;
  if (points.length === 0) {
    return (
      <EmptyState
        title="No visits in these days."
        hint="Choose other days, or import session rows with a date, source, medium, landing page and sessions."
      />
    );
  }
  const figure = (point: (typeof points)[number]) =>
    measure === 'revenue' ? point.revenue / 100 : measure === 'conversions' ? point.conversions : point.sessions;
  const rows = points.map((point) => ({ from: point.from, all: figure(point), ...point.channels }));
  const last = points.at(-1)?.from;
  const told = marks.filter((mark) => mark.kind !== 'sweep').slice(-12);
  const at = (date: string) => points.filter((point) => point.from <= date).at(-1)?.from ?? date;
  return (
    <div className={classes.view}>
      <Toolbar>
        <Period from={list.from} to={list.to} last={last} set={set} />
        <Toolbar.Rest>
          <Choices channels={channels} by={by} measure={measure} />
        </Toolbar.Rest>
      </Toolbar>
      <div className={classes.body}>
        <LineChart
          h={250}
          data={rows}
          dataKey="from"
          series={[{ name: 'all', label: measure, color: 'var(--ink)' }]}
          curveType="linear"
          withDots
          lineChartProps={{ margin: { right: 64 } }}
          valueFormatter={(value) => (measure === 'revenue' ? money(value * 100, currency) : count(value))}
          xAxisProps={{ tickFormatter: (day: string) => onDay(day).replace(/ \d{4}$/, '') }}
          referenceLines={told.map((mark) => ({
            x: at(mark.date),
            color: 'var(--faint)',
            label: MARKS[mark.kind] ?? mark.kind,
          }))}
        />
        {told.length > 0 && <Meanwhile marks={told} />}
        <EachOf points={points} by={by} />
      </div>
    </div>
  );
}

type Series = Schema['TrafficSeries'];

/** What the picture shows. channels: those that there are. */
function Choices({ channels, by, measure }: { channels: string[]; by: string; measure: string }) {
  const { list, set } = useListState();
  return (
    <>
      <NativeSelect
        size="xs"
        aria-label="Measure"
        value={measure}
        onChange={(event) => set({ measure: event.currentTarget.value })}
        data={['sessions', 'conversions', 'revenue']}
      />
      <NativeSelect
        size="xs"
        aria-label="By"
        value={by}
        onChange={(event) => set({ by: event.currentTarget.value })}
        data={[
          { value: 'day', label: 'by day' },
          { value: 'week', label: 'by week' },
        ]}
      />
      <NativeSelect
        size="xs"
        aria-label="Channel"
        value={list.channel ?? ''}
        onChange={(event) => set({ channel: event.currentTarget.value || null })}
        data={[{ value: '', label: 'every channel' }, ...channels]}
      />
    </>
  );
}

function Meanwhile({ marks }: { marks: Series['marks'] }) {
  return (
    <Section title="Meanwhile" aside="the lines of the picture">
      <ul className={classes.marks}>
        {marks.map((mark) => (
          <li key={`${mark.date} ${mark.kind} ${mark.text}`}>
            <b>{onDay(mark.date)}</b> {mark.text}
          </li>
        ))}
      </ul>
    </Section>
  );
}

/** The picture's table. */
function EachOf({ points, by }: { points: Series['points']; by: 'day' | 'week' }) {
  const { currency } = useWorkspace();
  return (
    <Section title={by === 'week' ? 'Week by week' : 'Day by day'} aside="the figures of the picture">
      <Figures
        heads={[by === 'week' ? 'Week from' : 'Day', 'Sessions', 'Conversions', 'Revenue', 'Cost']}
        rows={points.map((point) => ({
          key: point.from,
          cells: [
            onDay(point.from),
            count(point.sessions),
            count(point.conversions),
            money(point.revenue, currency),
            point.cost ? money(point.cost, currency) : '–',
          ],
        }))}
      />
    </Section>
  );
}
