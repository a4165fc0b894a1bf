/** Together, apart, pinned: whether a guest may be put on a host, given where the others are or will be. */
import type { Fleet, Row } from '../record/index.js';

/** Hosts that rules pin a guest to; null: none does. */
export function pinnedTo(fleet: Fleet, guestId: string): Set<string> | null {
  let hosts: Set<string> | null = null;
  for (const { ruleId } of fleet.referring('placementMember', 'guestId', guestId)) {
    const { rule, hostId } = fleet.pick('placementRule', ruleId, 'rule', 'hostId');
    if (rule !== 'pinned') continue;
    const only = hostId === null ? [] : [hostId];
    hosts = new Set(hosts === null ? only : only.filter((id) => hosts!.has(id)));
  }
  return hosts;
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
