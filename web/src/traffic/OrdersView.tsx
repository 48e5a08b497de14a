import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { EmptyState } from '../parts/EmptyState';
import { Facts } from '../parts/Facts';
import { Failure } from '../parts/Failure';
import { Figures } from '../parts/Figures';
import { atMoment, count, counted, money } from '../parts/format';
import { Loading } from '../parts/Loading';
import { SearchField } from '../parts/SearchField';
import { Section } from '../parts/Section';
import { Toolbar } from '../parts/Toolbar';
import { useWorkspace } from '../session/useWorkspace';
import { Split } from '../shell/Split';
import { useListState } from '../shell/useListState';
import { Period } from './Period';
import classes from './Traffic.module.css';
import { Unshown } from './Unshown';

/** Orders with the visits before them, and where credit moves between the first, the last, and the last that was not direct. */
export function OrdersView() {
  const { name, currency } = useWorkspace();
  const { list, set } = useListState();
  const orders = useQuery(queries.orders(name, { from: list.from, to: list.to, q: list.q }));
  if (orders.isError) {
    return <Unshown error={orders.error} />;
  }
  if (!orders.data) {
    return <Loading />;
  }
  const { total, value, untouched, matrix, orders: rows, touches } = orders.data;
  if (total === 0 && !list.q && !list.from && !list.to) {
    return (
      <EmptyState
        title="No orders yet."
        hint="Import orders (order, at, value, currency, visitor, coupon) and the visits before them (at, visitor, source, medium, campaign, landing page)."
      >
        <Button component={Link} to={`/w/${name}/traffic/import?of=orders`} variant="filled">
          Import orders
        </Button>
      </EmptyState>
    );
  }
  return (
    <Split evidence={list.order ? <OneOrder number={list.order} onClose={() => set({ order: null })} /> : undefined}>
      <Toolbar>
        <SearchField label="Order number" value={list.q ?? ''} search={(q) => set({ q })} />
        <Period from={list.from} to={list.to} set={set} />
      </Toolbar>
      <div className={classes.body}>
        <p className={classes.sum}>
          {counted(total, 'order')} of {money(value, currency)}; {counted(untouched, 'order')} without a visit that is
          known
        </p>
        <Credit matrix={matrix} />
        <VisitsBefore touches={touches} />
        <Section title="Orders" aside="the latest first">
          <Figures
            heads={['Order', 'At', 'Value', 'Visits', 'First', 'Last']}
            rows={rows.map((row) => ({
              key: row.number,
              cells: [
                <button key="open" type="button" className={classes.open} onClick={() => set({ order: row.number })}>
                  {row.number}
                </button>,
                atMoment(row.at),
                money(row.value, currency),
                count(row.touches),
                row.first || '–',
                row.last || '–',
              ],
            }))}
          />
        </Section>
      </div>
    </Split>
  );
}

type Orders = Schema['Orders'];

function Credit({ matrix }: { matrix: Orders['matrix'] }) {
  const { currency } = useWorkspace();
  return (
    <Section title="Where credit moves" aside="orders and their value; none of the three is right by itself">
      <Figures
        heads={['Channel', 'First visit', 'Last visit', 'Last that was not direct']}
        rows={matrix.map((row) => ({
          key: row.channel,
          cells: [
            row.channel,
            ...[
              [row.first, row.first_value],
              [row.last, row.last_value],
              [row.last_known, row.last_known_value],
            ].map(([orders = 0, sum = 0]) => `${count(orders)} · ${money(sum, currency)}`),
          ],
        }))}
      />
    </Section>
  );
}

/** touches: orders by how many visits came before. */
function VisitsBefore({ touches }: { touches: number[] }) {
  const most = Math.max(...touches, 1);
  return (
    <Section title="Visits before an order" aside="how many orders had so many; 10 stands for more too">
      <div className={classes.histogram}>
        {touches.map((orders, visits) =>
          visits === 0 ? null : (
            <div key={visits}>
              <span>{visits}</span>
              <span className={classes.bar} style={{ width: `${(orders / most) * 70}%` }} />
              <span>{count(orders)}</span>
            </div>
          ),
        )}
      </div>
    </Section>
  );
}

function OneOrder({ number, onClose }: { number: string; onClose: () => void }) {
  const { name, currency } = useWorkspace();
  const order = useQuery(queries.order(name, number));
  if (order.isError) {
    return <Failure error={order.error} />;
  }
  if (!order.data) {
    return <Loading />;
  }
  const { at, value, coupon, source, touches, claims, days } = order.data;
  return (
    <>
      <h2>Order {number}</h2>
      <Facts
        facts={[
          ['at', atMoment(at)],
          ['value', money(value, currency)],
          ['coupon', coupon],
          ['source', source],
          ['from the first visit', days === null ? 'no visit is known' : counted(days, 'day')],
          ['claimed by', claims.join(', ') || 'nobody'],
        ]}
      />
      <ol className={classes.touches}>
        {touches.map((touch) => (
          <Touch key={`${touch.at} ${touch.campaign}`} touch={touch} />
        ))}
      </ol>
      <Button variant="subtle" onClick={onClose}>
        Close
      </Button>
    </>
  );
}

function Touch({ touch }: { touch: Schema['Order']['touches'][number] }) {
  return (
    <li>
      <b>{touch.channel}</b>, {counted(Math.round(touch.days_before), 'day')} before ·{' '}
      {[touch.source, touch.medium, touch.campaign].filter(Boolean).join(' / ') || touch.referrer || 'nothing said'}
      {touch.landing && <span className={classes.hint}> {touch.landing}</span>}
    </li>
  );
}
