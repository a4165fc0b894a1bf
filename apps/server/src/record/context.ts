import { randomBytes } from 'node:crypto';
import type { Context } from '@insel/core';
import { v7 } from 'uuid';

/** Time, identity and randomness for one decision. Ids made at one time sort in the order they were made. */
export function contextAt(now: string, actor: Context['actor']): Context {
  const msecs = Date.parse(now);
  let seq = randomBytes(4).readUInt32BE() >>> 2;
  return {
    now,
    actor,
    newId: () => v7({ msecs, seq: (seq += 1) }),
    randomByte: () => randomBytes(1)[0]!,
  };
}
