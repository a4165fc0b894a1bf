import type { Fleet } from '../record/index.js';
import type { Finding } from './finding.js';
import { withAcceptances } from './accepted.js';
import { asksHeavy, bySeverity, findingsAt, rulesAt } from './registry.js';

/** Records with a sheet that findings stand on. */
export type SheetKind = 'host' | 'guest' | 'network' | 'migration' | 'device' | 'physicalSwitch';

/** How findings of one record are looked up while a sheet or a line is gathered. */
type Look = (kind: Parameters<typeof findingsAt>[1], id: string) => Finding[];

/**
 * Gravest severity and number of findings at a record that nobody accepted, for its line in a list. What the rules say of
 * a subnet is remembered until the subnet is touched: a list of a hundred guests looks at each subnet once.
 */
export function markOn(
  fleet: Fleet,
  kind: SheetKind,
  id: string,
  now: string,
): { severity: Finding['severity']; count: number } | null {
  const light: Look = (at, found) => rulesAt(fleet, at, found, now, false);
  const look: Look = (at, found) =>
    at === 'subnet'
      ? fleet.memo(found, 'light findings', () => light(at, found), now)
      : light(at, found);
  const found = withAcceptances(fleet, gather(fleet, kind, id, look), now).filter(
    (finding) => !finding.accepted,
  );
  return found[0] ? { severity: found[0].severity, count: found.length } : null;
}

/** Findings a person wants to see on the sheet of a record: its own, and those of its parts that stand at it. */
export function findingsOn(fleet: Fleet, kind: SheetKind, id: string, now: string): Finding[] {
  const heavy = asksHeavy(fleet);
  return gather(fleet, kind, id, (at, found) => findingsAt(fleet, at, found, now, heavy));
}

function gather(fleet: Fleet, kind: SheetKind, id: string, look: Look): Finding[] {
  const mine = [...look(kind, id)];
  const held = (addresses: { id: string; subnetId: string | null }[]) => [
    ...addresses.flatMap((address) => look('address', address.id)),
    ...[...subnetsOf(addresses)]
      .flatMap((subnetId) => look('subnet', subnetId))
      .filter((finding) => finding.about.id === id),
  ];
  switch (kind) {
    case 'host':
      for (const reach of fleet.referring('poolReach', 'hostId', id))
        mine.push(...look('pool', reach.poolId));
      mine.push(...held(fleet.referring('address', 'hostId', id)));
      break;
    case 'guest':
      for (const copy of fleet.referring('backup', 'guestId', id))
        mine.push(...look('backup', copy.id));
      for (const adapter of fleet.referring('adapter', 'guestId', id))
        mine.push(
          ...look('adapter', adapter.id),
          ...held(fleet.referring('address', 'adapterId', adapter.id)),
        );
      break;
    case 'network':
      mine.push(
        ...fleet
          .referring('subnet', 'networkId', id)
          .flatMap((subnet) => look('subnet', subnet.id)),
      );
      break;
    case 'device':
      for (const port of fleet.referring('devicePort', 'deviceId', id))
        mine.push(...held(fleet.referring('address', 'devicePortId', port.id)));
      break;
    case 'physicalSwitch':
      for (const port of fleet.referring('switchPort', 'physicalSwitchId', id))
        for (const line of fleet.referring('switchLine', 'aPortId', port.id))
          mine.push(...look('switchLine', line.id));
      break;
    case 'migration':
      break;
  }
  return mine.sort(bySeverity);
}

const subnetsOf = (addresses: { subnetId: string | null }[]): Set<string> =>
  new Set(addresses.flatMap((address) => (address.subnetId ? [address.subnetId] : [])));
