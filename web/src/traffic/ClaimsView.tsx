import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { Figures } from '../parts/Figures';
import { count, counted, money, onDay } from '../parts/format';
import { Loading } from '../parts/Loading';
import { Section } from '../parts/Section';
import { Toolbar } from '../parts/Toolbar';
import { Weight, type WeightName } from '../parts/Weight';
import { useWorkspace } from '../session/useWorkspace';
import { useListState } from '../shell/useListState';
import { Period } from './Period';
import classes from './Traffic.module.css';
import { Unshown } from './Unshown';

const HEADS = [
  'Campaign, as the network calls it',
  'Network',
  'Cost',
  'Clicks',
  'Sessions',
  'Claimed',
  'Orders',
  'Cost an order',
  'Return claimed',
  'Return found',
];

/** What networks claim beside what was found: clicks and sessions, conversions and orders, by campaign. */
export function ClaimsView() {
  const { name, currency } = useWorkspace();
  const { list, set } = useListState();
  const claims = useQuery(queries.claims(name, { from: list.from, to: list.to }));
  if (claims.isError) {
    return <Unshown error={claims.error} />;
  }
  if (!claims.data) {
    return <Loading />;
  }
  const { rows, findings, both, nobody, period } = claims.data;
  if (rows.length === 0 && !list.from && !list.to) {
    return (
      <EmptyState
        title="No network has claimed anything yet."
        hint="Import a network's report by day: day, campaign, ad, clicks, cost, conversions claimed and value claimed; and orders: order, at, value."
      >
        <Button component={Link} to={`/w/${name}/traffic/import?of=claims`} variant="filled">
          Import claims
        </Button>
      </EmptyState>
    );
  }
  return (
    <div className={classes.view}>
      <Toolbar>
        <Period from={list.from} to={list.to} last={period.to} set={set} />
        <span>
          {onDay(period.from)} to {onDay(period.to)}; {counted(both, 'order')} that two networks claim,{' '}
          {counted(nobody, 'order')} that nobody brought
        </span>
        <Toolbar.Rest>
          <Button component="a" href={`/api/workspaces/${name}/traffic/claims.csv`}>
            CSV
          </Button>
        </Toolbar.Rest>
      </Toolbar>
      <div className={classes.body}>
        {findings.map((finding) => (
          <div key={finding.message} className={classes.finding}>
            <p>
              <Weight weight={finding.weight as WeightName} /> {finding.message}
            </p>
            <p className={classes.hint}>{finding.action}</p>
          </div>
        ))}
        <Section title="By campaign" aside="cost without rows that stand twice">
          <Figures
            heads={HEADS}
            rows={rows.map((row) => ({
              key: `${row.network} ${row.campaign}`,
              cells: [
                row.campaign,
                row.network,
                `${money(row.cost, currency)}${row.twice > 0 ? ` (${counted(row.twice, 'row')} twice)` : ''}`,
                count(row.clicks),
                count(row.sessions),
                count(row.claimed),
                count(row.orders),
                row.orders ? money(Math.round(row.cost / row.orders), currency) : '–',
                times(row.claimed_value, row.cost),
                times(row.order_value, row.cost),
              ],
            }))}
          />
        </Section>
      </div>
    </div>
  );
}

const times = (value: number, cost: number) => (cost > 0 ? `${(value / cost).toFixed(1)} ×` : '–');
