/** The commonest step between two shapes of the log: kinds gained fields. */
import type { Kind } from './kinds/index.js';
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
