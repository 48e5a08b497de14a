import type { Schema } from '../api/client';
import { count, counted, percent } from '../parts/format';
import classes from './MixBars.module.css';

type Share = Schema['Share'];

interface MixBarsProps {
  recorded: Share[];
  forecast: Share[];
  /** How many fixes are chosen. */
  chosen: number;
  onOpen: (channel: string) => void;
}

/** Where traffic stands when nobody knows where it came from. */
const DARK = ['Direct', 'Unassigned'];
const NO_VISIT = 'part of another visit';

/** Two bars of one length: the channel mix as recorded, and as it would have been with the chosen fixes made. */
export function MixBars({ recorded, forecast, chosen, onOpen }: MixBarsProps) {
  const order = channelOrder(recorded, forecast);
  return (
    <div className={classes.bars}>
      <Bar title="As recorded" shares={recorded} order={order} onOpen={onOpen} />
      <Bar
        title={
          chosen === 0
            ? 'As it would be: choose fixes below'
            : `With ${chosen === 1 ? 'one fix' : `${chosen} fixes`} made`
        }
        shares={forecast}
        order={order}
        onOpen={onOpen}
        before={recorded}
      />
    </div>
  );
}

/** Dark traffic first, so that both bars begin with what should shrink; the rest by size. */
function channelOrder(recorded: Share[], forecast: Share[]) {
  const names = [...new Set([...recorded, ...forecast].map((share) => share.channel))];
  const rank = (name: string) =>
    name === NO_VISIT ? names.length + 1 : DARK.includes(name) ? DARK.indexOf(name) : DARK.length + names.indexOf(name);
  return names.sort((one, other) => rank(one) - rank(other));
}

interface BarProps {
  title: string;
  shares: Share[];
  order: string[];
  onOpen: (channel: string) => void;
  /** What to compare with. */
  before?: Share[];
}

function Bar({ title, shares, order, onOpen, before }: BarProps) {
  const of = (list: Share[], channel: string) => list.find((share) => share.channel === channel);
  const dark = DARK.reduce((sum, channel) => sum + (of(shares, channel)?.share ?? 0), 0);
  return (
    <div>
      <div className={classes.title}>
        <h2>{title}</h2>
        <span>
          direct and unassigned: <b>{percent(dark)}</b>
        </span>
      </div>
      <div className={classes.bar}>
        {order.map((channel) => {
          const share = of(shares, channel);
          const change = before && share ? share.sessions - (of(before, channel)?.sessions ?? 0) : 0;
          return share && share.sessions > 0 ? (
            <button
              key={channel}
              type="button"
              className={classes.share}
              style={{ flexGrow: share.sessions }}
              data-kind={kind(channel)}
              title={`${channel}: ${counted(share.sessions, 'session')}, ${percent(share.share)}`}
              onClick={() => onOpen(channel)}
            >
              <span>{channel}</span>
              <span className={classes.number}>
                {percent(share.share)}
                {change !== 0 && ` ${change > 0 ? '+' : '−'}${count(Math.abs(change))}`}
              </span>
            </button>
          ) : null;
        })}
      </div>
    </div>
  );
}

function kind(channel: string) {
  if (channel === NO_VISIT) {
    return 'none';
  }
  return DARK.includes(channel) ? 'dark' : 'known';
}
