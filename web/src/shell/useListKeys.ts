import { useEffect } from 'react';

interface ListKeys {
  /** How many rows there are. */
  rows: number;
  /** Index of the chosen row, -1 where none is. */
  index: number;
  choose: (index: number) => void;
  leave: () => void;
}

/** Arrow keys (or j and k) walk a list, Home and End go to its ends, Esc leaves the evidence. */
export function useListKeys({ rows, index, choose, leave }: ListKeys) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) {
        return;
      }
      const target = step(event.key, index, rows);
      if (target !== undefined && rows > 0) {
        event.preventDefault();
        choose(target);
      } else if (event.key === 'Escape') {
        leave();
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [rows, index, choose, leave]);
}

function step(key: string, index: number, rows: number) {
  const steps: Record<string, number> = {
    ArrowDown: index + 1,
    j: index + 1,
    ArrowUp: index - 1,
    k: index - 1,
    Home: 0,
    End: rows - 1,
  };
  const target = steps[key];
  return target === undefined ? undefined : Math.min(Math.max(target, 0), rows - 1);
}

/** Whether keys belong to a field rather than to the list. */
export function isTyping(target: EventTarget | null) {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))
  );
}
