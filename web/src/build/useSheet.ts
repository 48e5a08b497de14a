import { useCallback, useEffect, useRef, useState } from 'react';
import { acts } from '../api/acts';
import { ProblemError, type Schema } from '../api/client';
import { type GridRow, isBlank, toBuild, toGrid } from './rows';

const PAUSE = 900;
const STEPS = 200;
/** Letters typed into one cell without a longer pause are one step. */
const TYPING = 1500;

/** The rows of a sheet with their history; kept on the server whenever the typing pauses. */
export function useSheet(workspace: string, sheet: Schema['SheetDetail']) {
  const [rows, setRows] = useState<GridRow[]>(() => sheet.rows.map(toGrid));
  const [name, setName] = useState(sheet.name);
  const [state, setState] = useState<'kept' | 'waiting' | 'overtaken' | 'failed'>('kept');
  const past = useRef<GridRow[][]>([]);
  const future = useRef<GridRow[][]>([]);
  const lock = useRef(sheet.lock);
  /** Counts what was typed, so that a slow save does not speak for what came after it; saves follow one another. */
  const turn = useRef(0);
  const saving = useRef<Promise<void>>(Promise.resolve());
  const typing = useRef<{ cell: string | undefined; at: number }>({ cell: undefined, at: 0 });

  const change = useCallback((next: GridRow[]) => {
    setRows((before) => {
      const cell = cellTyped(before, next);
      const goesOn = cell !== undefined && cell === typing.current.cell && Date.now() - typing.current.at < TYPING;
      typing.current = { cell, at: Date.now() };
      if (!goesOn) {
        past.current = [...past.current.slice(-STEPS), before];
      }
      future.current = [];
      return next;
    });
    turn.current += 1;
    setState('waiting');
  }, []);

  const step = useCallback((from: typeof past, to: typeof past) => {
    const target = from.current.pop();
    typing.current = { cell: undefined, at: 0 };
    if (target) {
      setRows((before) => {
        to.current.push(before);
        return target;
      });
      turn.current += 1;
      setState('waiting');
    }
  }, []);
  const undo = useCallback(() => step(past, future), [step]);
  const redo = useCallback(() => step(future, past), [step]);

  const keep = useCallback(
    (body: Parameters<typeof acts.keepSheet>[2]) => acts.keepSheet(workspace, sheet.id, body),
    [workspace, sheet.id],
  );

  useEffect(() => {
    if (state !== 'waiting') {
      return;
    }
    const timer = setTimeout(() => {
      const own = turn.current;
      const filled = rows.filter((row) => !isBlank(row)).map(toBuild);
      saving.current = saving.current.then(async () => {
        const outcome = await keep({ rows: filled, lock: lock.current, name }).catch(failure);
        if (typeof outcome !== 'string') {
          lock.current = outcome.lock;
        }
        if (own === turn.current) {
          setState(typeof outcome === 'string' ? outcome : 'kept');
        }
      });
    }, PAUSE);
    return () => clearTimeout(timer);
  }, [state, rows, name, keep]);

  const rename = (next: string) => {
    setName(next);
    turn.current += 1;
    setState('waiting');
  };
  return { rows, change, undo, redo, state, name, rename, retry: () => setState('waiting') };
}

function failure(error: unknown): 'overtaken' | 'failed' {
  return error instanceof ProblemError && error.problem.kind === 'overtaken' ? 'overtaken' : 'failed';
}

/** The one cell in which two states differ, as row and column; undefined where more differ. */
function cellTyped(before: GridRow[], after: GridRow[]) {
  if (before.length !== after.length) {
    return undefined;
  }
  const rows = after.flatMap((row, index) => (row === before[index] ? [] : [index]));
  const [index = -1] = rows;
  const names = Object.keys({ ...before[index], ...after[index] }).filter(
    (name) => before[index]?.[name] !== after[index]?.[name],
  );
  return rows.length === 1 && names.length === 1 ? `${index} ${names[0]}` : undefined;
}
