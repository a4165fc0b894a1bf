/** The commonest step between two shapes of the log: kinds gained fields. */
import { KIND_NAMES, KINDS, type Kind } from './kinds/index.js';
import type { Patch, Values } from './patch.js';

/** Values that older rows are read with, by kind. */
export type Gained = Partial<Record<Kind, Values>>;

/** An upcaster that reads older patches as if they had held these values. */
export const gaining =
  (gained: Gained) =>
  (patches: Patch[]): Patch[] =>
    patches.map((patch) => {
      const values = gained[patch.kind];
      if (!values || patch.op === 'update') return patch;
      return patch.op === 'create'
        ? { ...patch, after: { ...values, ...patch.after } }
        : { ...patch, before: { ...values, ...patch.before } };
    });

/** What kinds gained with a shape, by what their fields say. */
export function gainedWith(shape: number): Gained {
  const gained: Gained = {};
  for (const kind of KIND_NAMES) {
    const fields = Object.entries(KINDS[kind].fields).filter(([, field]) => field.since === shape);
    if (fields.length > 0)
      gained[kind] = Object.fromEntries(fields.map(([name, field]) => [name, field.initial]));
  }
  return gained;
}
