import type { Fleet } from '../record/index.js';
import type { Finding } from './finding.js';
import { bySeverity, findingsAt } from './registry.js';

/**
 * Gravest severity and number of findings at a record, for its line in a list. What the rules say of a subnet is
 * remembered until the subnet is touched: a list of a hundred guests looks at each subnet once.
 */
export function markOn(fleet: Fleet, kind: 'host' | 'guest' | 'network' | 'migration', id: string, now: string): { severity: Finding['severity']; count: number } | null {
  const found = gather(fleet, kind, id, now, (subnetId) => fleet.memo(subnetId, `findings ${now.slice(0, 10)}`, () => findingsAt(fleet, 'subnet', subnetId, now)));
  return found[0] ? { severity: found[0].severity, count: found.length } : null;
}

/** Findings a person wants to see on the sheet of a record: its own, and those of its parts that stand at it. */
export function findingsOn(fleet: Fleet, kind: 'host' | 'guest' | 'network' | 'migration', id: string, now: string): Finding[] {
  return gather(fleet, kind, id, now, (subnetId) => findingsAt(fleet, 'subnet', subnetId, now));
}

function gather(fleet: Fleet, kind: 'host' | 'guest' | 'network' | 'migration', id: string, now: string, ofSubnet: (subnetId: string) => Finding[]): Finding[] {
  const mine = findingsAt(fleet, kind, id, now);
  const held = (addresses: { subnetId: string | null }[]) => [...subnetsOf(addresses)].flatMap(ofSubnet).filter((finding) => finding.about.id === id);
  switch (kind) {
    case 'host':
      for (const reach of fleet.referring('poolReach', 'hostId', id)) mine.push(...findingsAt(fleet, 'pool', reach.poolId, now));
      mine.push(...held(fleet.referring('address', 'hostId', id)));
      break;
    case 'guest':
      for (const copy of fleet.referring('backup', 'guestId', id)) mine.push(...findingsAt(fleet, 'backup', copy.id, now));
      mine.push(...held(fleet.referring('adapter', 'guestId', id).flatMap((adapter) => fleet.referring('address', 'adapterId', adapter.id))));
      break;
    case 'network':
      mine.push(...fleet.referring('subnet', 'networkId', id).flatMap((subnet) => ofSubnet(subnet.id)));
      break;
    case 'migration':
      break;
  }
  return mine.sort(bySeverity);
}

const subnetsOf = (addresses: { subnetId: string | null }[]): Set<string> =>
  new Set(addresses.flatMap((address) => (address.subnetId ? [address.subnetId] : [])));
