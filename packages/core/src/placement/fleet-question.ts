/**
 * A question of placement, put from the record into arrays once: guests as units, hosts with what they have left, rules as
 * counters. Costs guests + hosts + members of their rules; nothing is searched here.
 */
import { memoryDemand, capacity, load } from '../host/index.js';
import type { Limit, PackingQuestion } from '../packing/index.js';
import { type Fleet, type Row, NO_GROUP } from '../record/index.js';

/** Memory and processors, in this order; disks of the host itself are the third where they are asked of. */
export const MEMORY = 0;
export const PROCESSORS = 1;
export const OWN_DISK = 2;

export interface FleetQuestion extends PackingQuestion {
  guests: readonly Row<'guest'>[];
  hostIds: readonly string[];
}

export interface QuestionParts {
  guests: readonly Row<'guest'>[];
  /** By guest; guests that may go to the same hosts share one array, so that it is looked through once. */
  candidates: ReadonlyMap<string, readonly string[]>;
  hosts: HostNumbers;
  /** What a host has left without the guests that are asked of, in MiB and vCPU; left out: as the record says. */
  roomOf?: (hostId: string) => { memoryMiB: number; vcpu: number };
  /** Hosts on which nothing stands any more: they have no room, and who was there keeps nobody apart. */
  fallen?: ReadonlySet<string>;
  /** Disk on the host itself, in MiB: what a guest asks, and what a host has left. */
  ownDisk?: { ofGuest: (guestId: string) => number; ofHost: (hostId: string) => number };
  /** Rules beside those of the record. */
  more?: (zones: Zones) => Limit[];
}

/** Hosts in numbers, in the order of their ids. */
export interface HostNumbers {
  ids: readonly string[];
  indexOf: ReadonlyMap<string, number>;
  /** One host of each platform. */
  ofClass: readonly string[];
  classOf: Int32Array;
  /** MiB and vCPU left, reserve included. */
  room: Float64Array;
  /** Where each lies: hosts of one key are one place. */
  zones: Readonly<Record<Row<'placementRule'>['scope'], readonly string[]>>;
}

export function hostNumbers(fleet: Fleet, hostIds: Iterable<string>): HostNumbers {
  const ids = [...hostIds].sort();
  const platformOf = ids.map((id) => fleet.pick('host', id, 'platformId').platformId);
  const platforms = [...new Set(platformOf)];
  const room = new Float64Array(ids.length * 2);
  for (const [host, id] of ids.entries()) {
    const { memoryMiB, vcpu } = roomLeft(fleet, id);
    room[host * 2 + MEMORY] = memoryMiB;
    room[host * 2 + PROCESSORS] = vcpu;
  }
  const keys = (scope: 'rack' | 'site') => ids.map((id) => zoneKey(fleet, id, scope));
  return {
    ids,
    indexOf: new Map(ids.map((id, i) => [id, i])),
    ofClass: platforms.map((platform) => ids[platformOf.indexOf(platform)]!),
    classOf: Int32Array.from(platformOf, (platform) => platforms.indexOf(platform)),
    room,
    zones: { host: ids, rack: keys('rack'), site: keys('site') },
  };
}

/** Hosts in service that back each other, in numbers: kept, since every failure among them asks for the same. */
const groupNumbers = (fleet: Fleet, groupId: string | null): HostNumbers =>
  fleet.memo(groupId ?? NO_GROUP, 'hosts in numbers', () =>
    hostNumbers(fleet, fleet.backing(groupId)),
  );

/** Up to so many hosts of no group are asked by themselves: what is altered on others does not concern them. */
const BY_THEMSELVES = 64;

/** Hosts of a group that somebody may go to, and perhaps more of it. */
export function numbersOf(
  fleet: Fleet,
  groupId: string | null,
  candidates: Iterable<readonly string[]>,
): HostNumbers {
  if (groupId !== null) return groupNumbers(fleet, groupId);
  const hostIds = new Set<string>();
  for (const list of new Set(candidates)) for (const id of list) hostIds.add(id);
  return hostIds.size > BY_THEMSELVES ? groupNumbers(fleet, null) : hostNumbers(fleet, hostIds);
}

/** What of a guest counts in a rule. */
const MEMBER = ['id', 'state', 'hostId'] as const;

/** Hosts as they count in a rule: which zone they lie in, and zones of hosts that are not candidates. */
export interface Zones {
  unitOf: ReadonlyMap<string, number>;
  limit: (
    members: readonly Pick<Row<'guest'>, (typeof MEMBER)[number]>[],
    scope: Row<'placementRule'>['scope'],
    most: number | null,
  ) => Limit | null;
}

export function questionOf(fleet: Fleet, parts: QuestionParts): FleetQuestion {
  const { guests, candidates, hosts, ownDisk } = parts;
  const dims = ownDisk ? 3 : 2;
  const classes = Math.max(1, hosts.ofClass.length);
  const need = new Float64Array(guests.length * classes * dims);
  for (const [unit, guest] of guests.entries())
    for (const [one, hostId] of hosts.ofClass.entries()) {
      const from = (unit * classes + one) * dims;
      need[from + MEMORY] = memoryDemand(fleet, hostId, guest.vcpu, guest.memoryMiB);
      need[from + PROCESSORS] = guest.vcpu;
      if (ownDisk) need[from + OWN_DISK] = ownDisk.ofGuest(guest.id);
    }
  const zones = zonesOf(fleet, parts);
  return {
    guests,
    hostIds: hosts.ids,
    units: guests.length,
    hosts: hosts.ids.length,
    dims,
    classes,
    classOf: hosts.classOf,
    need,
    room: roomsOf(parts, dims),
    candidates: inNumbers(guests, candidates, hosts),
    limits: [...recordedLimits(fleet, guests, zones), ...(parts.more?.(zones) ?? [])],
  };
}

function roomsOf({ hosts, roomOf, ownDisk, fallen }: QuestionParts, dims: number): Float64Array {
  if (!roomOf && !ownDisk) {
    const room = hosts.room.slice();
    for (const id of fallen ?? []) {
      const host = hosts.indexOf.get(id);
      if (host !== undefined) room.fill(0, host * 2, host * 2 + 2);
    }
    return room;
  }
  const room = new Float64Array(hosts.ids.length * dims);
  for (const [host, id] of hosts.ids.entries()) {
    if (fallen?.has(id)) continue;
    const left = roomOf?.(id);
    room[host * dims + MEMORY] = left?.memoryMiB ?? hosts.room[host * 2 + MEMORY]!;
    room[host * dims + PROCESSORS] = left?.vcpu ?? hosts.room[host * 2 + PROCESSORS]!;
    if (ownDisk) room[host * dims + OWN_DISK] = ownDisk.ofHost(id);
  }
  return room;
}

/** A list of hosts in numbers of some hosts, and what is in it as a text. */
const inNumbersOf = new WeakMap<
  readonly string[],
  { hosts: HostNumbers; numbers: Int32Array; content: string }
>();

/** Lists that are one array, or hold the same, become one array of numbers. */
function inNumbers(
  guests: readonly Row<'guest'>[],
  candidates: QuestionParts['candidates'],
  hosts: HostNumbers,
): Int32Array[] {
  const byContent = new Map<string, Int32Array>();
  return guests.map((guest) => {
    const list = candidates.get(guest.id) ?? NOWHERE;
    let known = inNumbersOf.get(list);
    if (known?.hosts !== hosts) {
      const numbers = Int32Array.from(list, (id) => hosts.indexOf.get(id)!).sort();
      known = { hosts, numbers, content: numbers.join() };
      inNumbersOf.set(list, known);
    }
    const { numbers, content } = known;
    const held = byContent.get(content) ?? numbers;
    byContent.set(content, held);
    return held;
  });
}
const NOWHERE: readonly string[] = [];

function zonesOf(fleet: Fleet, { guests, fallen, hosts }: QuestionParts): Zones {
  const unitOf = new Map(guests.map((guest, unit) => [guest.id, unit]));
  return {
    unitOf,
    limit(members, scope, most) {
      const moving = members.filter(({ id }) => unitOf.has(id));
      if (moving.length === 0) return null;
      const numbers = new Map<string, number>();
      const numberOf = (key: string): number => {
        const held = numbers.get(key) ?? numbers.size;
        numbers.set(key, held);
        return held;
      };
      const zoneOf = Int32Array.from(hosts.zones[scope], numberOf);
      const staying = members.flatMap((guest) =>
        unitOf.has(guest.id) || guest.state === 'retired' || fallen?.has(guest.hostId)
          ? []
          : [numberOf(zoneKey(fleet, guest.hostId, scope))],
      );
      const standing = new Int32Array(numbers.size);
      for (const one of staying) standing[one]! += 1;
      return { members: moving.map(({ id }) => unitOf.get(id)!), zoneOf, most, standing };
    },
  };
}

/** Hosts of one key are one place in a scope; a host whose rack or site is not recorded is a place of its own. */
export function zoneKey(
  fleet: Fleet,
  hostId: string,
  scope: Row<'placementRule'>['scope'],
): string {
  if (scope === 'host') return hostId;
  if (scope === 'rack') return fleet.pick('host', hostId, 'rackId').rackId ?? hostId;
  return fleet.pick('host', hostId, 'siteId').siteId ?? hostId;
}

/** "Together" and "apart" of the guests that are asked of; "pinned" has narrowed their candidates. */
function recordedLimits(fleet: Fleet, guests: readonly Row<'guest'>[], zones: Zones): Limit[] {
  const ruleIds = new Set(
    guests.flatMap((guest) =>
      fleet.referring('placementMember', 'guestId', guest.id).map(({ ruleId }) => ruleId),
    ),
  );
  return [...ruleIds].sort().flatMap((id) => {
    const { rule, scope } = fleet.pick('placementRule', id, 'rule', 'scope');
    if (rule === 'pinned') return [];
    const members = fleet
      .referring('placementMember', 'ruleId', id)
      .map(({ guestId }) => fleet.pick('guest', guestId, ...MEMBER));
    return zones.limit(members, scope, rule === 'apart' ? 1 : null) ?? [];
  });
}

/** What a host has left, its reserve included. */
export function roomLeft(fleet: Fleet, hostId: string): { memoryMiB: number; vcpu: number } {
  const [has, used] = [capacity(fleet, hostId), load(fleet, hostId)];
  return {
    memoryMiB: has.memory.value - used.memoryMiB,
    vcpu: has.vcpu.value - used.vcpu,
  };
}
