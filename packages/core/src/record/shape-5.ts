/** Shape 5 of the log: times have one form, UTC to the millisecond. Older entries hold them as they were typed. */
import { canonicalTime } from '../quantity/index.js';
import { KINDS, type Kind } from './kinds/index.js';
import type { Patch, Values } from './patch.js';

export const toShape5 = (patches: Patch[]): Patch[] =>
  patches.map((patch) => {
    switch (patch.op) {
      case 'create':
        return { ...patch, after: timesOf(patch.kind, patch.after) };
      case 'update':
        return {
          ...patch,
          before: timesOf(patch.kind, patch.before),
          after: timesOf(patch.kind, patch.after),
        };
      case 'delete':
        return { ...patch, before: timesOf(patch.kind, patch.before) };
    }
  });

function timesOf(kind: Kind, values: Values): Values {
  return Object.fromEntries(
    Object.entries(values).map(([name, value]) => {
      if (KINDS[kind].fields[name]?.type !== 'time' || typeof value !== 'string')
        return [name, value];
      // What was recorded as a time can be read as one, whatever its form.
      return [name, canonicalTime(value) ?? new Date(value).toISOString()];
    }),
  );
}
