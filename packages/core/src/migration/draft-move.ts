/** What every move is drafted of: its row, and its steps in their order. */
import {
  fieldsOf,
  some,
  type ChangeContext,
  type Draft,
  type Fleet,
  type InputOf,
} from '../record/index.js';
import type { Estimate } from './estimate.js';
import type { MoveStepFields } from './move-step.js';
import { bytesToCopy, type Route } from './route.js';

const migration = fieldsOf('migration');

/** Asked in both directions between hardware and guests. */
export const physicalMoveInput = {
  linkBitsPerSecond: migration.linkBitsPerSecond,
  ...some(migration, 'method', 'windowFrom', 'windowUntil', 'keepsBoth', 'owner'),
};

interface Physical {
  guestId: string;
  route: Route;
  estimate: Estimate;
  input: InputOf<typeof physicalMoveInput>;
}

/** @returns the id of the migration */
export function draftPhysical(
  fleet: Fleet,
  draft: Draft,
  { happenedAt }: ChangeContext,
  { guestId, route, estimate, input }: Physical,
): string {
  const { sourceHostId, sourceDeviceId = null, targetHostId, targetDeviceId = null } = route;
  const expected = estimate.expected.value;
  return draft.create('migration', {
    ...{ guestId, sourceHostId, sourceDeviceId, targetHostId, targetDeviceId },
    keepsBoth: input.keepsBoth ?? false,
    state: 'planned',
    running: false,
    linkBitsPerSecond: input.linkBitsPerSecond,
    bytes: bytesToCopy(fleet, route),
    estimateSeconds: expected === null ? null : Math.ceil(expected),
    plannedAt: happenedAt,
    method: input.method ?? null,
    windowFrom: input.windowFrom ?? null,
    windowUntil: input.windowUntil ?? null,
    owner: input.owner,
  });
}

export function draftSteps(
  draft: Draft,
  migrationId: string,
  steps: readonly MoveStepFields[],
): void {
  for (const [position, step] of steps.entries())
    draft.create('moveStep', { ...step, migrationId, position });
}
