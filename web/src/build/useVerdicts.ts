import { useEffect, useRef, useState } from 'react';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { type GridRow, isBlank, keyOf, toBuild } from './rows';

export type Verdict = Schema['BuiltRow'];

const PAUSE = 250;
const BATCH = 250;
const KEPT = 20_000;
/** The most landing addresses that are followed before the next look. */
const FOLLOWED = 5;

/** What the convention says of each row, asked of the server when the typing pauses, and only for rows that it has not seen. */
export function useVerdicts(workspace: string, rows: GridRow[]) {
  const known = useRef(new Map<string, Verdict>());
  const [tick, seen] = useState(0);
  /** Landing addresses that were followed for this sheet, or are being followed. */
  const followed = useRef(new Set<string>());

  useEffect(() => {
    let current = true;
    const timer = setTimeout(async () => {
      const unknown = [...new Map(rows.filter((row) => !isBlank(row)).map((row) => [keyOf(row), row]))].filter(
        ([key]) => !known.current.has(key),
      );
      if (known.current.size > KEPT) {
        known.current.clear();
      }
      for (let at = 0; current && at < unknown.length; at += BATCH) {
        const some = unknown.slice(at, at + BATCH);
        const answer = await acts
          .judgeRows(
            workspace,
            some.map(([, row]) => toBuild(row)),
          )
          .catch(() => undefined);
        answer?.rows.forEach((verdict, index) => {
          const key = some[index]?.[0];
          if (key) {
            known.current.set(key, verdict);
          }
        });
        seen((before) => before + 1);
      }
      for (const landing of current ? unfollowed(rows, known.current, followed.current) : []) {
        followed.current.add(landing);
        await acts.checkLanding(workspace, landing).catch(() => undefined);
        for (const row of rows.filter((one) => one.landing === landing)) {
          known.current.delete(keyOf(row));
        }
        seen((before) => before + 1);
      }
    }, PAUSE);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [workspace, rows, tick]);

  return (row: GridRow | undefined) => (row && !isBlank(row) ? known.current.get(keyOf(row)) : undefined);
}

/** Own landing addresses of which nobody knows yet whether they keep parameters. */
function unfollowed(rows: GridRow[], known: Map<string, Verdict>, followed: Set<string>) {
  const landings = rows.flatMap((row) => {
    const verdict = isBlank(row) ? undefined : known.get(keyOf(row));
    return verdict && !verdict.landing_known && row.landing && !followed.has(row.landing) ? [row.landing] : [];
  });
  return [...new Set(landings)].slice(0, FOLLOWED);
}
