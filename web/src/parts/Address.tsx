import { Fragment } from 'react';
import type { Schema } from '../api/client';
import classes from './Address.module.css';
import type { WeightName } from './Weight';

type Part = Schema['Part'];

/** A fault to be marked in place. */
export interface Fault {
  /** Number of the parameter, from 0; without it the fault is the address's own, such as something missing. */
  pair?: number | undefined;
  weight: WeightName;
  message: string;
}

interface AddressLineProps {
  parts: Part[];
}

/** An address on one line, as in lists: the eye finds host, path and the values of the roles. */
export function AddressLine({ parts }: AddressLineProps) {
  return (
    <span className={classes.line}>
      {keyed(parts).map(({ key, part }) => (
        <span
          key={key}
          data-part={part.part}
          data-role={part.role}
          data-sample={part.sample}
          title={part.sample && `A sample: the network fills in ${part.sample}`}
        >
          {part.text}
        </span>
      ))}
    </span>
  );
}

interface AddressBlockProps {
  parts: Part[];
  /** @default [] */
  faults?: Fault[];
}

/** An address set out: the page first, then one parameter a line, named by its role, each fault in its place. */
export function AddressBlock({ parts, faults = [] }: AddressBlockProps) {
  const page = parts.filter((part) => part.pair === undefined && ['scheme', 'host', 'path'].includes(part.part));
  const fragment = parts.filter((part) => part.part === 'fragment');
  const pairs = Map.groupBy(
    parts.filter((part) => part.pair !== undefined),
    (part) => part.pair ?? 0,
  );
  return (
    <div className={classes.block}>
      <div className={classes.page}>
        <AddressLine parts={page} />
      </div>
      {[...pairs].map(([pair, own]) => (
        <Fragment key={pair}>
          <span className={classes.role}>{own.find((part) => part.role)?.role ?? ''}</span>
          <span className={classes.pair} data-weight={faults.find((fault) => fault.pair === pair)?.weight}>
            <AddressLine parts={own} />
            <SampleNote parts={own} />
          </span>
          {faults
            .filter((fault) => fault.pair === pair)
            .map((fault) => (
              <FaultNote key={fault.message} fault={fault} />
            ))}
        </Fragment>
      ))}
      {fragment.length > 0 && (
        <>
          <span className={classes.role}>after #</span>
          <span className={classes.pair}>
            <AddressLine parts={fragment} />
          </span>
        </>
      )}
      {faults
        .filter((fault) => fault.pair === undefined)
        .map((fault) => (
          <FaultNote key={fault.message} fault={fault} />
        ))}
    </div>
  );
}

/** Says that a value is only an example, and of what. */
function SampleNote({ parts }: { parts: Part[] }) {
  const sample = parts.find((part) => part.sample)?.sample;
  return sample ? <small className={classes.sample}>sample; the network fills in {sample}</small> : null;
}

function FaultNote({ fault }: { fault: Fault }) {
  return (
    <span className={classes.fault} data-weight={fault.weight}>
      {fault.message}
    </span>
  );
}

/** Parts in their order, each with a key that stays: its place in the address. */
function keyed(parts: Part[]) {
  let place = 0;
  return parts.map((part) => {
    const key = place;
    place += part.text.length + 1;
    return { key, part };
  });
}
