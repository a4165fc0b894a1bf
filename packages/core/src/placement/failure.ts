/** What can fail as one: a host, a rack, a site, a switch, a power feed, several hosts; and what goes down with it. */
import { reachedBy, outageOf } from '../host/index.js';
import type { Fleet, Row } from '../record/index.js';

export interface FailureDomain {
  kind: 'host' | 'rack' | 'site' | 'switch' | 'feed' | 'hosts';
  id: string;
  name: string;
  hostIds: string[];
  /** Networks that hosts no longer carry although they stand, as `host network`. */
  cut?: ReadonlySet<string>;
}

const alive = (host: Pick<Row<'host'>, 'state'>): boolean =>
  host.state === 'in service' || host.state === 'maintenance';

/** Kinds of record that can fail as one, and what they are called where they fail, in the order in which they are asked. */
const FAILING = {
  host: 'host',
  rack: 'rack',
  site: 'site',
  physicalSwitch: 'switch',
  powerFeed: 'feed',
} as const;

/**
 * Every host that carries something, then racks and sites with more than one of them, then switches that hosts are cabled
 * to, then feeds that a host has no power without. A nested host falls with its outer one.
 */
export function failureDomains(fleet: Fleet): FailureDomain[] {
  return (Object.keys(FAILING) as (keyof typeof FAILING)[]).flatMap((kind) =>
    [...fleet.all(kind)].flatMap(({ id }) => failureDomain(fleet, FAILING[kind], id) ?? []),
  );
}

/** Those of these hosts that carry something. */
export const hostDomains = (fleet: Fleet, hostIds: Iterable<string>): FailureDomain[] =>
  [...hostIds].flatMap((id) => failureDomain(fleet, 'host', id) ?? []);

/** Ids of hosts that fail together, in the id of what fails. */
const AND = '+';

/** What is asked of a host that may fail. */
const NAMED = ['id', 'name', 'state'] as const;

/** @param id of several hosts: their ids with a plus between them. @returns null where nothing of that kind can fail there */
export function failureDomain(fleet: Fleet, kind: string, id: string): FailureDomain | null {
  if (kind === 'host' || kind === 'hosts') {
    const ids = id.split(AND);
    if (!ids.every((one) => fleet.has('host', one))) return null;
    const hosts = ids.map((one) => fleet.pick('host', one, ...NAMED));
    if (!hosts.every(alive)) return null;
    return kind === 'host'
      ? { kind, id, name: hosts[0]!.name, hostIds: [id] }
      : togetherDomain(hosts);
  }
  if (kind === 'switch') {
    return fleet.has('physicalSwitch', id) ? switchDomain(fleet, id) : null;
  }
  if (kind === 'feed') {
    const hostIds = fleet.has('powerFeed', id) ? outageOf(fleet, id).hostIds : [];
    if (hostIds.length === 0) return null;
    return { kind, id, name: fleet.pick('powerFeed', id, 'name').name, hostIds };
  }
  if (kind !== 'rack' && kind !== 'site') return null;
  if (!fleet.has(kind, id)) return null;
  const hostIds = fleet
    .idsReferring('host', kind === 'rack' ? 'rackId' : 'siteId', id)
    .filter((hostId) => alive(fleet.pick('host', hostId, 'state')));
  if (hostIds.length < 2) return null;
  return { kind, id, name: fleet.pick(kind, id, 'name').name, hostIds };
}

export const togetherDomain = (
  hosts: readonly Pick<Row<'host'>, 'id' | 'name'>[],
): FailureDomain => ({
  kind: 'hosts',
  id: hosts.map(({ id }) => id).join(AND),
  name: hosts.map(({ name }) => name).join(' and '),
  hostIds: hosts.map(({ id }) => id),
});

/** A host all of whose cables go there is cut off, as if it had failed; of others some networks may be. */
function switchDomain(fleet: Fleet, id: string): FailureDomain | null {
  const switchOf = (switchPortId: string | null) =>
    switchPortId && fleet.pick('switchPort', switchPortId, 'physicalSwitchId').physicalSwitchId;
  const goesThere = (port: Pick<Row<'port'>, 'switchPortId'>): boolean =>
    switchOf(port.switchPortId) === id;
  const hostIds = new Set(
    fleet
      .idsReferring('switchPort', 'physicalSwitchId', id)
      .flatMap((portId) =>
        fleet.referring('port', 'switchPortId', portId).map(({ hostId }) => hostId),
      ),
  );
  const cutOff: string[] = [];
  const cut = new Set<string>();
  for (const hostId of hostIds) {
    if (!alive(fleet.pick('host', hostId, 'state'))) continue;
    const cabled = fleet
      .partsOnly('port', 'hostId', hostId)
      .filter((port) => port.up && port.wired && port.switchPortId !== null);
    if (cabled.length > 0 && cabled.every(goesThere)) cutOff.push(hostId);
    else
      for (const one of fleet.partsOnly('virtualSwitch', 'hostId', hostId)) {
        const uplinks = fleet
          .partsOnly('uplink', 'switchId', one.id)
          .map(({ portId }) => fleet.pick('port', portId, 'switchPortId'));
        if (one.networkId && uplinks.length > 0 && uplinks.every(goesThere))
          cut.add(cutKey(hostId, one.networkId));
      }
  }
  return cutOff.length + cut.size === 0
    ? null
    : {
        kind: 'switch',
        id,
        name: fleet.pick('physicalSwitch', id, 'name').name,
        hostIds: cutOff,
        cut,
      };
}

/** How a network that a host no longer carries is told. */
export const cutKey = (hostId: string, networkId: string): string => `${hostId} ${networkId}`;

/** Hosts that are gone: the failed ones, and hosts nested in guests that ran on them. */
function fallenHosts(fleet: Fleet, hostIds: Iterable<string>): Set<string> {
  const fallen = new Set(hostIds);
  const inside = nestedOn(fleet);
  // A set is gone through in the order of adding, what is added meanwhile included.
  if (inside.size > 0)
    for (const hostId of fallen) for (const nested of inside.get(hostId) ?? []) fallen.add(nested);
  return fallen;
}

/** Hosts that run in guests, by the host that these are on. */
const nestedOn = (fleet: Fleet): ReadonlyMap<string, readonly string[]> =>
  fleet.memo('', 'hosts in guests', () => {
    const inside = new Map<string, string[]>();
    for (const id of fleet.nested()) {
      const { outerGuestId } = fleet.pick('host', id, 'outerGuestId');
      const { hostId } = fleet.pick('guest', outerGuestId!, 'hostId');
      inside.set(hostId, [...(inside.get(hostId) ?? []), id]);
    }
    return inside;
  });

/** The host whose disks a pool lies on, if it lies on one: a single host that reaches it counts as that. */
export function homeOf(
  fleet: Fleet,
  pool: Pick<Row<'pool'>, (typeof LIES)[number]>,
): string | null {
  const { arrayId, diskId } = pool;
  const hostId =
    (arrayId && fleet.pick('array', arrayId, 'hostId').hostId) ??
    (diskId && fleet.pick('disk', diskId, 'hostId').hostId);
  if (hostId) return hostId;
  if (pool.remote) return null;
  const reached = reachedBy(fleet, pool.id);
  return reached.size === 1 ? [...reached][0]! : null;
}

/** What says where a pool lies. */
const LIES = ['id', 'arrayId', 'diskId', 'remote'] as const;

/** Whether a pool can still be reached when these hosts are gone. */
export function poolSurvives(fleet: Fleet, poolId: string, fallen: ReadonlySet<string>): boolean {
  const home = fleet.memo(poolId, 'dies with', () => {
    const pool = fleet.pick('pool', poolId, 'copies', ...LIES);
    return pool.copies > 1 ? null : homeOf(fleet, pool);
  });
  if (home !== null && fallen.has(home)) return false;
  for (const hostId of reachedBy(fleet, poolId)) if (!fallen.has(hostId)) return true;
  return false;
}

/** What a failure takes away: hosts, networks that hosts carried (`cutKey`), pools that nobody reaches any more. */
export interface Taken {
  fallen: ReadonlySet<string>;
  cut: ReadonlySet<string>;
  pools: ReadonlySet<string>;
}

export function takenBy(fleet: Fleet, { hostIds, cut = new Set() }: FailureDomain): Taken {
  const fallen = fallenHosts(fleet, hostIds);
  const pools = new Set<string>();
  for (const hostId of fallen)
    for (const { poolId } of fleet.referring('poolReach', 'hostId', hostId))
      if (!pools.has(poolId) && !poolSurvives(fleet, poolId, fallen)) pools.add(poolId);
  return { fallen, cut, pools };
}

/** Hosts with guests that a failure may concern. */
export function hostsConcerned(fleet: Fleet, { fallen, cut, pools }: Taken): Set<string> {
  const concerned = new Set(fallen);
  for (const one of cut) concerned.add(one.split(' ')[0]!);
  for (const poolId of pools) for (const hostId of servedBy(fleet, poolId)) concerned.add(hostId);
  return concerned;
}

/** Hosts of the guests that have volumes in a pool. */
const servedBy = (fleet: Fleet, poolId: string): ReadonlySet<string> =>
  fleet.memo(
    poolId,
    'hosts of its guests',
    () =>
      new Set(
        fleet
          .referring('volume', 'poolId', poolId)
          .map(({ guestId }) => fleet.pick('guest', guestId, 'hostId').hostId),
      ),
  );

/** Running guests of a host that lose it, a pool that one of their volumes lies on, or a network they are joined to. */
export function affectedGuests(fleet: Fleet, taken: Taken, hostId: string): Row<'guest'>[] {
  const { fallen, cut, pools } = taken;
  const loses = ({ id }: Row<'guest'>): boolean =>
    fallen.has(hostId) ||
    (pools.size > 0 &&
      fleet.referring('volume', 'guestId', id).some(({ poolId }) => pools.has(poolId))) ||
    (cut.size > 0 && joinedTo(fleet, id).some((networkId) => cut.has(cutKey(hostId, networkId))));
  return fleet
    .referring('guest', 'hostId', hostId)
    .filter((guest) => guest.state === 'in service' && !guest.template && loses(guest));
}

/** Networks that a guest is joined to, in the order of their ids. */
export const joinedTo = (fleet: Fleet, guestId: string): string[] =>
  [
    ...new Set(
      fleet.referring('adapter', 'guestId', guestId).flatMap((adapter) => adapter.networkId ?? []),
    ),
  ].sort();
