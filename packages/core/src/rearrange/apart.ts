/** Limits of a rearrangement that keep guests apart: members of a group, guests of a role. */
import type { Limit } from '../packing/index.js';
import { zoneKey, type Zones } from '../placement/index.js';
import type { Fleet, Row } from '../record/index.js';

/** Members of a group as far apart as there are places, or as they are now where that is worse. */
export function spreads(
  fleet: Fleet,
  guests: readonly Row<'guest'>[],
  zones: Zones,
  open: readonly Row<'host'>[],
  outsideId: string | undefined,
): Limit[] {
  const groupIds = new Set(guests.flatMap(({ groupId }) => groupId ?? []));
  return [...groupIds].sort().flatMap((id) => {
    const { spread } = fleet.need('guestGroup', id);
    if (spread === 'none') return [];
    const members = fleet
      .referring('guest', 'groupId', id)
      .filter(({ state, template }) => state !== 'retired' && !template);
    const places = new Set(open.map((host) => zoneKey(fleet, host.id, spread))).size;
    return apartAsNow(
      fleet,
      members,
      spread,
      zones,
      outsideId,
      Math.ceil(members.length / Math.max(1, places)),
    );
  });
}

/** Guests of a role that stays apart. */
export function likes(
  fleet: Fleet,
  guests: readonly Row<'guest'>[],
  zones: Zones,
  outsideId: string | undefined,
): Limit[] {
  const profileIds = new Set(guests.flatMap(({ profileId }) => profileId ?? []));
  return [...profileIds].sort().flatMap((id) => {
    if (!fleet.need('profile', id).apart) return [];
    const members = fleet
      .referring('guest', 'profileId', id)
      .filter(({ state, template }) => state !== 'retired' && !template);
    return apartAsNow(fleet, members, 'host', zones, outsideId);
  });
}

function apartAsNow(
  fleet: Fleet,
  members: readonly Row<'guest'>[],
  scope: 'host' | 'rack' | 'site',
  zones: Zones,
  outsideId: string | undefined,
  atLeast = 1,
): Limit[] {
  const counts = new Map<string, number>();
  for (const { hostId } of members) {
    if (hostId === outsideId) continue;
    const key = zoneKey(fleet, hostId, scope);
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  const limit = zones.limit(members, scope, Math.max(atLeast, ...counts.values()));
  return limit ? [limit] : [];
}
