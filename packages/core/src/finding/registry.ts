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
import { guestCareFaults } from './guest-care-faults.js';
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
  guestCareFaults,
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
const PARTS: readonly Kind[] = ['backup', 'adapter', 'address'];

/**
 * Findings of the whole fleet, gravest first. The first time costs a look at every row of the ruled kinds; after a patch
 * only what rules read of the altered rows is looked at.
 */
export const allFindings = (fleet: Fleet, now: string): Finding[] => gathered(fleet, now, looksAt);

/** The same without the rules that look at the whole fleet: what they say of an overlay costs as much as of a fleet. */
export const lightFindings = (fleet: Fleet, now: string): Finding[] =>
  gathered(fleet, now, () => [LIGHT]);

function gathered(
  fleet: Fleet,
  now: string,
  looks: (kind: Kind) => readonly [string, LookAt][],
): Finding[] {
  const found: Finding[] = [];
  for (const kind of RULED_KINDS.filter((one) => !PARTS.includes(one)))
    for (const [name, look] of looks(kind))
      for (const list of fleet
        .gathered(kind, name, (one, id, at) => look(one, kind, id, at), now)
        .values())
        found.push(...list);
  return withAcceptances(fleet, found, now).sort(bySeverity);
}

/** A finding that an overlay takes away, or brings: exactly one of both. */
export interface MovedFinding {
  was?: Finding;
  is?: Finding;
}

/**
 * Findings that an overlay moves, by id. Costs what it alters.
 * @param heavy whether rules that look at the whole fleet are asked: of an overlay that costs as much as of a fleet
 */
export function findingsMoved(
  fleet: Fleet,
  now: string,
  heavy: boolean,
): Map<string, MovedFinding> {
  const moved = new Map<string, MovedFinding>();
  for (const kind of RULED_KINDS.filter((one) => !PARTS.includes(one)))
    for (const [name, look] of heavy ? looksAt(kind) : [LIGHT])
      for (const { was, is } of fleet.gatheredMoved(
        kind,
        name,
        (one, id, at) => look(one, kind, id, at),
        now,
      )) {
        for (const finding of was)
          if (!is.some(({ id }) => id === finding.id)) moved.set(finding.id, { was: finding });
        for (const finding of is)
          if (!was.some(({ id }) => id === finding.id)) moved.set(finding.id, { is: finding });
      }
  return moved;
}

/** What appears and vanishes from one overlay to another of the same ground, gravest first. */
export function findingsBetween(
  fleet: Fleet,
  before: ReadonlyMap<string, MovedFinding>,
  after: ReadonlyMap<string, MovedFinding>,
  now: string,
): { appearing: Finding[]; vanishing: Finding[] } {
  const appearing: Finding[] = [];
  const vanishing: Finding[] = [];
  for (const id of new Set([...before.keys(), ...after.keys()])) {
    const [one, other] = [before.get(id), after.get(id)];
    const below = one?.was ?? other?.was;
    // What neither says stands as it stands below both.
    const [had, has] = [one ? one.is : below, other ? other.is : below];
    if (has && !had) appearing.push(has);
    if (had && !has) vanishing.push(had);
  }
  const told = (findings: Finding[]) => withAcceptances(fleet, findings, now).sort(bySeverity);
  return { appearing: told(appearing), vanishing: told(vanishing) };
}

/** Looks at so many rows for `allFindings` beforehand. Gives whether all of them have been looked at. */
export function prepareFindings(fleet: Fleet, now: string, most: number): boolean {
  return RULED_KINDS.filter((kind) => !PARTS.includes(kind)).every((kind) =>
    looksAt(kind).every(([name, look]) =>
      fleet.gatherSome(kind, name, (one, id, at) => look(one, kind, id, at), now, most),
    ),
  );
}

type LookAt = (fleet: Fleet, kind: Kind, id: string, now: string) => Finding[];
/** Rules that look at the whole fleet stand apart: what they read alters with nearly every patch. */
const LIGHT: [string, LookAt] = [
  'findings',
  (fleet, kind, id, now) => {
    const found = rulesAt(fleet, kind, id, now, false);
    const ofParts = ruledParts(fleet, kind, id).flatMap((part) =>
      rulesAt(fleet, part.kind, part.id, now, false),
    );
    return ofParts.length ? [...found, ...ofParts] : found;
  },
];
const HEAVY: [string, LookAt] = [
  'heavy findings',
  (fleet, kind, id, now) =>
    BY_KIND.get(kind)!.flatMap((rule) => (rule.heavy ? rule.look(fleet, id, now) : NONE)),
];
const looksAt = (kind: Kind): [string, LookAt][] =>
  BY_KIND.get(kind)!.some(({ heavy }) => heavy) ? [LIGHT, HEAVY] : [LIGHT];

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
