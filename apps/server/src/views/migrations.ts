import type {
  MigrationListRow,
  MigrationRoute,
  MigrationSheet,
  RouteQuery,
  SideView,
} from '@insel/contract';
import {
  findingsOn,
  headroom,
  migrationChecks,
  poolFigures,
  poolsOf,
  routeEstimate,
  volumeBytes,
  type Fleet,
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

export function migrationRoute(fleet: Fleet, query: RouteQuery): MigrationRoute {
  const [guest, target] = [
    fleet.get('guest', query.guestId),
    fleet.get('host', query.targetHostId),
  ];
  if (!guest || !target) return { checks: [], estimate: null };
  const targetPoolId = query.targetPoolId ?? null;
  const running = query.how === 'running';
  const movesStorage =
    targetPoolId !== null &&
    fleet.referring('volume', 'guestId', guest.id).some((volume) => volume.poolId !== targetPoolId);
  return {
    checks: migrationChecks(fleet, { guest, target, targetPoolId, running }),
    estimate: routeEstimate(fleet, {
      guestId: guest.id,
      sourceHostId: guest.hostId,
      targetHostId: target.id,
      running,
      linkBitsPerSecond: query.linkBitsPerSecond,
      movesStorage,
    }),
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
    findings: findingsOn(fleet, 'migration', id, now),
  };
}
