import type { HostMap } from '../api/acts';

/** A host map from lines of a host and where it really is; a host alone, or one with a dash, is nowhere. */
export function hostMapOf(text: string): HostMap {
  const lines = text.split('\n').map((line) => line.trim().split(/\s+/));
  return Object.fromEntries(
    lines.filter(([host]) => host).map(([host, target]) => [host, target && target !== '-' ? target : null]),
  );
}

/** The same as lines. */
export const linesOf = (map: HostMap) =>
  Object.entries(map)
    .map(([host, target]) => `${host} ${target ?? '-'}`)
    .join('\n');
