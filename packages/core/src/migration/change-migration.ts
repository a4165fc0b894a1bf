import { countsOnHost, memoryDemand } from '../guest/demand.js';
import {
  draftOf,
  noSuch,
  refuse,
  type ChangeBase,
  type Decider,
  type Draft,
  type Edge,
  type Fleet,
  type Refusal,
  type Row,
} from '../record/index.js';
import { checkObjections, migrationChecks } from './checks.js';
import { bytesToCopy, routeEstimate } from './route.js';

/** Plans a guest's move to another host. */
export interface PlanMigration extends ChangeBase {
  type: 'migration.plan';
  guestId: string;
  targetHostId: string;
  targetPoolId: string | null;
  running: boolean;
  linkBitsPerSecond: number;
}

export const planMigration: Decider<PlanMigration> = (fleet, change, edge) => {
  const guest = fleet.get('guest', change.guestId);
  const target = fleet.get('host', change.targetHostId);
  if (!guest) return noSuch('guest');
  if (!target)
    return refuse({
      code: 'no-such-record',
      field: 'targetHostId',
      sentence: 'Choose a target host from the record.',
    });
  if (change.targetPoolId && !fleet.get('pool', change.targetPoolId)) {
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
      targetPoolId: change.targetPoolId,
      running: change.running,
    }),
  );
  const moves = movedVolumes(fleet, guest.id, change.targetPoolId);
  const route = { ...change, sourceHostId: guest.hostId, movesStorage: moves.length > 0 };
  const expected = routeEstimate(fleet, route).expected.value;
  const draft = draftOf(fleet, edge);
  const migrationId = draft.create('migration', {
    guestId: guest.id,
    sourceHostId: guest.hostId,
    targetHostId: target.id,
    state: 'planned',
    running: change.running,
    linkBitsPerSecond: change.linkBitsPerSecond,
    bytes: bytesToCopy(fleet, route),
    estimateSeconds: expected === null ? null : Math.ceil(expected),
    plannedAt: edge.now,
  });
  for (const volume of moves)
    draft.create('volumeMove', {
      migrationId,
      volumeId: volume.id,
      fromPoolId: volume.poolId,
      toPoolId: change.targetPoolId!,
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

/** Records that the copy has begun, that the guest is on the target, that the move is signed off, or that it was taken back. */
export interface StepMigration extends ChangeBase {
  type: 'migration.step';
  id: string;
  step: 'start' | 'switch' | 'accept' | 'roll back';
  /** With 'switch': how long the copy took, if it was measured; otherwise from start to now. */
  copySeconds?: number;
  /** With 'accept': the source's disks are kept until this day (YYYY-MM-DD). */
  keepUntil?: string;
}

const BEFORE: Record<StepMigration['step'], readonly Row<'migration'>['state'][]> = {
  start: ['planned'],
  switch: ['started'],
  accept: ['switched'],
  'roll back': ['planned', 'started', 'switched'],
};

export const stepMigration: Decider<StepMigration> = (fleet, change, edge) => {
  const migration = fleet.get('migration', change.id);
  if (!migration) return noSuch('migration');
  if (!BEFORE[change.step].includes(migration.state)) {
    return refuse({
      code: 'state-cannot-follow',
      sentence: `The migration is ${migration.state}: it cannot ${change.step === 'roll back' ? 'be rolled back' : change.step} now.`,
      remedy: 'Look at the steps of the migration: somebody may have gone on.',
    });
  }
  const draft = draftOf(fleet, edge);
  const at = change.happenedAt ?? edge.now;
  const guest = fleet.need('guest', migration.guestId);
  const run = { start, switch: switchOver, accept, 'roll back': rollBack }[change.step];
  const outcome = run({ fleet, draft, edge, migration, guest, at, change });
  if (!Array.isArray(outcome)) return outcome;
  const target = fleet.need('host', migration.targetHostId).name;
  const title = {
    start: `started migrating ${guest.name} to ${target}`,
    switch: `switched ${guest.name} over to ${target}`,
    accept: `accepted ${guest.name} on ${target}`,
    'roll back': `rolled ${guest.name} back to ${fleet.need('host', migration.sourceHostId).name}`,
  }[change.step];
  return {
    draft,
    title,
    subjects: [
      { kind: 'migration', id: migration.id, name: guest.name },
      { kind: 'guest', id: guest.id, name: guest.name },
    ],
    objections: outcome,
  };
};

interface Context {
  fleet: Fleet;
  draft: Draft;
  edge: Edge;
  migration: Row<'migration'>;
  guest: Row<'guest'>;
  at: string;
  change: StepMigration;
}

function start({ fleet, draft, migration, guest, at }: Context): Refusal[] {
  const moves = fleet.referring('volumeMove', 'migrationId', migration.id);
  const target = fleet.need('host', migration.targetHostId);
  holdHost(fleet, draft, migration, guest, 'target');
  for (const move of moves)
    holdPool(fleet, draft, migration.id, 'target', move.volumeId, move.toPoolId, null);
  draft.update('migration', migration.id, { state: 'started', startedAt: at });
  return checkObjections(
    migrationChecks(fleet, {
      guest,
      target,
      targetPoolId: moves[0]?.toPoolId ?? null,
      running: migration.running,
    }),
  );
}

function switchOver({ fleet, draft, migration, guest, at, change }: Context): Refusal[] | Refusal {
  const seconds =
    change.copySeconds ?? Math.round((Date.parse(at) - Date.parse(migration.startedAt!)) / 1000);
  if (seconds < 0)
    return refuse({
      code: 'time-backwards',
      field: 'happenedAt',
      sentence: 'The guest cannot be switched over before the copy began.',
    });
  dropHolds(fleet, draft, migration.id);
  holdHost(fleet, draft, migration, guest, 'source');
  for (const move of fleet.referring('volumeMove', 'migrationId', migration.id)) {
    holdPool(fleet, draft, migration.id, 'source', move.volumeId, move.fromPoolId, null);
    draft.update('volume', move.volumeId, { poolId: move.toPoolId });
  }
  draft.update('guest', guest.id, { hostId: migration.targetHostId });
  draft.update('migration', migration.id, {
    state: 'switched',
    switchedAt: at,
    copySeconds: Math.max(1, seconds),
  });
  return [];
}

function accept({ fleet, draft, migration, at, change }: Context): Refusal[] | Refusal {
  if (change.keepUntil !== undefined && Number.isNaN(Date.parse(change.keepUntil))) {
    return refuse({
      code: 'bad-date',
      field: 'keepUntil',
      sentence: 'Write the day until which the source is kept, such as 2026-12-01.',
    });
  }
  const until = change.keepUntil ?? at.slice(0, 10);
  for (const hold of fleet.referring('hold', 'migrationId', migration.id)) {
    if (hold.poolId) draft.update('hold', hold.id, { until });
    else draft.remove('hold', hold.id);
  }
  draft.update('migration', migration.id, { state: 'accepted', endedAt: at });
  return [];
}

function rollBack({ fleet, draft, migration, guest, at }: Context): Refusal[] {
  dropHolds(fleet, draft, migration.id);
  if (migration.state !== 'planned') {
    // What was written on the target stays there until its deletion is recorded.
    for (const move of fleet.referring('volumeMove', 'migrationId', migration.id)) {
      holdPool(fleet, draft, migration.id, 'target', move.volumeId, move.toPoolId, at.slice(0, 10));
      if (migration.state === 'switched')
        draft.update('volume', move.volumeId, { poolId: move.fromPoolId });
    }
  }
  if (migration.state === 'switched')
    draft.update('guest', guest.id, { hostId: migration.sourceHostId });
  draft.update('migration', migration.id, { state: 'rolled back', endedAt: at });
  return [];
}

function holdHost(
  fleet: Fleet,
  draft: Draft,
  migration: Row<'migration'>,
  guest: Row<'guest'>,
  side: 'source' | 'target',
): void {
  if (!countsOnHost(guest)) return;
  const hostId = side === 'source' ? migration.sourceHostId : migration.targetHostId;
  const memoryMiB = memoryDemand(fleet, hostId, guest.vcpu, guest.memoryMiB);
  draft.create('hold', {
    migrationId: migration.id,
    side,
    hostId,
    vcpu: guest.vcpu,
    memoryMiB,
    poolId: null,
    bytes: 0,
  });
}

function holdPool(
  fleet: Fleet,
  draft: Draft,
  migrationId: string,
  side: 'source' | 'target',
  volumeId: string,
  poolId: string,
  until: string | null,
): void {
  draft.create('hold', {
    migrationId,
    side,
    hostId: null,
    vcpu: 0,
    memoryMiB: 0,
    poolId,
    bytes: fleet.need('volume', volumeId).bytes,
    until,
  });
}

function dropHolds(fleet: Fleet, draft: Draft, migrationId: string): void {
  for (const hold of fleet.referring('hold', 'migrationId', migrationId))
    draft.remove('hold', hold.id);
}

/** Records that the disks kept after a migration have been erased: a deed in the world. */
export interface ReleaseHold extends ChangeBase {
  type: 'hold.release';
  id: string;
}

export const releaseHold: Decider<ReleaseHold> = (fleet, change, edge) => {
  const hold = fleet.get('hold', change.id);
  if (!hold || !hold.poolId) return noSuch('hold');
  const migration = fleet.need('migration', hold.migrationId);
  const guest = fleet.need('guest', migration.guestId);
  if (hold.until === null) {
    return refuse({
      code: 'still-needed',
      sentence: `The migration of ${guest.name} is not settled: this room is the way back.`,
      remedy: 'Accept the migration or roll it back first.',
    });
  }
  const draft = draftOf(fleet, edge);
  draft.remove('hold', hold.id);
  const pool = fleet.need('pool', hold.poolId).name;
  return {
    draft,
    title: `recorded the deletion of ${guest.name}'s disks on pool ${pool}`,
    subjects: [{ kind: 'migration', id: migration.id, name: guest.name }],
  };
};
