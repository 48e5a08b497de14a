/**
 * @param came visits that came to each step or beyond, in order
 * @return the number of the step behind which most of them are lost; that of the last where none is
 */
export function endsAt(came: number[]): number {
  const lost = came.slice(0, -1).map((visits, step) => visits - (came[step + 1] ?? 0));
  const most = Math.max(0, ...lost);
  return most === 0 ? came.length - 1 : lost.indexOf(most);
}
