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
  type DeciderOf,
  type Fleet,
  type Row,
} from '../record/index.js';
import { checkObjections, migrationChecks } from './checks.js';
import { bytesToCopy, routeEstimate } from './route.js';

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
  if (guest.hostId === target.id)
    return refuse({
      code: 'same-host',
      field: 'targetHostId',
      sentence: `${guest.name} is on ${target.name} already.`,
      remedy: 'Choose another target.',
    });
  const objections = checkObjections(
    migrationChecks(fleet, {
      guest,
      target,
      targetPoolId: input.targetPoolId,
      running: input.running,
    }),
  );
  const moves = movedVolumes(fleet, guest.id, input.targetPoolId);
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
    plannedAt: context.now,
  });
  for (const volume of moves)
    draft.create('volumeMove', {
      migrationId,
      volumeId: volume.id,
      fromPoolId: volume.poolId,
      toPoolId: input.targetPoolId!,
    });
  const source = fleet.need('host', guest.hostId);
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
