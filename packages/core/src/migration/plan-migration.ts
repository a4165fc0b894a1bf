import {
  change,
  draftOf,
  fieldsOf,
  flag,
  noSuch,
  optional,
  ref,
  refuse,
  said,
  some,
  type DeciderOf,
  type Fleet,
  type Row,
} from '../record/index.js';
import { checkObjections, migrationChecks } from './checks.js';
import { draftSteps } from './draft-move.js';
import { METHODS } from './method.js';
import { moveSteps } from './move-steps.js';
import { windowFault } from './window.js';
import { bytesToCopy, kindOfMove, methodOf, routeEstimate } from './route.js';

const migration = fieldsOf('migration');

/** A guest's move to another host. */
export const planMigration = change({
  type: 'migration.plan',
  title: 'Plan a migration',
  input: {
    guestId: ref('guest'),
    targetHostId: ref('host'),
    /** Null: the volumes stay in their pools. */
    targetPoolId: said(optional(ref('pool'))),
    running: said(flag()),
    linkBitsPerSecond: migration.linkBitsPerSecond,
    ...some(migration, 'method', 'dirtyBytesPerSecond', 'windowFrom', 'windowUntil'),
  },
});

export const decidePlanMigration: DeciderOf<typeof planMigration> = (fleet, input, context) => {
  const guest = fleet.get('guest', input.guestId);
  const target = fleet.get('host', input.targetHostId);
  if (!guest) return noSuch('guest');
  if (!target)
    return refuse({
      code: 'no-such-record',
      field: 'targetHostId',
      sentence: 'Choose a target host from the record.',
    });
  if (input.targetPoolId && !fleet.get('pool', input.targetPoolId)) {
    return refuse({
      code: 'no-such-record',
      field: 'targetPoolId',
      sentence: 'Choose a pool from the record.',
    });
  }
  const open = fleet
    .referring('migration', 'guestId', guest.id)
    .find(
      (past) => past.state === 'planned' || past.state === 'started' || past.state === 'switched',
    );
  if (open)
    return refuse({
      code: 'migration-open',
      field: 'guestId',
      sentence: `${guest.name} has a migration that is ${open.state}.`,
      remedy: 'Finish that one first.',
    });
  const moves = movedVolumes(fleet, guest.id, input.targetPoolId);
  if (guest.hostId === target.id && moves.length === 0)
    return refuse({
      code: 'same-host',
      field: 'targetHostId',
      sentence: `${guest.name} is on ${target.name} already, and none of its volumes would move.`,
      remedy: 'Choose another target, or another pool.',
    });
  const { windowFrom = null, windowUntil = null, method = null } = input;
  const backwards = windowFault({ windowFrom, windowUntil });
  if (backwards) return backwards;
  const of = method === null ? 'either' : METHODS[method].of;
  if (of !== 'either' && (of === 'running') !== input.running)
    return refuse({
      code: 'method-unfit',
      field: 'method',
      sentence: `${METHODS[method!].words}: that is done with a guest that ${of === 'running' ? 'runs' : 'is stopped'}.`,
      remedy: 'Choose another method, or how it moves.',
    });
  const objections = checkObjections(
    migrationChecks(fleet, {
      guest,
      target,
      targetPoolId: input.targetPoolId,
      running: input.running,
      now: context.now,
    }),
  );
  const route = { ...input, sourceHostId: guest.hostId, movesStorage: moves.length > 0 };
  const expected = routeEstimate(fleet, route).expected.value;
  const draft = draftOf(fleet, context);
  const migrationId = draft.create('migration', {
    guestId: guest.id,
    sourceHostId: guest.hostId,
    targetHostId: target.id,
    state: 'planned',
    running: input.running,
    linkBitsPerSecond: input.linkBitsPerSecond,
    bytes: bytesToCopy(fleet, route),
    estimateSeconds: expected === null ? null : Math.ceil(expected),
    plannedAt: context.happenedAt,
    method,
    dirtyBytesPerSecond: input.dirtyBytesPerSecond ?? null,
    windowFrom,
    windowUntil,
  });
  for (const volume of moves)
    draft.create('volumeMove', {
      migrationId,
      volumeId: volume.id,
      fromPoolId: volume.poolId,
      toPoolId: input.targetPoolId!,
    });
  const source = fleet.need('host', guest.hostId);
  const steps = moveSteps(fleet, {
    guest,
    source,
    target,
    moved: moves,
    targetPoolId: input.targetPoolId,
    running: input.running,
    kind: kindOfMove(fleet, route),
    method: methodOf(route),
  });
  draftSteps(draft, migrationId, steps);
  return {
    draft,
    title: `planned to migrate ${guest.name} from ${source.name} to ${target.name}`,
    subjects: [
      { kind: 'migration', id: migrationId, name: guest.name },
      { kind: 'guest', id: guest.id, name: guest.name },
    ],
    objections,
  };
};

function movedVolumes(fleet: Fleet, guestId: string, targetPoolId: string | null): Row<'volume'>[] {
  return targetPoolId === null
    ? []
    : fleet
        .referring('volume', 'guestId', guestId)
        .filter((volume) => volume.poolId !== targetPoolId);
}
