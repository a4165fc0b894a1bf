import type {
  CalibrationView,
  MigrationListRow,
  MigrationRoute,
  MigrationSheet,
  RouteQuery,
  SideView,
} from '@insel/contract';
import {
  acceptsItself,
  calibration,
  compareReadings,
  copyProgress,
  decideBy,
  findingsOn,
  headroom,
  holdDays,
  kindOfMove,
  methodOf,
  migrationChecks,
  poolFigures,
  poolsOf,
  readingsOf,
  routeEstimate,
  volumeBytes,
  type Fleet,
  type Row,
} from '@insel/core';
import { asRead, markOf, namedById, siteName } from './common.js';

export function migrationRow(fleet: Fleet, id: string, now: string): MigrationListRow {
  const row = fleet.need('migration', id);
  const {
    state,
    running,
    bytes,
    estimateSeconds,
    copySeconds,
    plannedAt,
    startedAt,
    switchedAt,
    endedAt,
  } = row;
  return {
    ...asRead(row),
    guest: namedById(fleet, 'guest', row.guestId),
    source: namedById(fleet, 'host', row.sourceHostId),
    target: namedById(fleet, 'host', row.targetHostId),
    state,
    running,
    bytes,
    estimateSeconds,
    copySeconds,
    plannedAt,
    startedAt,
    switchedAt,
    endedAt,
    finding: markOf(fleet, 'migration', id, now),
  };
}

function sideView(fleet: Fleet, hostId: string): SideView {
  const host = fleet.need('host', hostId);
  const room = headroom(fleet, hostId);
  return {
    id: hostId,
    name: host.name,
    state: host.state,
    site: siteName(fleet, host.siteId),
    memoryLeftMiB: room.memory.value,
    vcpuLeft: room.vcpu.value,
    pools: poolsOf(fleet, hostId).map((pool) => ({
      id: pool.id,
      name: pool.name,
      freeBytes: poolFigures(fleet, pool.id).free.value,
    })),
  };
}

export function migrationRoute(fleet: Fleet, query: RouteQuery, now: string): MigrationRoute {
  const [guest, target] = [
    fleet.get('guest', query.guestId),
    fleet.get('host', query.targetHostId),
  ];
  if (!guest || !target) return { kind: null, checks: [], estimate: null };
  const targetPoolId = query.targetPoolId ?? null;
  const running = query.how === 'running';
  const movesStorage =
    targetPoolId !== null &&
    fleet.referring('volume', 'guestId', guest.id).some((volume) => volume.poolId !== targetPoolId);
  const route = {
    guestId: guest.id,
    sourceHostId: guest.hostId,
    targetHostId: target.id,
    running,
    linkBitsPerSecond: query.linkBitsPerSecond,
    movesStorage,
    method: query.method ?? null,
    dirtyBytesPerSecond: query.dirtyBytesPerSecond ?? null,
  };
  return {
    kind: kindOfMove(fleet, route),
    checks: migrationChecks(fleet, { guest, target, targetPoolId, running, now }),
    estimate: routeEstimate(fleet, route),
  };
}

function readingsView(fleet: Fleet, migration: Row<'migration'>): MigrationSheet['readings'] {
  const [before] = readingsOf(fleet, migration.id, 'before');
  const [after] = readingsOf(fleet, migration.id, 'after');
  const view = (row: Row<'moveReading'> | undefined) =>
    row ? { takenAt: row.takenAt, by: row.by, lines: row.lines.length } : null;
  return {
    before: view(before),
    after: view(after),
    verdicts: after ? compareReadings(fleet, migration, before?.lines ?? [], after.lines) : [],
  };
}

export function migrationSheet(fleet: Fleet, id: string, now: string): MigrationSheet {
  const migration = fleet.need('migration', id);
  const guest = fleet.need('guest', migration.guestId);
  const target = fleet.need('host', migration.targetHostId);
  const moves = fleet.referring('volumeMove', 'migrationId', id);
  const planned = migration.state === 'planned';
  return {
    migration,
    guest: {
      id: guest.id,
      name: guest.name,
      state: guest.state,
      vcpu: guest.vcpu,
      memoryMiB: guest.memoryMiB,
      volumeBytes: volumeBytes(fleet, guest.id),
    },
    source: sideView(fleet, migration.sourceHostId),
    target: sideView(fleet, migration.targetHostId),
    checks: planned
      ? migrationChecks(fleet, {
          guest,
          target,
          targetPoolId: moves[0]?.toPoolId ?? null,
          running: migration.running,
          now,
        })
      : [],
    estimate: routeEstimate(fleet, { ...migration, movesStorage: moves.length > 0 }),
    moves: moves.map((move) => {
      const volume = fleet.need('volume', move.volumeId);
      return {
        volume: volume.label,
        from: namedById(fleet, 'pool', move.fromPoolId),
        to: namedById(fleet, 'pool', move.toPoolId),
        bytes: volume.bytes,
      };
    }),
    holds: fleet.referring('hold', 'migrationId', id).map((hold) => ({
      ...hold,
      place: hold.hostId
        ? namedById(fleet, 'host', hold.hostId)
        : namedById(fleet, 'pool', hold.poolId!),
    })),
    steps: fleet.referring('moveStep', 'migrationId', id).sort((a, b) => a.position - b.position),
    readings: readingsView(fleet, migration),
    progress: copyProgress(migration),
    acceptsItself: acceptsItself(fleet, migration, now),
    kind: kindOfMove(fleet, migration),
    method: methodOf({ ...migration, movesStorage: moves.length > 0 }),
    decideBy: decideBy(fleet, migration),
    holdDays: holdDays(fleet, migration),
    findings: findingsOn(fleet, 'migration', id, now),
  };
}

/** Past moves, planned against actual. */
export function calibrationView(fleet: Fleet): CalibrationView {
  const { runs, held } = calibration(fleet);
  return {
    held,
    counted: runs.length,
    runs: runs.map(({ past, migration, at }) => ({
      id: migration.id,
      guest: fleet.need('guest', migration.guestId).name,
      source: fleet.need('host', past.sourceHostId).name,
      target: fleet.need('host', past.targetHostId).name,
      method: past.method,
      at,
      expectedSeconds: migration.estimateSeconds!,
      tookSeconds: migration.copySeconds!,
    })),
  };
}
