/** From where the record is looked at: as it is, or as it was at another time. It stands in the address, whatever view is opened. */
import { useEffect, useSyncExternalStore } from 'react';
import { useSearchParams } from 'react-router';

const inAddress = (): string => new URLSearchParams(location.search).get('asOf') ?? '';

let held = inAddress();
const listeners = new Set<() => void>();

/** A revision or a time; empty for now. */
export const asOfAsked = (): string => held;

function look(asOf: string): void {
  if (asOf === held) return;
  held = asOf;
  for (const listener of [...listeners]) listener();
}

const follow = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

export const useAsOf = (): string => useSyncExternalStore(follow, asOfAsked);

/** Keeps the address and the standpoint together: links inside say nothing of it, and nothing is lost by them. */
export function useStandpoint(): { asOf: string; set: (asOf: string) => void } {
  const [search, setSearch] = useSearchParams();
  const asked = search.get('asOf');
  const asOf = useAsOf();
  useEffect(() => {
    if (asked !== null) look(asked);
    else if (held)
      setSearch(
        (now) => {
          now.set('asOf', held);
          return now;
        },
        { replace: true },
      );
  }, [asked, search, setSearch]);
  const set = (to: string) => {
    look(to);
    setSearch((now) => {
      if (to) now.set('asOf', to);
      else now.delete('asOf');
      return now;
    });
  };
  return { asOf, set };
}
