import '@mantine/charts/styles.css';
import { LineChart } from '@mantine/charts';
import { NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { Figures } from '../parts/Figures';
import { count, counted, money, onDay } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { Toolbar } from '../parts/Toolbar';
import { useWorkspace } from '../session/useWorkspace';
import { useListState } from '../shell/useListState';
import { Beside, compared } from './Beside';
import { Period } from './Period';
import { changed, type Figured, pictured, sumOf } from './pictured';
import classes from './Traffic.module.css';
import { Unshown } from './Unshown';

const MARKS: Record<string, string> = {
  sweep: 'swept',
  fix: 'fix proven',
  convention: 'rules changed',
  sending: 'sent',
};

const BESIDE = 'the days beside';

/** A measure by day or week, with what happened meanwhile: the picture that shows whether a fix worked. */
export function SeriesView() {
  const { name, currency } = useWorkspace();
  const { list, set } = useListState();
  const by = list.by === 'day' ? 'day' : 'week';
  const measure = list.measure ?? 'sessions';
  const series = useQuery(
    queries.series(name, {
      by,
      from: list.from,
      to: list.to,
      channel: list.channel,
      fix: list.fix,
      compare: compared(list),
    }),
  );
  if (series.isError) {
    return <Unshown error={series.error} />;
  }
  if (!series.data) {
    return <Loading />;
  }
  const { points, channels, marks, before } = series.data;
  const figure = (point: Figured) =>
    measure === 'revenue' ? point.revenue / 100 : measure === 'conversions' ? point.conversions : point.sessions;
  const inWords = (value: number) =>
    measure === 'revenue' ? money(value * 100, currency) : counted(value, measure.replace(/s$/, ''));
  const rows = pictured(points, before?.points ?? [], figure);
  const told = marks.filter((mark) => mark.kind !== 'sweep').slice(-12);
  const at = (date: string) => points.filter((point) => point.from <= date).at(-1)?.from ?? date;
  return (
    <div className={classes.view}>
      <Toolbar>
        <Period from={list.from} to={list.to} last={points.at(-1)?.from} set={set} />
        <Beside />
        <Toolbar.Rest>
          <Choices channels={channels} by={by} measure={measure} />
        </Toolbar.Rest>
      </Toolbar>
      {rows.length === 0 ? (
        <EmptyState
          title="No visits in these days."
          hint="Choose other days, or import session rows with a date, source, medium, landing page and sessions."
        />
      ) : (
        <div className={classes.body}>
          {before && <Keys points={points} before={before} figure={figure} inWords={inWords} />}
          <LineChart
            h={250}
            data={rows}
            dataKey="from"
            series={[
              { name: 'all', label: measure, color: 'var(--ink)' },
              ...(before ? [{ name: 'beside', label: BESIDE, color: 'var(--faint)', strokeDasharray: '5 4' }] : []),
            ]}
            curveType="linear"
            withDots
            lineChartProps={{ margin: { right: 64 } }}
            valueFormatter={(value) => (measure === 'revenue' ? inWords(value) : count(value))}
            xAxisProps={{ tickFormatter: (day: string) => onDay(day).replace(/ \d{4}$/, '') }}
            referenceLines={told.map((mark) => ({
              x: at(mark.date),
              color: 'var(--faint)',
              label: MARKS[mark.kind] ?? mark.kind,
            }))}
          />
          {told.length > 0 && <Meanwhile marks={told} />}
          <EachOf points={points} by={by} />
          {before && <EachOf points={before.points} by={by} beside />}
        </div>
      )}
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

interface KeysProps {
  points: Series['points'];
  before: NonNullable<Series['before']>;
  figure: (point: Figured) => number;
  inWords: (value: number) => string;
}

/** Which line is which, and what all of each comes to. */
function Keys({ points, before, figure, inWords }: KeysProps) {
  const { from, to } = before;
  const days = [from && `from ${onDay(from)}`, to && `to ${onDay(to)}`].filter(Boolean).join(' ');
  return (
    <ul className={classes.keys}>
      <li>
        <Line color="var(--ink)" />
        {inWords(sumOf(points, figure))} in these days
      </li>
      <li>
        <Line color="var(--faint)" dashes="5 4" />
        {inWords(sumOf(before.points, figure))} in {BESIDE}
        {days && `, ${days}`}
      </li>
      <li>{changed(points, before.points, figure)}</li>
    </ul>
  );
}

/** How a line of the picture is drawn. */
const Line = ({ color, dashes }: { color: string; dashes?: string }) => (
  <svg width="28" height="8" aria-hidden="true">
    <line x1="0" y1="4" x2="28" y2="4" stroke={color} strokeWidth="2" strokeDasharray={dashes} />
  </svg>
);

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

interface EachOfProps {
  points: (Figured & { from: string; at?: string })[];
  by: 'day' | 'week';
  /** Whether they are those that stand beside. */
  beside?: boolean;
}

/** The picture's table. */
function EachOf({ points, by, beside = false }: EachOfProps) {
  const { currency } = useWorkspace();
  const each = by === 'week' ? 'Week' : 'Day';
  return (
    <Section
      title={beside ? `${each} by ${each.toLowerCase()}, ${BESIDE}` : `${each} by ${each.toLowerCase()}`}
      aside="the figures of the picture"
    >
      <Figures
        heads={[
          by === 'week' ? 'Week from' : 'Day',
          ...(beside ? ['Beside'] : []),
          'Sessions',
          'Conversions',
          'Revenue',
          'Cost',
        ]}
        rows={points.map((point) => ({
          key: point.from,
          cells: [
            onDay(point.from),
            ...(point.at ? [onDay(point.at)] : []),
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
