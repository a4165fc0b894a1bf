/** What can fail as one: a host, a rack, a site; and what goes down with it. */
import type { Fleet, Row } from '../record/index.js';

export interface FailureDomain {
  kind: 'host' | 'rack' | 'site';
  id: string;
  name: string;
  hostIds: string[];
}

const alive = (host: Row<'host'>): boolean =>
  host.state === 'in service' || host.state === 'maintenance';

/** Every host that carries something, then racks and sites with more than one of them. A nested host falls with its outer one. */
export function failureDomains(fleet: Fleet): FailureDomain[] {
  const hosts = [...fleet.all('host')].filter(alive);
  const several = (kind: 'rack' | 'site', field: 'rackId' | 'siteId'): FailureDomain[] =>
    [...fleet.all(kind)]
      .map((place) => ({
        kind,
        id: place.id,
        name: place.name,
        hostIds: hosts.filter((host) => host[field] === place.id).map((host) => host.id),
      }))
      .filter(({ hostIds }) => hostIds.length > 1);
  return [
    ...hosts.map((host): FailureDomain => ({
      kind: 'host',
      id: host.id,
      name: host.name,
      hostIds: [host.id],
    })),
    ...several('rack', 'rackId'),
    ...several('site', 'siteId'),
  ];
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
  const pool = fleet.need('pool', poolId);
  const reached = fleet
    .referring('poolReach', 'poolId', poolId)
    .some((reach) => !fallen.has(reach.hostId));
  if (!reached) return false;
  const home = homeOf(fleet, pool);
  return home === null || !fallen.has(home) || pool.copies > 1;
}

/** Running guests that lose their host, or a pool that one of their volumes lies on. */
export function affectedGuests(fleet: Fleet, fallen: ReadonlySet<string>): Row<'guest'>[] {
  const found = new Map<string, Row<'guest'>>();
  const add = (guest: Row<'guest'>) => {
    if (guest.state === 'in service' && !guest.template) found.set(guest.id, guest);
  };
  for (const hostId of fallen) {
    for (const guest of fleet.referring('guest', 'hostId', hostId)) add(guest);
    for (const { poolId } of fleet.referring('poolReach', 'hostId', hostId)) {
      if (poolSurvives(fleet, poolId, fallen)) continue;
      for (const volume of fleet.referring('volume', 'poolId', poolId))
        add(fleet.need('guest', volume.guestId));
    }
  }
  return [...found.values()];
}
