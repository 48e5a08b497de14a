import type { Schema } from '../api/client';
import { type FateName, type Lane, lanes, type Stretch, stations } from './lanes';
import classes from './TrailPicture.module.css';

interface TrailPictureProps {
  trail: Schema['Trail'];
}

/**
 * A trail as a picture: hops are columns, parameters are lanes. A lane runs on while its parameter is kept, bends where it is
 * altered, begins where it is added, and stops where it is lost.
 */
export function TrailPicture({ trail }: TrailPictureProps) {
  const stops = stations(trail);
  const columns = { gridTemplateColumns: `repeat(${stops.length}, minmax(128px, 1fr))` };
  return (
    <figure className={classes.picture} aria-label={describe(trail)}>
      <div className={classes.drawing}>
        <div className={classes.hops} style={columns}>
          {stops.map((stop, index) => (
            <Station
              key={index}
              number={index + 1}
              stop={stop}
              came={stops[index - 1]?.how ?? null}
              ending={index === stops.length - 1 ? trail.outcome : undefined}
            />
          ))}
        </div>
        {lanes(trail).map((lane) => (
          <div key={lane.key} className={classes.lane} style={columns} data-carrier={lane.role !== null || undefined}>
            <LaneRow lane={lane} count={stops.length} />
          </div>
        ))}
      </div>
    </figure>
  );
}

interface StationProps {
  number: number;
  stop: { address: string; status: number | null; ms: number | null; referrer: string | null | undefined };
  /** How the hop before passed on to here. */
  came: Schema['Hop']['how'];
  ending: string | undefined;
}

const WAYS = { status: '', refresh: 'by Refresh header', meta: 'by meta refresh', script: 'by script' };

function Station({ number, stop, came, ending }: StationProps) {
  const { host, path } = place(stop.address);
  return (
    <div className={classes.station} title={stop.address} data-ending={ending}>
      <span className={classes.host}>{host}</span>
      <span className={classes.path}>{path}</span>
      <span className={classes.answer}>
        {came === 'history' ? 'rewritten by its script' : `${number}. ${stop.status ?? missing(ending)}`}
        {came && came !== 'history' && came !== 'status' && <i> · {WAYS[came]}</i>}
        {stop.ms !== null && ` · ${Math.round(stop.ms)} ms`}
        {ending && <b> {ending.replace('_', ' ')}</b>}
      </span>
      {stop.referrer !== undefined && (
        <span className={classes.answer} title={stop.referrer ?? undefined}>
          {stop.referrer === null ? 'sent without a referrer' : `referrer ${shortened(stop.referrer)}`}
        </span>
      )}
    </div>
  );
}

function missing(ending: string | undefined) {
  return ending === 'refused' ? 'not requested' : ending === 'loop' ? 'again' : 'no answer';
}

function LaneRow({ lane, count }: { lane: Lane; count: number }) {
  return Array.from({ length: count }, (_, index) => {
    const before = lane.stretches[index - 1] ?? null;
    const after = lane.stretches[index] ?? null;
    const here = count === 1 || present(before, 'after') || present(after, 'before');
    return (
      <span key={index} className={classes.cell}>
        <span className={classes.into} data-fate={before?.fate} data-here={here || undefined} />
        {here && <span className={classes.stop} data-first={starts(lane, index, before) || undefined} />}
        <span
          className={classes.out}
          data-fate={after?.fate}
          data-here={here || undefined}
          data-on={present(after, 'before') || undefined}
        />
        <Label lane={lane} index={index} before={before} after={after} here={here} />
      </span>
    );
  });
}

/** What stands where a lane ends. */
const LOST: Partial<Record<FateName, string>> = { dropped: 'lost here', moved: 'moved behind #' };

interface LabelProps {
  lane: Lane;
  index: number;
  before: Stretch | null;
  after: Stretch | null;
  here: boolean;
}

/** The value stands where the lane begins and where it changes; where it ends, that stands there. */
function Label({ lane, index, before, after, here }: LabelProps) {
  if (starts(lane, index, before) && here) {
    const value = before?.after ?? lane.first;
    return (
      <span className={classes.label}>
        <i>{lane.role ?? lane.name}</i> <b>{value || '(empty)'}</b>
        {before?.fate === 'added' && <em> added</em>}
        {before?.fate === 'repeated' && <em> repeated</em>}
        {after && LOST[after.fate] && <em className={classes.lost}> {LOST[after.fate]}</em>}
      </span>
    );
  }
  if (before?.fate === 'altered') {
    return (
      <span className={classes.label}>
        <b>{before.after || '(empty)'}</b> <em>{before.how ?? 'altered'}</em>
      </span>
    );
  }
  return after && LOST[after.fate] ? (
    <span className={classes.label}>
      <em className={classes.lost}>{LOST[after.fate]}</em>
    </span>
  ) : null;
}

function present(stretch: Stretch | null, side: 'before' | 'after') {
  return stretch !== null && stretch[side] !== null;
}

function starts(lane: Lane, index: number, before: Stretch | null) {
  return index === 0
    ? lane.stretches.length === 0 || present(lane.stretches[0] ?? null, 'before')
    : before?.fate === 'added' || before?.fate === 'repeated';
}

/** The host alone, and that there was more. */
function shortened(referrer: string) {
  const { host, path } = place(referrer);
  return path === '/' && !referrer.includes('?') ? host : `${host}/…`;
}

function place(address: string) {
  const [, host = address, path = ''] = address.match(/^[a-z]+:\/\/([^/?#]*)([^?#]*)/i) ?? [];
  return { host, path };
}

/** The picture in words, for those who hear it. */
function describe(trail: Schema['Trail']) {
  const lost = trail.hops.flatMap((hop, index) =>
    hop.params.filter((fate) => LOST[fate.fate] && fate.role).map((fate) => `${fate.role} lost at hop ${index + 1}`),
  );
  return `Trail of ${trail.hops.length} hops, ${trail.outcome}. ${lost.join(', ')}`;
}
