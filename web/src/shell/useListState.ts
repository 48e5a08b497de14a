import { useCallback } from 'react';
import { useSearchParams } from 'react-router';

/** What is chosen, filtered and sorted, read from the address bar and written there: every state has a link. */
export function useListState() {
  const [search, setSearch] = useSearchParams();
  const set = useCallback(
    (changes: Record<string, string | null>) =>
      setSearch(
        () => {
          // What stands in the address bar now: two changes may come before the next rendering.
          const next = new URLSearchParams(window.location.search);
          for (const [name, value] of Object.entries(changes)) {
            if (value === null || value === '') {
              next.delete(name);
            } else {
              next.set(name, value);
            }
          }
          return next;
        },
        { replace: true },
      ),
    [setSearch],
  );
  const { chosen = '', ...list } = Object.fromEntries(search) as Record<string, string>;
  return { chosen, list, set };
}
