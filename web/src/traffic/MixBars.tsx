import { useElementSize } from '@mantine/hooks';
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

/** Pixels that a name takes within its piece: a sign's, and the space around it. */
const SIGN = 7.4;
const AROUND = 14;
const ORIGINS: Share['origin'][] = ['unknown', 'known', 'no_visit'];

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

/** What came from nobody knows where first, so that both bars begin with what should shrink; the rest by size. */
function channelOrder(recorded: Share[], forecast: Share[]) {
  const shares = new Map([...recorded, ...forecast].map((share) => [share.channel, share]));
  return [...shares.values()]
    .sort((one, other) => ORIGINS.indexOf(one.origin) - ORIGINS.indexOf(other.origin))
    .map((share) => share.channel);
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
  const { ref, width } = useElementSize();
  const of = (list: Share[], channel: string) => list.find((share) => share.channel === channel);
  const change = (share: Share) => (before ? share.sessions - (of(before, share.channel)?.sessions ?? 0) : 0);
  const figures = (share: Share) =>
    `${percent(share.share)}${change(share) === 0 ? '' : ` ${change(share) > 0 ? '+' : '−'}${count(Math.abs(change(share)))}`}`;
  const there = order.flatMap((channel) => of(shares, channel) ?? []).filter((share) => share.sessions > 0);
  // A name that does not fit stands beside its piece.
  const fits = (share: Share) => share.share * width > share.channel.length * SIGN + AROUND;
  const narrow = there.filter((share) => !fits(share));
  const unknown = shares.filter((share) => share.origin === 'unknown').reduce((sum, share) => sum + share.share, 0);
  return (
    <div>
      <div className={classes.title}>
        <h2>{title}</h2>
        <span>
          direct and unassigned: <b>{percent(unknown)}</b>
        </span>
      </div>
      <div className={classes.bar} ref={ref}>
        {there.map((share) => (
          <button
            key={share.channel}
            type="button"
            className={classes.share}
            style={{ flexGrow: share.sessions }}
            data-origin={share.origin}
            aria-label={`${share.channel}, ${figures(share)}`}
            title={`${share.channel}: ${counted(share.sessions, 'session')}, ${percent(share.share)}`}
            onClick={() => onOpen(share.channel)}
          >
            {fits(share) && (
              <>
                <span>{share.channel}</span>
                <span className={classes.number}>{figures(share)}</span>
              </>
            )}
          </button>
        ))}
      </div>
      {narrow.length > 0 && (
        <p className={classes.beside}>
          {narrow.map((share) => (
            <button key={share.channel} type="button" onClick={() => onOpen(share.channel)}>
              {share.channel} <span className={classes.number}>{figures(share)}</span>
            </button>
          ))}
        </p>
      )}
    </div>
  );
}
