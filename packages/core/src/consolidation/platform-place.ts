/** Where a guest goes in a change of platform: the fullest host of the new one that still takes it. */
import { countsOnHost, memoryDemand, headroom, offersRoom, reaches } from '../host/index.js';
import { rankPools } from '../guest/index.js';
import { migrationChecks, type Check, routeEstimate } from '../migration/index.js';
import { formatMemory } from '../quantity/index.js';
import type { Fleet, Patch, Row } from '../record/index.js';

export interface PlatformAsk {
  fromPlatformId: string;
  toPlatformId: string;
  windowHours: number;
  /** Days from one window to the next. */
  everyDays: number;
  linkBitsPerSecond: number;
  /** Day by which it must have ended; null: when the first licence of these hosts ends. */
  until: string | null;
}

export interface PlatformMove {
  guest: { id: string; name: string };
  target: { id: string; name: string };
  /** Null: its volumes stay where they are. */
  pool: { id: string; name: string } | null;
  seconds: [expected: number, high: number];
  critical: boolean;
  /** What stands against it now. */
  first: { sentence: string; remedy: string }[];
}

export interface Search {
  ask: PlatformAsk;
  now: string;
  /** What the stages before have altered. */
  patches: Patch[];
  left: number;
}

/** A host being emptied: the fleet as the stages before leave it, and what its guests have taken so far. */
export interface Stage {
  fleet: Fleet;
  /** Hosts of the new platform with what they have left, MiB and vCPU. */
  targets: { host: Row<'host'>; memoryMiB: number; vcpu: number }[];
  /** Bytes taken of pools. */
  pools: Map<string, number>;
}

export function stageOf(fleet: Fleet, ask: PlatformAsk): Stage {
  const targets = [...fleet.all('host')]
    .filter((host) => host.platformId === ask.toPlatformId && offersRoom(host))
    .map((host) => {
      const { memory, vcpu } = headroom(fleet, host.id);
      return { host, memoryMiB: memory.value, vcpu: vcpu.value };
    });
  return { fleet, targets, pools: new Map() };
}

export const named = ({ id, name }: { id: string; name: string }) => ({ id, name });

export function placeOf(
  { fleet, targets, pools }: Stage,
  guest: Row<'guest'>,
  search: Search,
): { move: PlatformMove; patches: Patch[] } | { why: string } {
  const { ask, now } = search;
  const volumes = fleet.referring('volume', 'guestId', guest.id);
  const bytes = volumes.reduce((sum, volume) => sum + volume.bytes, 0);
  const asks = countsOnHost(guest);
  if (targets.length === 0) return { why: 'no host of the new platform is in service' };
  let closest: { name: string; fault: string } | null = null;
  // The fullest first: what is left stays in one piece.
  for (const target of [...targets].sort((a, b) => a.memoryMiB - b.memoryMiB)) {
    const { host } = target;
    search.left -= 1;
    const needed = asks ? memoryDemand(fleet, host.id, guest.vcpu, guest.memoryMiB) : 0;
    const cores = asks ? guest.vcpu : 0;
    if (target.memoryMiB < needed || target.vcpu < cores) {
      closest ??= {
        name: host.name,
        fault:
          target.memoryMiB < needed
            ? `${formatMemory(Math.max(0, target.memoryMiB), 'down')} left, ${formatMemory(needed, 'up')} asked`
            : `${Math.max(0, target.vcpu)} vCPU left, ${cores} asked`,
      };
      continue;
    }
    const stays = volumes.every(({ poolId }) => reaches(fleet, host.id, poolId));
    const pool = stays
      ? null
      : rankPools(fleet, host.id, bytes).find(
          ({ fits, poolId, leftAfterBytes }) => fits && leftAfterBytes >= (pools.get(poolId) ?? 0),
        );
    if (pool === undefined) {
      closest = { name: host.name, fault: 'no pool that it reaches has the room' };
      continue;
    }
    const targetPoolId = pool?.poolId ?? null;
    const checks = migrationChecks(fleet, {
      guest,
      target: host,
      targetPoolId,
      running: false,
      now,
    });
    const hard = checks.find(isHard);
    if (hard) {
      closest = { name: host.name, fault: hard.sentence };
      continue;
    }
    target.memoryMiB -= needed;
    target.vcpu -= cores;
    if (targetPoolId) pools.set(targetPoolId, (pools.get(targetPoolId) ?? 0) + bytes);
    const estimate = routeEstimate(fleet, {
      guestId: guest.id,
      ...{ sourceHostId: guest.hostId, targetHostId: host.id, running: false, method: null },
      ...{ linkBitsPerSecond: ask.linkBitsPerSecond, movesStorage: !stays },
    });
    return {
      move: {
        guest: named(guest),
        target: named(host),
        pool: pool ? { id: pool.poolId, name: pool.name } : null,
        seconds: [estimate.total.value ?? estimate.totalRange[1], estimate.totalRange[1]],
        critical: serves(fleet, guest.id),
        first: [
          ...openMoves(fleet, guest),
          ...checks
            .filter(({ passed, advice }) => passed === false && !advice)
            .map(({ sentence, remedy = '' }) => ({ sentence, remedy })),
        ],
      },
      patches: [
        {
          ...{ op: 'update', kind: 'guest', id: guest.id, seen: guest.revision },
          ...{ before: { hostId: guest.hostId }, after: { hostId: host.id } },
        },
        ...volumes
          .filter(({ poolId }) => targetPoolId !== null && poolId !== targetPoolId)
          .map(({ id, poolId, revision }): Patch => ({
            ...{ op: 'update', kind: 'volume', id, seen: revision },
            ...{ before: { poolId }, after: { poolId: targetPoolId } },
          })),
      ],
    };
  }
  return { why: closest ? `${closest.name}: ${closest.fault}` : 'no host takes it' };
}

/** A move of it that is open already. */
const openMoves = (fleet: Fleet, { id, name }: Row<'guest'>): PlatformMove['first'] =>
  fleet
    .referring('migration', 'guestId', id)
    .filter(({ state }) => state !== 'accepted' && state !== 'rolled back')
    .map(({ state }) => ({
      sentence: `${name} has a migration that is ${state}.`,
      remedy: 'Finish that one first, or roll it back.',
    }));

/** What no preparation of the guest mends: the host lacks it. */
const HOST_LACKS = new Set(['memory', 'processors', 'pool reach', 'size rule', 'real room']);
const isHard = ({ name, passed, never }: Check): boolean =>
  passed === false && (never === true || HOST_LACKS.has(name) || name === 'network present');

/** Others need it, or a service that it provides. */
function serves(fleet: Fleet, guestId: string): boolean {
  return (
    fleet.referringCount('dependency', 'onGuestId', guestId) > 0 ||
    fleet
      .referring('provider', 'guestId', guestId)
      .some(({ serviceId }) => fleet.referringCount('dependency', 'serviceId', serviceId) > 0)
  );
}
