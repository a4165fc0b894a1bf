/** Every rule, by the kind of record it looks at. A new rule is one file and one line here. */
import type { Fleet, Kind, Row } from '../record/index.js';
import { withAcceptances } from './accepted.js';
import { addressOnWrongNetwork } from './address-on-wrong-network.js';
import { addressPrefixDiffers } from './address-prefix-differs.js';
import { deviceTwice } from './device-twice.js';
import { gatewayNobody } from './gateway-nobody.js';
import { natGateway } from './nat-gateway.js';
import { listUnread } from './list-unread.js';
import { deviceGateway, guestGateway } from './machine-gateway.js';
import { consoleReachable, managementShared } from './management-shared.js';
import { mtuDiffers } from './mtu-differs.js';
import { deviceNames, guestNames, hostNames } from './name-faults.js';
import { nameServerFaults } from './name-server-faults.js';
import { networkMissingInGroup } from './network-missing-in-group.js';
import { singleLine, singleSwitch } from './single-path.js';
import { uplinksLoop } from './uplinks-loop.js';
import { vlanMissingOnPort } from './vlan-missing-on-port.js';
import { wirelessBridge } from './wireless-bridge.js';
import { automaticAddressFailed } from './automatic-address-failed.js';
import { backupFaults } from './backup-faults.js';
import { bootWithGuests } from './boot-with-guests.js';
import { duplicateAddress } from './duplicate-address.js';
import { endingSoon } from './ending-soon.js';
import { fewAddressesLeft } from './few-addresses-left.js';
import type { Finding, Rule, Severity } from './finding.js';
import { gatewayOutside } from './gateway-outside.js';
import { groupNotSpread } from './group-not-spread.js';
import { guestBuildFaults } from './guest-build-faults.js';
import { guestLifecycleFaults } from './guest-lifecycle-faults.js';
import { guestDeviceFaults } from './guest-device-faults.js';
import { guestsWithoutRedundancy } from './guests-without-redundancy.js';
import { heldForNothing } from './held-for-nothing.js';
import { holdPastDate } from './hold-past-date.js';
import { hostGatewayOutside } from './host-gateway-outside.js';
import { hostOverfull } from './host-overfull.js';
import { hostUnsuitable } from './host-unsuitable.js';
import { identityOpen } from './identity-open.js';
import { identityTwice } from './identity-twice.js';
import { leaseOnly } from './lease-only.js';
import { maintenanceDue } from './maintenance-due.js';
import { mediaFaults } from './media-faults.js';
import { mixedDiskSizes } from './mixed-disk-sizes.js';
import { nameNotResolving } from './name-not-resolving.js';
import { nameServerOnOwnHost } from './name-server-on-own-host.js';
import { networkNotCarried } from './network-not-carried.js';
import { notVerified } from './not-verified.js';
import { parityWithoutSpare } from './parity-without-spare.js';
import {
  devicePortLeadsNowhere,
  guestPortLeadsNowhere,
  hostPortLeadsNowhere,
} from './port-leads-nowhere.js';
import { poolFillAlarm } from './pool-fill-alarm.js';
import { poolLargerThanArray } from './pool-larger-than-array.js';
import { poolOverfull } from './pool-overfull.js';
import { feedOverdrawn, hostOneFeed } from './power-feed-faults.js';
import { rackOverFeed } from './rack-over-feed.js';
import { reserveUsed } from './reserve-used.js';
import { serviceFaults } from './service-faults.js';
import { singleManagementPort } from './single-management-port.js';
import { snapshotsFillPool } from './snapshots-fill-pool.js';
import { sourceRuns } from './source-runs.js';
import { startCircle } from './start-circle.js';
import { staticInDynamic } from './static-in-dynamic.js';
import { entitlementFaults } from './entitlement-faults.js';
import { templateFaults, templateResets } from './template-faults.js';
import { twins, twinSuspected } from './twins.js';
import { addressOutsideNetwork, unusableAddress } from './unusable-address.js';

export const RULES: readonly Rule[] = [
  staticInDynamic,
  duplicateAddress,
  gatewayOutside,
  fewAddressesLeft,
  hostOverfull,
  poolOverfull,
  identityOpen,
  identityTwice,
  networkNotCarried,
  holdPastDate,
  heldForNothing,
  sourceRuns,
  reserveUsed,
  parityWithoutSpare,
  mixedDiskSizes,
  guestsWithoutRedundancy,
  bootWithGuests,
  poolLargerThanArray,
  poolFillAlarm,
  hostGatewayOutside,
  automaticAddressFailed,
  leaseOnly,
  singleManagementPort,
  nameNotResolving,
  nameServerOnOwnHost,
  endingSoon,
  maintenanceDue,
  notVerified,
  hostUnsuitable,
  rackOverFeed,
  feedOverdrawn,
  hostOneFeed,
  backupFaults,
  addressOnWrongNetwork,
  addressPrefixDiffers,
  addressOutsideNetwork,
  unusableAddress,
  deviceTwice,
  gatewayNobody,
  natGateway,
  hostPortLeadsNowhere,
  guestPortLeadsNowhere,
  devicePortLeadsNowhere,
  listUnread,
  deviceGateway,
  guestGateway,
  consoleReachable,
  managementShared,
  mtuDiffers,
  deviceNames,
  guestNames,
  hostNames,
  nameServerFaults,
  networkMissingInGroup,
  singleLine,
  singleSwitch,
  uplinksLoop,
  vlanMissingOnPort,
  wirelessBridge,
  serviceFaults,
  startCircle,
  guestBuildFaults,
  guestDeviceFaults,
  guestLifecycleFaults,
  mediaFaults,
  groupNotSpread,
  snapshotsFillPool,
  templateFaults,
  templateResets,
  entitlementFaults,
  twins,
  twinSuspected,
];

export const RULED_KINDS: readonly Kind[] = [...new Set(RULES.map((rule) => rule.kind))];
const BY_KIND: ReadonlyMap<Kind, readonly Rule[]> = new Map(
  RULED_KINDS.map((kind) => [kind, RULES.filter((rule) => rule.kind === kind)]),
);

/** Rules of a kind that look at the whole fleet. */
export const heavyRulesOf = (kind: Kind): readonly Rule[] =>
  BY_KIND.get(kind)!.filter(({ heavy }) => heavy);

const RANK: Record<Severity, number> = { blocker: 0, caution: 1, note: 2 };

/** One for all rows that nothing is wrong with. */
const NONE: Finding[] = [];

/** What is accepted comes last. */
export const bySeverity = (a: Finding, b: Finding): number =>
  Number(Boolean(a.accepted)) - Number(Boolean(b.accepted)) ||
  RANK[a.severity] - RANK[b.severity] ||
  a.about.name.localeCompare(b.about.name) ||
  a.id.localeCompare(b.id);

/** Findings of the rules that look at one record. @param heavy whether to ask those that look at the whole fleet */
export function findingsAt(
  fleet: Fleet,
  kind: Kind,
  id: string,
  now: string,
  heavy = true,
): Finding[] {
  return withAcceptances(fleet, rulesAt(fleet, kind, id, now, heavy), now);
}

/** The same without what is accepted of them. */
export const rulesAt = (
  fleet: Fleet,
  kind: Kind,
  id: string,
  now: string,
  heavy: boolean,
): Finding[] => {
  const found = (BY_KIND.get(kind) ?? []).flatMap((rule) =>
    rule.heavy && !heavy ? [] : rule.look(fleet, id, now),
  );
  return found.length ? found : NONE;
};

/** Parts of a record that rules look at, with the record: each of them is a part of one. */
export function ruledParts(fleet: Fleet, kind: Kind, id: string): { kind: Kind; id: string }[] {
  const addresses = (rows: readonly Row<'address'>[]) =>
    rows.map((row) => ({ kind: 'address' as const, id: row.id }));
  switch (kind) {
    case 'guest':
      return [
        ...fleet
          .referring('backup', 'guestId', id)
          .map((row) => ({ kind: 'backup' as const, id: row.id })),
        ...fleet
          .referring('adapter', 'guestId', id)
          .flatMap((row) => [
            { kind: 'adapter' as const, id: row.id },
            ...addresses(fleet.referring('address', 'adapterId', row.id)),
          ]),
      ];
    case 'host':
      return addresses(fleet.referring('address', 'hostId', id));
    case 'device':
      return fleet
        .referring('devicePort', 'deviceId', id)
        .flatMap((port) => addresses(fleet.referring('address', 'devicePortId', port.id)));
    default:
      return [];
  }
}
export const PARTS: readonly Kind[] = ['backup', 'adapter', 'address'];

/** In a fleet of more adapters, rules that ask the whole fleet are left to the list of findings. */
const HEAVY_UP_TO = 5000;
export const asksHeavy = (fleet: Fleet): boolean => fleet.count('adapter') <= HEAVY_UP_TO;

/** Findings of those of the given records that a rule looks at. @param heavy as for `findingsAt` */
export function allFindingsAt(
  fleet: Fleet,
  ids: Iterable<string>,
  now: string,
  heavy = true,
): Finding[] {
  const found: Finding[] = [];
  for (const id of ids)
    for (const kind of RULED_KINDS)
      if (fleet.get(kind, id)) found.push(...findingsAt(fleet, kind, id, now, heavy));
  return found.sort(bySeverity);
}
