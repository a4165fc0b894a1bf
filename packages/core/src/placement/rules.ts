/** Together, apart, pinned: whether a guest may be put on a host, given where the others are or will be. */
import type { Fleet, Row } from '../record/index.js';

/** @param moved where guests of a plan will be; the others are where the record says */
export function ruleAgainst(
  fleet: Fleet,
  guestId: string,
  hostId: string,
  moved: ReadonlyMap<string, string>,
): Row<'placementRule'> | null {
  for (const member of fleet.referring('placementMember', 'guestId', guestId)) {
    const rule = fleet.need('placementRule', member.ruleId);
    if (rule.rule === 'pinned') {
      if (rule.hostId !== hostId) return rule;
      continue;
    }
    if (moved.size === 0) continue;
    for (const other of fleet.referring('placementMember', 'ruleId', rule.id)) {
      if (other.guestId === guestId) continue;
      const place = moved.get(other.guestId);
      if (place === undefined) continue;
      const same = sameScope(fleet, rule.scope, hostId, place);
      if (rule.rule === 'apart' ? same : !same) return rule;
    }
  }
  return null;
}

/** Where the guests of every rule that a set of guests belongs to are, apart from the set itself. */
export function settledNeighbours(fleet: Fleet, moving: ReadonlySet<string>): Map<string, string> {
  const places = new Map<string, string>();
  for (const guestId of moving) {
    for (const { ruleId } of fleet.referring('placementMember', 'guestId', guestId)) {
      for (const other of fleet.referring('placementMember', 'ruleId', ruleId)) {
        const guest = fleet.need('guest', other.guestId);
        if (!moving.has(guest.id) && guest.state !== 'retired') places.set(guest.id, guest.hostId);
      }
    }
  }
  return places;
}

export function sameScope(
  fleet: Fleet,
  scope: Row<'placementRule'>['scope'],
  one: string,
  other: string,
): boolean {
  if (one === other) return true;
  if (scope === 'host') return false;
  const field = scope === 'rack' ? 'rackId' : 'siteId';
  const [a, b] = [fleet.need('host', one)[field], fleet.need('host', other)[field]];
  return a !== null && a === b;
}
