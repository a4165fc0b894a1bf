import { checkInput, type PhysicalRoute, type PhysicalRouteBody } from '@insel/contract';
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
  checksOf,
  fromPhysicalRoute,
  isRefusal,
  endsOf,
  refuse,
  routeOf,
  sideOf,
  toPhysicalRoute,
  type MoveSide,
  compareReadings,
  copyProgress,
  decideBy,
  findingsOn,
  headroom,
  holdDays,
  kindOfMove,
  lastTime,
  methodOf,
  inselChecks,
  migrationChecks,
  reachCheck,
  poolFigures,
  poolsOf,
  readingsOf,
  routeEstimate,
  volumeBytes,
  type Fleet,
  type Row,
  zoneOfMachine,
} from '@insel/core';
import { asRead, markOf, named, namedById, siteName } from './common.js';

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
    source: named(sideOf(fleet, row, 'source')),
    target: named(sideOf(fleet, row, 'target')),
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

function sideView(fleet: Fleet, { kind, id }: MoveSide): SideView {
  const machine = fleet.need(kind, id);
  const base = {
    kind,
    ...named(machine),
    state: machine.state,
    site: siteName(fleet, machine.siteId),
  };
  if (kind === 'device')
    return {
      ...base,
      memoryLeftMiB: null,
      vcpuLeft: null,
      pools: [],
      disks: fleet.referring('computerDisk', 'deviceId', id),
    };
  const room = headroom(fleet, id);
  return {
    ...base,
    memoryLeftMiB: room.memory.value,
    vcpuLeft: room.vcpu.value,
    pools: poolsOf(fleet, id).map((pool) => ({
      id: pool.id,
      name: pool.name,
      freeBytes: poolFigures(fleet, pool.id).free.value,
    })),
    disks: [],
  };
}

/** Checks and estimate of a move off a computer or onto one that is being typed. */
export function physicalRoute(
  fleet: Fleet,
  { type, input }: PhysicalRouteBody,
  now: string,
): PhysicalRoute {
  const read = routeRead(fleet, type, input, now);
  if (isRefusal(read)) {
    const { sentence, remedy = '' } = read;
    return { checks: [], estimate: null, fault: { sentence, remedy } };
  }
  return { checks: read.checks, estimate: read.estimate, fault: null };
}

function routeRead(fleet: Fleet, type: PhysicalRouteBody['type'], input: object, now: string) {
  const complaint = (complaints: readonly { sentence: string }[]) =>
    refuse({ code: 'bad-input', sentence: complaints[0]?.sentence ?? 'This cannot be read.' });
  if (type === 'migration.plan-from-physical') {
    const read = checkInput(type, input);
    return read.ok ? fromPhysicalRoute(fleet, read.value, now) : complaint(read.complaints);
  }
  const read = checkInput(type, input);
  return read.ok ? toPhysicalRoute(fleet, read.value, now) : complaint(read.complaints);
}

export function migrationRoute(fleet: Fleet, query: RouteQuery, now: string): MigrationRoute {
  const [guest, target] = [
    fleet.get('guest', query.guestId),
    fleet.get('host', query.targetHostId),
  ];
  if (!guest || !target) return { kind: null, checks: [], estimate: null, lastTime: null };
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
    checks: [
      ...migrationChecks(fleet, { guest, target, targetPoolId, running, now }),
      ...reachCheck(fleet, route),
    ],
    estimate: routeEstimate(fleet, route),
    lastTime: lastTime(fleet, route, now),
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

export function migrationSheet(
  fleet: Fleet,
  id: string,
  now: string,
  own: ReadonlySet<string>,
): MigrationSheet {
  const migration = fleet.need('migration', id);
  const guest = fleet.need('guest', migration.guestId);
  const moves = fleet.referring('volumeMove', 'migrationId', id);
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
    source: sideView(fleet, sideOf(fleet, migration, 'source')),
    target: sideView(fleet, sideOf(fleet, migration, 'target')),
    zone: zoneOfMachine(fleet, migration.sourceHostId, migration.sourceDeviceId),
    checks:
      migration.state === 'planned'
        ? [...checksOf(fleet, migration, now), ...inselChecks(fleet, migration, own)]
        : [],
    estimate: routeEstimate(fleet, routeOf(fleet, migration)),
    moves: moves.map((move) => {
      const { label, bytes } = fleet.need('volume', move.volumeId);
      const { from, to } = endsOf(fleet, move);
      return { volume: label, from, to, bytes };
    }),
    holds: fleet.referring('hold', 'migrationId', id).map((hold) => ({
      ...hold,
      place: hold.hostId
        ? namedById(fleet, 'host', hold.hostId)
        : hold.poolId
          ? namedById(fleet, 'pool', hold.poolId)
          : named(fleet.need('device', hold.deviceId!)),
    })),
    steps: fleet.referring('moveStep', 'migrationId', id).sort((a, b) => a.position - b.position),
    readings: readingsView(fleet, migration),
    progress: copyProgress(migration),
    acceptsItself: acceptsItself(fleet, migration, now),
    kind: kindOfMove(fleet, migration),
    method: methodOf(routeOf(fleet, migration)),
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
      source: sideOf(fleet, past, 'source').name,
      target: sideOf(fleet, past, 'target').name,
      method: past.method,
      at,
      expectedSeconds: migration.estimateSeconds!,
      tookSeconds: migration.copySeconds!,
    })),
  };
}
