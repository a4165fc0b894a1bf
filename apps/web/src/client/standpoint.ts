/**
 * From where the record is looked at: as it is, as it was at another time, or with a plan drawn in. It stands in the
 * address, whatever view is opened.
 */
import { useEffect, useSyncExternalStore } from 'react';
import { useSearchParams } from 'react-router';
import { addressNow } from './url-state.js';

export interface Standpoint {
  /** A revision or a time; empty for now. */
  asOf: string;
  /** Id of a plan; empty for the record as it is. */
  plan: string;
}
const NAMES = ['asOf', 'plan'] as const;
const NOW: Standpoint = { asOf: '', plan: '' };

const inAddress = (search: URLSearchParams): Standpoint | null =>
  NAMES.some((name) => search.has(name))
    ? { asOf: search.get('asOf') ?? '', plan: search.get('plan') ?? '' }
    : null;

let held: Standpoint = inAddress(new URLSearchParams(location.search)) ?? NOW;
const listeners = new Set<() => void>();

export const standpoint = (): Standpoint => held;

function look(to: Standpoint): void {
  if (NAMES.every((name) => to[name] === held[name])) return;
  held = to;
  for (const listener of [...listeners]) listener();
}

const follow = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

export const useStandpoint = (): Standpoint => useSyncExternalStore(follow, standpoint);

/** A path with the standpoint in its address. */
export function fromStandpoint(path: string): string {
  const parts = NAMES.filter((name) => held[name]).map(
    (name) => `${name}=${encodeURIComponent(held[name])}`,
  );
  return parts.length ? `${path}${path.includes('?') ? '&' : '?'}${parts.join('&')}` : path;
}

const written = (search: URLSearchParams, to: Standpoint): URLSearchParams => {
  for (const name of NAMES)
    if (to[name]) search.set(name, to[name]);
    else search.delete(name);
  return search;
};

/** Keeps the address and the standpoint together: links inside say nothing of it, and nothing is lost by them. */
export function useStandpointInAddress(): [Standpoint, (to: Partial<Standpoint>) => void] {
  const [search, setSearch] = useSearchParams();
  const now = useStandpoint();
  const addressed = inAddress(search);
  const [asOf, plan] = [addressed?.asOf, addressed?.plan];
  useEffect(() => {
    if (asOf !== undefined && plan !== undefined) look({ asOf, plan });
    else if (held !== NOW) setSearch(written(addressNow(), held), { replace: true });
  }, [asOf, plan, search, setSearch]);
  const set = (to: Partial<Standpoint>) => {
    const next = { ...NOW, ...to };
    look(next.asOf || next.plan ? next : NOW);
    setSearch(written(addressNow(), next));
  };
  return [now, set];
}
