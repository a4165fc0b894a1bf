import {
  change,
  choice,
  date,
  draftOf,
  integer,
  noSuch,
  omittable,
  ref,
  refuse,
  type DeciderOf,
  type Draft,
  type Fleet,
  type InputOf,
  type Refusal,
  type Row,
} from '../record/index.js';
import { checkObjections } from './checks.js';
import { recordChecks } from './checks-of.js';
import { holdDays } from './decide-by.js';
import { pausedFault } from './pause-migration.js';
import { sideOf } from './sides.js';
import { retireSource, switchComputer, takeBackComputer } from './switch-computer.js';
import { holdHost, holdPool, dropHolds } from './holds.js';
import { tickLed } from './tick-led.js';

/** The copy has begun, the guest is on the target, the move is signed off, or it was taken back. */
export const stepMigration = change({
  type: 'migration.step',
  title: 'Record a step of the migration',
  carried: 'by hand',
  undoable: false,
  alters: ['id'],
  input: {
    id: ref('migration'),
    step: choice('start', 'switch', 'accept', 'roll back'),
    /** With "switch": how long the copy took, if it was measured; otherwise from start to now. */
    copySeconds: omittable(integer(1)),
    /** With "accept": the source's disks are kept until this day. */
    keepUntil: omittable(date()),
  },
});
type StepMigration = InputOf<(typeof stepMigration)['input']>;
export type MigrationStep = StepMigration['step'];

const BEFORE: Record<MigrationStep, readonly Row<'migration'>['state'][]> = {
  start: ['planned'],
  // A move while running begins and ends in one: it may be told afterwards.
  switch: ['planned', 'started'],
  accept: ['switched'],
  'roll back': ['planned', 'started', 'switched'],
};

export const decideStepMigration: DeciderOf<typeof stepMigration> = (fleet, input, context) => {
  const migration = fleet.get('migration', input.id);
  if (!migration) return noSuch('migration');
  const draft = draftOf(fleet, context);
  const outcome = advance(fleet, draft, migration, input.step, context.happenedAt, input);
  if (!Array.isArray(outcome)) return outcome;
  tickLed(fleet, draft, migration, input.step, context);
  const guest = fleet.need('guest', migration.guestId);
  return {
    draft,
    title: titleOfStep(fleet, migration, input.step),
    subjects: [
      { kind: 'migration', id: migration.id, name: guest.name },
      { kind: 'guest', id: guest.id, name: guest.name },
    ],
    objections: outcome,
  };
};

/** As the log tells it. */
export function titleOfStep(
  fleet: Fleet,
  migration: Row<'migration'>,
  step: MigrationStep,
): string {
  const guest = fleet.need('guest', migration.guestId).name;
  const [source, target] = [
    sideOf(fleet, migration, 'source').name,
    sideOf(fleet, migration, 'target').name,
  ];
  return {
    start: `started migrating ${guest} to ${target}`,
    switch: `switched ${guest} over to ${target}`,
    accept: `accepted ${guest} on ${target}`,
    'roll back': `rolled ${guest} back to ${source}`,
  }[step];
}

/** Takes a migration to its next state, with what is held where. */
export function advance(
  fleet: Fleet,
  draft: Draft,
  migration: Row<'migration'>,
  step: MigrationStep,
  at: string,
  input: Said,
): Refusal[] | Refusal {
  if (!BEFORE[step].includes(migration.state))
    return refuse({
      code: 'state-cannot-follow',
      sentence: `The migration is ${migration.state}: it cannot ${step === 'roll back' ? 'be rolled back' : step} now.`,
      remedy: 'Look at the steps of the migration: somebody may have gone on.',
    });
  const fault = step === 'roll back' ? undefined : pausedFault(migration);
  if (fault) return fault;
  const guest = fleet.need('guest', migration.guestId);
  const run = { start, switch: switchOver, accept, 'roll back': rollBack }[step];
  return run({ fleet, draft, migration, guest, at, input });
}

/** What may be said with a step. */
type Said = Pick<StepMigration, 'copySeconds' | 'keepUntil'>;

interface Step {
  fleet: Fleet;
  draft: Draft;
  migration: Row<'migration'>;
  guest: Row<'guest'>;
  at: string;
  input: Said;
}

function start({ fleet, draft, migration, guest, at }: Step): Refusal[] {
  const moves = fleet.referring('volumeMove', 'migrationId', migration.id);
  if (migration.sourceHostId === null)
    draft.update('guest', guest.id, { state: 'building', stateAt: at });
  else if (migration.targetHostId !== null) {
    holdHost(fleet, draft, migration, guest, 'target');
    for (const move of moves)
      holdPool(fleet, draft, migration.id, 'target', move.volumeId, move.toPoolId!, null);
  }
  draft.update('migration', migration.id, { state: 'started', startedAt: at });
  return checkObjections(recordChecks(fleet, migration));
}

function switchOver({ fleet, draft, migration, guest, at, input }: Step): Refusal[] | Refusal {
  if (migration.state === 'planned' && input.copySeconds === undefined && !quick(fleet, migration))
    return refuse({
      code: 'state-cannot-follow',
      sentence: 'The migration is planned: it cannot switch now.',
      remedy: 'Say that the copy has begun, or how long it took.',
    });
  const began = migration.startedAt ?? at;
  const seconds = input.copySeconds ?? Math.round((Date.parse(at) - Date.parse(began)) / 1000);
  if (seconds < 0)
    return refuse({
      code: 'time-backwards',
      field: 'happenedAt',
      sentence: 'The guest cannot be switched over before the copy began.',
    });
  dropHolds(fleet, draft, migration.id);
  const stayed =
    migration.sourceHostId === null || migration.targetHostId === null
      ? switchComputer({ fleet, draft, migration, guest, at })
      : switchHosts(fleet, draft, migration, guest, migration.targetHostId);
  draft.update('migration', migration.id, {
    state: 'switched',
    startedAt: migration.startedAt ?? new Date(Date.parse(at) - seconds * 1000).toISOString(),
    switchedAt: at,
    // From start to now is an upper bound that somebody waited for; told in one go, nothing is known.
    copySeconds: migration.startedAt || input.copySeconds ? Math.max(1, seconds) : null,
  });
  return stayed;
}

function switchHosts(
  fleet: Fleet,
  draft: Draft,
  migration: Row<'migration'>,
  guest: Row<'guest'>,
  hostId: string,
): Refusal[] {
  holdHost(fleet, draft, migration, guest, 'source');
  for (const move of fleet.referring('volumeMove', 'migrationId', migration.id)) {
    holdPool(fleet, draft, migration.id, 'source', move.volumeId, move.fromPoolId!, null);
    draft.update('volume', move.volumeId, { poolId: move.toPoolId! });
  }
  draft.update('guest', guest.id, { hostId });
  return [];
}

/** Told in one go: while running, or without a copy. */
const quick = (fleet: Fleet, migration: Row<'migration'>): boolean =>
  migration.running || fleet.referringCount('volumeMove', 'migrationId', migration.id) === 0;

function accept({ fleet, draft, migration, guest, at, input }: Step): Refusal[] | Refusal {
  if (input.keepUntil !== undefined && Number.isNaN(Date.parse(input.keepUntil))) {
    return refuse({
      code: 'bad-date',
      field: 'keepUntil',
      sentence: 'Write the day until which the source is kept, such as 2026-12-01.',
    });
  }
  const kept = Date.parse(at) + holdDays(fleet, migration) * 86_400_000;
  const until = input.keepUntil ?? new Date(kept).toISOString().slice(0, 10);
  for (const hold of fleet.referring('hold', 'migrationId', migration.id)) {
    if (hold.hostId) draft.remove('hold', hold.id);
    else draft.update('hold', hold.id, { until });
  }
  if (migration.targetHostId === null) retireSource({ fleet, draft, migration, guest, at }, until);
  draft.update('migration', migration.id, { state: 'accepted', endedAt: at });
  return [];
}

function rollBack({ fleet, draft, migration, guest, at }: Step): Refusal[] {
  dropHolds(fleet, draft, migration.id);
  if (migration.sourceHostId === null || migration.targetHostId === null) {
    takeBackComputer({ fleet, draft, migration, guest, at });
    draft.update('migration', migration.id, { state: 'rolled back', endedAt: at });
    return [];
  }
  if (migration.state !== 'planned') {
    // What was written on the target stays there until its deletion is recorded.
    for (const move of fleet.referring('volumeMove', 'migrationId', migration.id)) {
      holdPool(
        fleet,
        draft,
        migration.id,
        'target',
        move.volumeId,
        move.toPoolId!,
        at.slice(0, 10),
      );
      if (migration.state === 'switched')
        draft.update('volume', move.volumeId, { poolId: move.fromPoolId! });
    }
  }
  if (migration.state === 'switched')
    draft.update('guest', guest.id, { hostId: migration.sourceHostId });
  draft.update('migration', migration.id, { state: 'rolled back', endedAt: at });
  return [];
}
