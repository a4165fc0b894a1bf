/**
 * Guests of a group of hosts, to be moved among them: to empty a host, to get by with fewer hosts, to even out. The question
 * is put from the record into arrays once, which a worker can be sent. Costs guests + hosts + members of rules; hosts that
 * suit are asked once for all guests that ask the same.
 */
import {
  countsOnHost,
  memoryDemand,
  capacity,
  headroom,
  offersRoom,
  poolFigures,
  poolsOf,
} from '../host/index.js';
import {
  hostsFor,
  homeOf,
  hostNumbers,
  MEMORY,
  OWN_DISK,
  PROCESSORS,
  questionOf,
} from '../placement/index.js';
import { measuredUse, type HourlyUse } from './measured-use.js';
import { sideOf } from '../migration/index.js';
import { MIB } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { RearrangeAsk, RearrangeProblem, Unmovable } from './rearrange-ask.js';
import { spreads, likes } from './apart.js';

/** Of the pools of this host only the one with the most left: what lies on a host alone goes along into it, or stays. */
export const ownPoolOf = (fleet: Fleet, hostId: string): Row<'pool'> | null =>
  ownPoolsOf(fleet, hostId)[0]?.pool ?? null;

const ownPoolsOf = (fleet: Fleet, hostId: string): { pool: Row<'pool'>; left: number }[] =>
  poolsOf(fleet, hostId)
    .filter((pool) => homeOf(fleet, pool) === hostId)
    .map((pool) => ({ pool, left: leftIn(fleet, pool.id) }))
    .sort((a, b) => b.left - a.left || a.pool.name.localeCompare(b.pool.name));

/** Bytes left in a pool, both to promise and really. */
function leftIn(fleet: Fleet, poolId: string): number {
  const { left, free } = poolFigures(fleet, poolId);
  return Math.min(left.value, free.value);
}

/** A guest's volumes that lie on its host alone, and the pools of the others. */
export function disksOf(
  fleet: Fleet,
  guestId: string,
): { own: Row<'volume'>[]; sharedPoolIds: string[] } {
  const own: Row<'volume'>[] = [];
  const shared = new Set<string>();
  for (const volume of fleet.referring('volume', 'guestId', guestId)) {
    if (homeOf(fleet, fleet.need('pool', volume.poolId)) === null) shared.add(volume.poolId);
    else own.push(volume);
  }
  return { own, sharedPoolIds: [...shared] };
}

export interface Beside {
  /** A host that stands for nowhere: who is there, is not placed yet. */
  outsideId?: string;
  /** What guests were measured to use, where it is asked by it. */
  use?: readonly HourlyUse[];
}

export function rearrangeProblem(
  fleet: Fleet,
  ask: RearrangeAsk,
  { outsideId, use = [] }: Beside = {},
): { problem: RearrangeProblem; unmovable: Unmovable[] } {
  const emptied = new Set(ask.aim === 'empty' ? ask.emptiedIds : []);
  const hosts = [...fleet.all('host')].filter(
    (host) => emptied.has(host.id) || (host.groupId === ask.groupId && offersRoom(host)),
  );
  const unmovable: Unmovable[] = [];
  const guests: Row<'guest'>[] = [];
  const candidates = new Map<string, readonly string[]>();
  for (const host of hosts)
    for (const guest of fleet.referring('guest', 'hostId', host.id)) {
      if (guest.state === 'retired') continue;
      const why = keepsStill(fleet, guest);
      if (why) unmovable.push({ guestId: guest.id, why });
      guests.push(guest);
      candidates.set(guest.id, why ? [host.id] : placesFor(fleet, guest, emptied, ask.notBackFrom));
    }
  const own = new Map(guests.map(({ id }) => [id, ownDiskMiB(fleet, id)]));

  const standing = new Map<string, { memoryMiB: number; vcpu: number; disk: number }>();
  for (const guest of guests) {
    const held = standing.get(guest.hostId) ?? { memoryMiB: 0, vcpu: 0, disk: 0 };
    const counts = countsOnHost(guest);
    standing.set(guest.hostId, {
      memoryMiB: held.memoryMiB + (counts ? memoryOn(fleet, guest.hostId, guest) : 0),
      vcpu: held.vcpu + (counts ? guest.vcpu : 0),
      disk: held.disk + own.get(guest.id)!,
    });
  }
  const question = questionOf(fleet, {
    guests,
    candidates,
    hosts: hostNumbers(
      fleet,
      hosts.map(({ id }) => id),
    ),
    roomOf: (id) => {
      const [room, back] = [headroom(fleet, id), standing.get(id)];
      return {
        memoryMiB: room.memory.value + (back?.memoryMiB ?? 0),
        vcpu: room.vcpu.value + (back?.vcpu ?? 0),
      };
    },
    ownDisk: {
      ofGuest: (id) => own.get(id)!,
      ofHost: (id) => {
        const pool = ownPoolOf(fleet, id);
        const left = pool ? Math.max(0, Math.floor(leftIn(fleet, pool.id) / MIB)) : 0;
        return left + (standing.get(id)?.disk ?? 0);
      },
    },
    more: (zones) => [
      ...spreads(
        fleet,
        guests,
        zones,
        hosts.filter(({ id }) => !emptied.has(id)),
        outsideId,
      ),
      ...likes(fleet, guests, zones, outsideId),
    ],
  });
  // What does not count asks for nothing but its disk.
  for (const [unit, guest] of guests.entries())
    for (let one = 0; !countsOnHost(guest) && one < question.classes; one += 1) {
      const from = (unit * question.classes + one) * question.dims;
      question.need[from + MEMORY] = question.need[from + PROCESSORS] = 0;
    }
  const mostRoom = question.room.slice();
  for (const [host, id] of question.hostIds.entries())
    for (const { left } of ownPoolsOf(fleet, id).slice(1))
      mostRoom[host * question.dims + OWN_DISK]! += Math.max(0, Math.floor(left / MIB));
  const indexOf = new Map(question.hostIds.map((id, i) => [id, i]));
  const { hostIds, guests: _, ...plain } = question;
  return {
    unmovable,
    problem: {
      aim: ask.aim,
      mostMoves: ask.mostMoves,
      mostMiB: ask.mostGiB === undefined ? Infinity : ask.mostGiB * 1024,
      keepTolerance: ask.keepTolerance,
      question: plain,
      mostRoom,
      guestIds: guests.map(({ id }) => id),
      hostIds: [...hostIds],
      start: Int32Array.from(guests, ({ hostId }) => indexOf.get(hostId)!),
      closed: hostIds.flatMap((id, i) => (emptied.has(id) ? [i] : [])),
      has: perHost(hostIds, plain.dims, (id) => {
        const { memory, vcpu } = capacity(fleet, id);
        return [memory.value, vcpu.value];
      }),
      reserve: perHost(hostIds, plain.dims, (id) => {
        const { reserve } = capacity(fleet, id);
        return [reserve.memory.value, reserve.vcpu.value];
      }),
      use:
        ask.aim === 'even' && ask.by === 'used' ? measuredUse(fleet, guests, hostIds, use) : null,
      cost: Float64Array.from(guests, ({ id, state, memoryMiB }) =>
        Math.max(1, own.get(id)! + (state === 'in service' ? memoryMiB : 0)),
      ),
      restarts: Uint8Array.from(guests, ({ id, state }) =>
        Number(state !== 'in service' || own.get(id) === 0),
      ),
    },
  };
}

/** Why a guest can go nowhere at all, whatever has room; undefined: it can. */
function keepsStill(fleet: Fleet, guest: Row<'guest'>): string | undefined {
  const open = fleet
    .referring('migration', 'guestId', guest.id)
    .find(({ state }) => state === 'planned' || state === 'started' || state === 'switched');
  if (open)
    return `it has a migration to ${sideOf(fleet, open, 'target').name} that is ${open.state}`;
  const { own } = disksOf(fleet, guest.id);
  if (guest.state === 'building' && own.length > 0)
    return 'it is being built, with disks that lie on its host alone';
  const bound = own.find(
    ({ id, baseId }) => baseId !== null || fleet.referringCount('volume', 'baseId', id) > 0,
  );
  if (bound)
    return `${bound.label} shares blocks with another volume of pool ${fleet.need('pool', bound.poolId).name}`;
  return undefined;
}

function placesFor(
  fleet: Fleet,
  guest: Row<'guest'>,
  emptied: ReadonlySet<string>,
  notBackFrom: string | undefined,
): readonly string[] {
  const { sharedPoolIds } = disksOf(fleet, guest.id);
  const { suitable } = hostsFor(fleet, guest, sharedPoolIds, emptied);
  const has = (id: string) => fleet.need('host', id).platformId === notBackFrom;
  const forward = notBackFrom !== undefined && has(guest.hostId);
  const open = suitable.filter((id) => !emptied.has(id) && (!forward || has(id)));
  return open.includes(guest.hostId) ? open : [...open, guest.hostId];
}

const memoryOn = (fleet: Fleet, hostId: string, { vcpu, memoryMiB }: Row<'guest'>): number =>
  memoryDemand(fleet, hostId, vcpu, memoryMiB);

const ownDiskMiB = (fleet: Fleet, guestId: string): number =>
  disksOf(fleet, guestId).own.reduce((sum, { bytes }) => sum + Math.ceil(bytes / MIB), 0);

function perHost(
  hostIds: readonly string[],
  dims: number,
  of: (hostId: string) => number[],
): Float64Array {
  const found = new Float64Array(hostIds.length * dims);
  for (const [host, id] of hostIds.entries()) found.set(of(id), host * dims);
  return found;
}
