/**
 * Changes whose decision takes long are decided in the worker, before the lock: everybody else goes on meanwhile. The
 * decision is kept if nothing was recorded since; otherwise it is made again under the lock.
 */
import type { Preview } from '@insel/contract';
import {
  decide,
  type Change,
  type Context,
  type Decision,
  type Fleet,
  type Refusal,
} from '@insel/core';
import { contextAt } from '../record/context.js';
import { lookingIn, preview } from '../views/preview.js';

/** A text of more characters, or a list of more parts, takes long. */
const LONG_TEXT = 100_000;
const MANY_PARTS = 100;

export const takesLong = ({ input }: Change): boolean =>
  Object.values(input as Readonly<Record<string, unknown>>).some(
    (value) =>
      (typeof value === 'string' && value.length > LONG_TEXT) ||
      (Array.isArray(value) && value.length > MANY_PARTS && typeof value[0] === 'object'),
  );

/** What the worker is asked of a change. */
export interface ChangeJob {
  type: 'change';
  id: number;
  revision: number;
  what: 'decide' | 'preview';
  change: Change;
  now: string;
  actor: Context['actor'];
}

/** A decision and the revision of the fleet that it was made on. */
export interface Decided {
  revision: number;
  decision: Decision | Refusal;
}

export function answerToChange(
  fleet: Fleet,
  { what, change, now, actor }: ChangeJob,
): Decided | Preview {
  const context = contextAt(now, actor);
  return what === 'preview'
    ? preview(fleet, change, context, lookingIn(fleet, true))
    : { revision: fleet.revision, decision: decide(fleet, change, context) };
}
