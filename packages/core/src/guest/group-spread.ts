/** How the members of a group are spread over what can fail, and who is left at worst. */
import type { Fleet, Row } from '../record/index.js';

export interface Spread {
  members: number;
  /** Members on each domain that has one, the fullest first. */
  domains: { id: string; name: string; members: string[] }[];
  /** Members left when the fullest domain is gone. */
  left: number;
  needed: number;
  enough: boolean;
  /** The fewest that the fullest of so many domains can hold. */
  best: number;
  /** Domains that members could be on. */
  available: number;
}

/** @example mostOnOne(5, 3) // 2 */
export const mostOnOne = (replicas: number, domains: number): number =>
  Math.ceil(replicas / domains);

/** Null where the group is not to be spread, or has fewer than two members that count. */
export function groupSpread(fleet: Fleet, group: Row<'guestGroup'>): Spread | null {
  if (group.spread === 'none') return null;
  const members = fleet
    .referring('guest', 'groupId', group.id)
    .filter((guest) => !guest.template && guest.state !== 'retired');
  if (members.length < 2) return null;
  const domains = new Map<string, Spread['domains'][number]>();
  for (const guest of members) {
    const place = domainOf(fleet, guest.hostId, group.spread);
    const domain = domains.get(place.id) ?? { ...place, members: [] };
    domain.members.push(guest.name);
    domains.set(place.id, domain);
  }
  const sorted = [...domains.values()].sort(
    (a, b) => b.members.length - a.members.length || a.name.localeCompare(b.name),
  );
  const left = members.length - sorted[0]!.members.length;
  const needed = Math.max(1, group.needed);
  const available = Math.max(
    domains.size,
    availableDomains(fleet, group.spread, new Set(members.map((guest) => guest.hostId))),
  );
  return {
    members: members.length,
    domains: sorted,
    left,
    needed,
    enough: left >= needed,
    best: mostOnOne(members.length, available),
    available,
  };
}

type Scope = Exclude<Row<'guestGroup'>['spread'], 'none'>;

/** A host without a rack or site is a domain of its own. */
function domainOf(fleet: Fleet, hostId: string, scope: Scope): { id: string; name: string } {
  const host = fleet.need('host', hostId);
  const place =
    scope === 'host'
      ? host
      : (fleet.get(scope, scope === 'rack' ? host.rackId : host.siteId) ?? host);
  return { id: place.id, name: place.name };
}

/** Domains of hosts in service that back the hosts of the members. */
function availableDomains(fleet: Fleet, scope: Scope, hostIds: ReadonlySet<string>): number {
  const groups = new Set([...hostIds].map((id) => fleet.need('host', id).groupId));
  const hosts = [...fleet.all('host')].filter(
    (host) => host.state === 'in service' && (scope === 'site' || groups.has(host.groupId)),
  );
  return new Set(hosts.map((host) => domainOf(fleet, host.id, scope).id)).size;
}
