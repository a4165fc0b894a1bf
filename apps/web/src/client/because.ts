/**
 * Why I do what I do from here on: written with every change of this window, until it is dropped. A reload does not lose it, another
 * window knows nothing of it. What a form says for itself goes before.
 */
import { useSyncExternalStore } from 'react';

const KEPT = 'because';
const heard = new Set<() => void>();

/** Null: nothing is said, nor about to be. */
export const because = (): string | null => sessionStorage.getItem(KEPT);

export function sayBecause(reason: string | null): void {
  if (reason === null) sessionStorage.removeItem(KEPT);
  else sessionStorage.setItem(KEPT, reason);
  for (const hear of heard) hear();
}

export const useBecause = (): string | null =>
  useSyncExternalStore((hear) => {
    heard.add(hear);
    return () => heard.delete(hear);
  }, because);
