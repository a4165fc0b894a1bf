/**
 * A patch alters one row. It carries the values before and after, so that it can be turned round, and the revision of
 * the row that was seen when it was decided, so that nobody overwrites what they have not read.
 */
import type { Kind } from './kinds/index.js';

export type Values = Readonly<Record<string, unknown>>;

export type Patch =
  | { op: 'create'; kind: Kind; id: string; after: Values }
  | { op: 'update'; kind: Kind; id: string; seen: number; before: Values; after: Values }
  | { op: 'delete'; kind: Kind; id: string; seen: number; before: Values };

/** Whether two field values are the same; lists are compared by their members. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  return (
    Array.isArray(a) &&
    Array.isArray(b) &&
    a.length === b.length &&
    a.every((member, i) => member === b[i])
  );
}
