import { useCallback } from 'react';
import { useSearchParams } from 'react-router';

/** State that lives in the address bar, so that any view can be sent to a colleague. An empty value leaves it out. */
export function useUrlState(): [URLSearchParams, (changes: Record<string, string>) => void] {
  const [search, setSearch] = useSearchParams();
  const set = useCallback(
    (changes: Record<string, string>) =>
      setSearch(
        (held) => {
          const next = new URLSearchParams(held);
          for (const [name, value] of Object.entries(changes)) {
            if (value) next.set(name, value);
            else next.delete(name);
          }
          return next;
        },
        { replace: true },
      ),
    [setSearch],
  );
  return [search, set];
}
