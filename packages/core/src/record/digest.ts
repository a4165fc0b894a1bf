import type { Fleet } from './fleet.js';
import { KIND_NAMES, KINDS, type Kind } from './kinds/index.js';

/** A fleet as comparable lines, one a row, in the order it has them: two fleets are equal if and only if their lines are. */
export function digestLines(fleet: Fleet): string[] {
  return KIND_NAMES.flatMap((kind) => [...fleet.all(kind)].map((row) => line(kind, row)));
}

function line(kind: Kind, row: { id: string; revision: number }): string {
  const values = row as unknown as Record<string, unknown>;
  const fields = Object.keys(KINDS[kind].fields).map((name) => values[name]);
  return JSON.stringify([kind, row.id, row.revision, ...fields]);
}
