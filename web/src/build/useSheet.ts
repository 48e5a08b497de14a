import { useCallback, useEffect, useRef, useState } from 'react';
import { acts } from '../api/acts';
import { ProblemError, type Schema } from '../api/client';
import { type GridRow, isBlank, toBuild, toGrid } from './rows';

const PAUSE = 900;
const STEPS = 200;

/** The rows of a sheet with their history; kept on the server whenever the typing pauses. */
export function useSheet(workspace: string, sheet: Schema['SheetDetail']) {
  const [rows, setRows] = useState<GridRow[]>(() => sheet.rows.map(toGrid));
  const [name, setName] = useState(sheet.name);
  const [state, setState] = useState<'kept' | 'waiting' | 'overtaken' | 'failed'>('kept');
  const past = useRef<GridRow[][]>([]);
  const future = useRef<GridRow[][]>([]);
  const lock = useRef(sheet.lock);

  const change = useCallback((next: GridRow[]) => {
    setRows((before) => {
      past.current = [...past.current.slice(-STEPS), before];
      future.current = [];
      return next;
    });
    setState('waiting');
  }, []);

  const step = useCallback((from: typeof past, to: typeof past) => {
    const target = from.current.pop();
    if (target) {
      setRows((before) => {
        to.current.push(before);
        return target;
      });
      setState('waiting');
    }
  }, []);
  const undo = useCallback(() => step(past, future), [step]);
  const redo = useCallback(() => step(future, past), [step]);

  useEffect(() => {
    if (state !== 'waiting') {
      return;
    }
    const timer = setTimeout(async () => {
      try {
        const filled = rows.filter((row) => !isBlank(row)).map(toBuild);
        const kept = await acts.keepSheet(workspace, sheet.id, { rows: filled, lock: lock.current, name });
        lock.current = kept.lock;
        setState('kept');
      } catch (error) {
        setState(error instanceof ProblemError && error.problem.kind === 'overtaken' ? 'overtaken' : 'failed');
      }
    }, PAUSE);
    return () => clearTimeout(timer);
  }, [state, rows, name, workspace, sheet.id]);

  const rename = (next: string) => {
    setName(next);
    setState('waiting');
  };
  return { rows, change, undo, redo, state, name, rename, retry: () => setState('waiting') };
}
