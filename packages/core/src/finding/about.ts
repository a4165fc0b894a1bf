import type { Fleet, Kind } from '../record/index.js';
import type { Finding } from './finding.js';
import { bySeverity, findingsAt } from './registry.js';

/** Findings a person wants to see on the sheet of a record: its own, and those of its parts that stand at it. */
export function findingsOn(fleet: Fleet, kind: 'host' | 'guest' | 'network' | 'migration', id: string, now: string): Finding[] {
  const at = (of: Kind, ids: Iterable<string>) => [...ids].flatMap((found) => findingsAt(fleet, of, found, now));
  const mine = at(kind, [id]);
  switch (kind) {
    case 'host':
      mine.push(...at('pool', fleet.referring('poolReach', 'hostId', id).map((reach) => reach.poolId)));
      mine.push(...at('subnet', subnetsOf(fleet.referring('address', 'hostId', id))).filter((finding) => finding.about.id === id));
      break;
    case 'guest': {
      const addresses = fleet.referring('adapter', 'guestId', id).flatMap((adapter) => fleet.referring('address', 'adapterId', adapter.id));
      mine.push(...at('subnet', subnetsOf(addresses)).filter((finding) => finding.about.id === id));
      break;
    }
    case 'network':
      mine.push(...at('subnet', fleet.referring('subnet', 'networkId', id).map((subnet) => subnet.id)));
      break;
    case 'migration':
      break;
  }
  return mine.sort(bySeverity);
}

const subnetsOf = (addresses: { subnetId: string | null }[]): Set<string> =>
  new Set(addresses.flatMap((address) => (address.subnetId ? [address.subnetId] : [])));
