/**
 * Which host and pool each clone of a batch goes to. One after the other: each sees what those before it take. A host is
 * one where the origin's copy can run: in service, of its architecture, carrying its networks, with a pool for its disks;
 * members of a group are spread over what the group asks for, and roles that do not belong together are kept apart.
 */
import {
  memoryDemand,
  headroom,
  offersRoom,
  poolFigures,
  carriesNetwork,
  reaches,
} from '../host/index.js';
import { rankPools } from '../guest/index.js';
import { processorFit } from '../placement/index.js';
import type { Fleet, Row } from '../record/index.js';

/**
 * "beside": where the origin is. "room": evenly, each to where most is left. "one a host": in turns. "fill": one host
 * after the other, the origin's first.
 */
export const SPREAD_RULES = ['beside', 'room', 'one a host', 'fill'] as const;
export type SpreadRule = (typeof SPREAD_RULES)[number];

export interface Seat {
  hostId: string;
  /** Null: the pools of the origin's volumes. */
  poolId: string | null;
}

/** What one clone asks of a place. */
export interface CloneDemand {
  origin: Row<'guest'>;
  volumes: readonly Row<'volume'>[];
  copy: Row<'clone'>['copy'];
  vcpu: number;
  memoryMiB: number;
  bytes: number;
  thin: boolean;
  /** Two of its role do not belong on one host. */
  apart: boolean;
  group: Row<'guestGroup'> | undefined;
}

export function demandOfClone(
  fleet: Fleet,
  {
    origin,
    size,
    copy,
    groupId = origin.groupId,
  }: {
    origin: Row<'guest'>;
    size: { vcpu: number; memoryMiB: number };
    copy: Row<'clone'>['copy'];
    groupId?: string | null;
  },
): CloneDemand {
  const volumes = fleet.referring('volume', 'guestId', origin.id);
  return {
    origin,
    volumes,
    copy,
    ...size,
    bytes: volumes.reduce((sum, volume) => sum + volume.bytes, 0),
    thin: copy === 'dependent' || volumes.every((volume) => volume.thin),
    apart: fleet.get('profile', origin.profileId)?.apart ?? false,
    group: fleet.get('guestGroup', groupId),
  };
}

export interface Spreading {
  count: number;
  how: SpreadRule;
  /** Only these hosts; empty: all that can. */
  among: readonly string[];
  /** Hosts of clones that have a written place, each as often as it is written. */
  taken: readonly string[];
}

interface Candidate {
  host: Row<'host'>;
  memoryLeft: number;
  vcpuLeft: number;
  demand: number;
  taken: number;
  /** Guests of its role that are there already. */
  alike: number;
  /** What the group is spread over: the host, its rack or its site. */
  domain: string | null;
}

/**
 * A seat for each clone; null where no host has room for it any more, with those before it placed. Its cost grows with
 * clones × hosts.
 */
export function spreadClones(
  fleet: Fleet,
  clone: CloneDemand,
  { count, how, among, taken }: Spreading,
): (Seat | null)[] {
  const { origin, volumes } = clone;
  if (how === 'beside')
    return Array.from({ length: count }, () => ({ hostId: origin.hostId, poolId: null }));
  const candidates = hostsFor(fleet, clone, taken).filter(
    ({ host }) => among.length === 0 || among.includes(host.id),
  );
  const members = membersBy(fleet, clone);
  const promised = new Map<string, number>();
  return Array.from({ length: count }, (): Seat | null => {
    for (const candidate of inOrder(candidates, origin, how, members)) {
      const { host, domain, demand } = candidate;
      if (candidate.memoryLeft < demand || candidate.vcpuLeft < clone.vcpu) continue;
      if (clone.apart && candidate.alike > 0) continue;
      const poolId = poolFor(fleet, host, clone, promised);
      if (poolId === undefined) continue;
      candidate.memoryLeft -= demand;
      candidate.vcpuLeft -= clone.vcpu;
      candidate.taken += 1;
      candidate.alike += 1;
      if (domain) members.set(domain, (members.get(domain) ?? 0) + 1);
      for (const volume of volumes) {
        const id = poolId ?? volume.poolId;
        promised.set(id, (promised.get(id) ?? 0) + volume.bytes);
      }
      return { hostId: host.id, poolId };
    }
    return null;
  });
}

function hostsFor(fleet: Fleet, clone: CloneDemand, taken: readonly string[]): Candidate[] {
  const { origin, volumes, copy, vcpu, memoryMiB } = clone;
  const home = fleet.need('host', origin.hostId);
  const networks = fleet
    .referring('adapter', 'guestId', origin.id)
    .flatMap((adapter) => adapter.networkId ?? []);
  return [...fleet.all('host')]
    .filter(
      (host) =>
        offersRoom(host) &&
        processorFit(origin, home, host, 'stopped').every(
          (point) => point.fits !== false || point.caution,
        ) &&
        networks.every((id) => carriesNetwork(fleet, host.id, id)) &&
        (copy !== 'dependent' || volumes.every((volume) => reaches(fleet, host.id, volume.poolId))),
    )
    .map((host) => {
      const room = headroom(fleet, host.id);
      const demand = memoryDemand(fleet, host.id, vcpu, memoryMiB);
      const own = taken.filter((id) => id === host.id).length;
      return {
        host,
        memoryLeft: room.memory.value - own * demand,
        vcpuLeft: room.vcpu.value - own * vcpu,
        demand,
        taken: own,
        alike: clone.apart ? own + alikeOn(fleet, host.id, origin.profileId) : 0,
        domain: clone.group ? domainOfHost(clone.group, host) : null,
      };
    });
}

const alikeOn = (fleet: Fleet, hostId: string, profileId: string | null): number =>
  fleet
    .referring('guest', 'hostId', hostId)
    .filter(
      (guest) => guest.profileId === profileId && guest.state !== 'retired' && !guest.template,
    ).length;

/** What must not fail with two members at once. */
function domainOfHost({ spread }: Row<'guestGroup'>, host: Row<'host'>): string | null {
  if (spread === 'host') return host.id;
  if (spread === 'rack') return host.rackId;
  return spread === 'site' ? host.siteId : null;
}

/** Members that the group has already, by what it is spread over. */
function membersBy(fleet: Fleet, { group }: CloneDemand): Map<string, number> {
  const found = new Map<string, number>();
  if (!group) return found;
  for (const guest of fleet.referring('guest', 'groupId', group.id)) {
    if (guest.state === 'retired' || guest.template) continue;
    const domain = domainOfHost(group, fleet.need('host', guest.hostId));
    if (domain) found.set(domain, (found.get(domain) ?? 0) + 1);
  }
  return found;
}

function inOrder(
  candidates: readonly Candidate[],
  origin: Row<'guest'>,
  how: Exclude<SpreadRule, 'beside'>,
  members: ReadonlyMap<string, number>,
): Candidate[] {
  const byName = (a: Candidate, b: Candidate) =>
    a.host.name.localeCompare(b.host.name, undefined, { numeric: true });
  const byRoom = (a: Candidate, b: Candidate) => b.memoryLeft - a.memoryLeft || byName(a, b);
  const first = ({ host }: Candidate) => Number(host.id === origin.hostId);
  const held = ({ domain }: Candidate) => (domain ? (members.get(domain) ?? 0) : 0);
  const rule =
    how === 'room'
      ? byRoom
      : how === 'fill'
        ? (a: Candidate, b: Candidate) => first(b) - first(a) || byName(a, b)
        : (a: Candidate, b: Candidate) => a.taken - b.taken || byRoom(a, b);
  return [...candidates].sort((a, b) => held(a) - held(b) || rule(a, b));
}

/** Null: where the origin's volumes lie; undefined: no pool of the host has the room. */
export function poolFor(
  fleet: Fleet,
  host: Row<'host'>,
  { copy, volumes, bytes, thin }: CloneDemand,
  promised: ReadonlyMap<string, number>,
): string | null | undefined {
  if (copy === 'dependent') return null;
  const room = (poolId: string) => {
    const { left, free } = poolFigures(fleet, poolId);
    return (thin ? left.value : Math.min(left.value, free.value)) - (promised.get(poolId) ?? 0);
  };
  const own = [...new Set(volumes.map((volume) => volume.poolId))];
  const same = own.every((id) => reaches(fleet, host.id, id));
  const [only] = own;
  if (same && (own.length !== 1 || room(only!) >= bytes)) return null;
  const best = rankPools(fleet, host.id, bytes, thin ? 'thin' : 'thick')
    .filter((pool) => pool.fits && room(pool.poolId) >= bytes)
    .sort((a, b) => Number(b.outlives) - Number(a.outlives) || room(b.poolId) - room(a.poolId))[0];
  return best?.poolId;
}
