/** What can fail as one: a host, a rack, a site, a switch, a power feed, several hosts; and what goes down with it. */
import { reachedBy } from '../host/reached-by.js';
import { outageOf } from '../host/power.js';
import type { Fleet, Row } from '../record/index.js';

export interface FailureDomain {
  kind: 'host' | 'rack' | 'site' | 'switch' | 'feed' | 'hosts';
  id: string;
  name: string;
  hostIds: string[];
  /** Networks that hosts no longer carry although they stand, as `host network`. */
  cut?: ReadonlySet<string>;
}

const alive = (host: Row<'host'>): boolean =>
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

const hostDomain = ({ id, name }: Row<'host'>): FailureDomain => ({
  kind: 'host',
  id,
  name,
  hostIds: [id],
});

/** Ids of hosts that fail together, in the id of what fails. */
const AND = '+';

/** @param id of several hosts: their ids with a plus between them. @returns null where nothing of that kind can fail there */
export function failureDomain(fleet: Fleet, kind: string, id: string): FailureDomain | null {
  if (kind === 'host' || kind === 'hosts') {
    const hosts = id.split(AND).map((one) => fleet.get('host', one));
    if (!hosts.every((host) => host !== undefined && alive(host))) return null;
    return kind === 'host' ? hostDomain(hosts[0]!) : togetherDomain(hosts as Row<'host'>[]);
  }
  if (kind === 'switch') {
    const found = fleet.get('physicalSwitch', id);
    return found ? switchDomain(fleet, found) : null;
  }
  if (kind === 'feed') {
    const found = fleet.get('powerFeed', id);
    const hostIds = found ? outageOf(fleet, id).hostIds : [];
    return found && hostIds.length > 0 ? { kind, id, name: found.name, hostIds } : null;
  }
  if (kind !== 'rack' && kind !== 'site') return null;
  const place = fleet.get(kind, id);
  const hosts = fleet.referring('host', kind === 'rack' ? 'rackId' : 'siteId', id).filter(alive);
  return place && hosts.length > 1
    ? { kind, id, name: place.name, hostIds: hosts.map((host) => host.id) }
    : null;
}

export const togetherDomain = (hosts: readonly Row<'host'>[]): FailureDomain => ({
  kind: 'hosts',
  id: hosts.map(({ id }) => id).join(AND),
  name: hosts.map(({ name }) => name).join(' and '),
  hostIds: hosts.map(({ id }) => id),
});

/** A host all of whose cables go there is cut off, as if it had failed; of others some networks may be. */
function switchDomain(fleet: Fleet, found: Row<'physicalSwitch'>): FailureDomain | null {
  const goesThere = (port: Row<'port'>): boolean =>
    fleet.get('switchPort', port.switchPortId)?.physicalSwitchId === found.id;
  const hostIds = new Set(
    fleet
      .referring('switchPort', 'physicalSwitchId', found.id)
      .flatMap(({ id }) => fleet.referring('port', 'switchPortId', id).map(({ hostId }) => hostId)),
  );
  const cutOff: string[] = [];
  const cut = new Set<string>();
  for (const hostId of hostIds) {
    if (!alive(fleet.need('host', hostId))) continue;
    const cabled = fleet
      .referring('port', 'hostId', hostId)
      .filter((port) => port.up && port.wired && port.switchPortId !== null);
    if (cabled.length > 0 && cabled.every(goesThere)) cutOff.push(hostId);
    else
      for (const one of fleet.referring('virtualSwitch', 'hostId', hostId)) {
        const uplinks = fleet
          .referring('uplink', 'switchId', one.id)
          .map(({ portId }) => fleet.need('port', portId));
        if (one.networkId && uplinks.length > 0 && uplinks.every(goesThere))
          cut.add(`${hostId} ${one.networkId}`);
      }
  }
  return cutOff.length + cut.size === 0
    ? null
    : { kind: 'switch', id: found.id, name: found.name, hostIds: cutOff, cut };
}

/** Hosts that are gone: the failed ones, and hosts nested in guests that ran on them. */
export function fallenHosts(fleet: Fleet, hostIds: Iterable<string>): Set<string> {
  const fallen = new Set(hostIds);
  // A set is gone through in the order of adding, what is added meanwhile included.
  for (const hostId of fallen)
    for (const guest of fleet.referring('guest', 'hostId', hostId))
      for (const nested of fleet.referring('host', 'outerGuestId', guest.id)) fallen.add(nested.id);
  return fallen;
}

/** The host whose disks a pool lies on, if it lies on one: a single host that reaches it counts as that. */
export function homeOf(fleet: Fleet, pool: Row<'pool'>): string | null {
  const hostId = fleet.get('array', pool.arrayId)?.hostId ?? fleet.get('disk', pool.diskId)?.hostId;
  if (hostId) return hostId;
  if (pool.remote) return null;
  const reaches = fleet.referring('poolReach', 'poolId', pool.id);
  return reaches.length === 1 ? reaches[0]!.hostId : null;
}

/** Whether a pool can still be reached when these hosts are gone. */
export function poolSurvives(fleet: Fleet, poolId: string, fallen: ReadonlySet<string>): boolean {
  const home = fleet.memo(poolId, 'dies with', () => {
    const pool = fleet.need('pool', poolId);
    return pool.copies > 1 ? null : homeOf(fleet, pool);
  });
  if (home !== null && fallen.has(home)) return false;
  for (const hostId of reachedBy(fleet, poolId)) if (!fallen.has(hostId)) return true;
  return false;
}

/** Running guests that lose their host, a pool that one of their volumes lies on, or a network they are joined to. */
export function affectedGuests(
  fleet: Fleet,
  fallen: ReadonlySet<string>,
  cut: ReadonlySet<string> = new Set(),
): Row<'guest'>[] {
  const found = new Map<string, Row<'guest'>>();
  const add = (guest: Row<'guest'>) => {
    if (guest.state === 'in service' && !guest.template) found.set(guest.id, guest);
  };
  const pools = new Set<string>();
  for (const hostId of fallen) {
    for (const guest of fleet.referring('guest', 'hostId', hostId)) add(guest);
    for (const { poolId } of fleet.referring('poolReach', 'hostId', hostId)) pools.add(poolId);
  }
  for (const poolId of pools) {
    if (poolSurvives(fleet, poolId, fallen)) continue;
    for (const volume of fleet.referring('volume', 'poolId', poolId))
      add(fleet.need('guest', volume.guestId));
  }
  for (const hostId of new Set([...cut].map((one) => one.split(' ')[0]!)))
    for (const guest of fleet.referring('guest', 'hostId', hostId))
      if (joinedTo(fleet, guest).some((networkId) => cut.has(`${hostId} ${networkId}`))) add(guest);
  return [...found.values()];
}

/** Networks that a guest is joined to, in the order of their ids. */
export const joinedTo = (fleet: Fleet, guest: Row<'guest'>): string[] =>
  [
    ...new Set(
      fleet.referring('adapter', 'guestId', guest.id).flatMap((adapter) => adapter.networkId ?? []),
    ),
  ].sort();
