import { useCallback } from 'react';
import { useSearchParams } from 'react-router';

/**
 * What the address says at this moment: what was set just before is in it, though it is not drawn yet. Two choices that follow
 * quickly would otherwise be made from one state, and the first be lost.
 */
export const addressNow = (): URLSearchParams => new URLSearchParams(window.location.search);

/** State that lives in the address bar, so that any view can be sent to a colleague. An empty value leaves it out. */
export function useUrlState(): [URLSearchParams, (changes: Record<string, string>) => void] {
  const [search, setSearch] = useSearchParams();
  const set = useCallback(
    (changes: Record<string, string>) => {
      const next = addressNow();
      for (const [name, value] of Object.entries(changes)) {
        if (value) next.set(name, value);
        else next.delete(name);
      }
      setSearch(next, { replace: true });
    },
    [setSearch],
  );
  return [search, set];
}
