/** What is shown of hosts and where they stand. */
import type {
  HostInput,
  Finding,
  Figure,
  FactRow,
  Expectation,
  MachineFacts,
  Row,
  SuitabilityPoint,
  HostLevel,
  BuildSheet,
  ArrayOption,
} from '@insel/core';
import type { FindingMark, AddressView, Named, NeedView } from './shared-views.js';
import type { GuestListRow } from './guest-views.js';

/** What was read from the machine Insel runs on; what could not be read is null. */
/** Facts of the machine Insel runs on. */
export type ThisMachine = MachineFacts;
export interface FactsView {
  /** The host it is compared with, as it was read. */
  host: Expectation | null;
  facts: MachineFacts;
  from: string;
  rows: FactRow[];
}

export interface AlikeView {
  name: string;
  ip: string | null;
  rackUnit: number | null;
  /** Ready to be sent as one of `hosts`. */
  body: HostInput;
}

export interface PlacementRuleView extends Row<'placementRule'> {
  guests: Named[];
  host: Named | null;
}

export interface HostGroupView extends Row<'hostGroup'> {
  hosts: Named[];
  /** Highest x86-64 level that all of them have. */
  level: { level: number | null; limitedBy: string[]; unknown: string[] };
}

export interface RackView extends Row<'rack'> {
  site: Named | null;
  hosts: (Named & { unit: number | null; height: number; drawWatts: number | null })[];
  draw: Figure;
}

/** A power feed with what hangs on it. */
export interface PowerFeedView extends Row<'powerFeed'> {
  site: Named | null;
  /** Hosts with a supply at it, how many of how many, and what they draw in all. */
  hosts: (Named & { here: number; cords: number; drawWatts: number | null })[];
  load: Figure;
  /** What it carries when another fails whose hosts hang on it as well: the most. */
  worst: { after: string; watts: number } | null;
  /** Hosts that go down with it, what trips after it included. */
  takesDown: Named[];
  findings: Finding[];
}

export interface HostListRow extends Named, Expectation {
  state: Row<'host'>['state'];
  site: string;
  group: string;
  guests: number;
  cores: number;
  memoryForGuestsMiB: number;
  memoryLeftMiB: number;
  memoryTakenPercent: number;
  vcpuForGuests: number;
  vcpuLeft: number;
  vcpuTakenPercent: number;
  storageLeftBytes: number;
  limits: 'memory' | 'processors';
  offersRoom: boolean;
  finding: FindingMark | null;
}

export interface PoolView extends Row<'pool'> {
  /** Taken at once: thick volumes, snapshots, room held for moves. */
  allocatedBytes: number;
  /** Full size of thin volumes. */
  thinBytes: number;
  promisedBytes: number;
  limitBytes: number;
  /** Promised ÷ usable; null where nothing is usable. */
  ratio: Figure;
  volumes: number;
  snapshots: number;
  /** Left to promise. */
  left: Figure;
  taken: Figure;
  /** Really free. */
  free: Figure;
  /** Share really taken, in per cent. */
  fill: Figure;
  hosts: Named[];
  serverGuest: Named | null;
}

/** An array as it is built: its members and what follows from them. */
export interface ArrayView extends Row<'array'> {
  disks: Row<'disk'>[];
  /** Null while its members cannot form it. */
  option: ArrayOption | null;
}

export interface CarriedView extends Expectation {
  mode: Row<'virtualSwitch'>['mode'];
  untagged: boolean;
  bundle: Row<'virtualSwitch'>['bundle'];
  translation: Row<'virtualSwitch'>['translation'];
  natUplinkId: string | null;
  network: Named | null;
  vlanId: number | null;
  guests: number;
  ports: Named[];
  /** In words: "survives one port", "single port", "ports not recorded". */
  survives: string;
}

export interface VerificationView extends Row<'verification'> {
  tests: { test: string; passed: boolean; remark: string }[];
  counts: boolean;
}

export interface HostSheet {
  host: Row<'host'>;
  site: Named | null;
  /** Clock of its site: IANA name; UTC where nobody said. */
  zone: string;
  rack: Named | null;
  group: Named | null;
  outerGuest: Named | null;
  /** The feed of each of its supplies that is recorded. */
  feeds: Named[];
  platform: Row<'platform'>;
  figures: {
    memoryForGuests: Figure;
    vcpuForGuests: Figure;
    memoryLeft: Figure;
    vcpuLeft: Figure;
    memoryTaken: Figure;
    vcpuTaken: Figure;
    largestGuest: Figure;
    memoryReserve: Figure;
    vcpuReserve: Figure;
  };
  limits: 'memory' | 'processors';
  level: HostLevel;
  modules: Row<'memoryModule'>[];
  nodes: Row<'numaNode'>[];
  /** Whether the largest guest that fits also fits one NUMA node; empty without nodes. */
  numa: string;
  arrays: ArrayView[];
  disks: Row<'disk'>[];
  ports: Row<'port'>[];
  suitability: SuitabilityPoint[];
  pools: PoolView[];
  networks: CarriedView[];
  fullName: string;
  management: AddressView[];
  outOfBand: AddressView | null;
  place: { gateway: string | null; nameServers: readonly string[]; vlanId: number | null } | null;
  verifications: VerificationView[];
  builds: Row<'hostBuild'>[];
  routes: Row<'route'>[];
  forwardedPorts: Row<'forwardedPort'>[];
  /** What must be up before it starts its work. */
  needs: NeedView[];
  tests: BuildSheet['tests'];
  guests: GuestListRow[];
  findings: Finding[];
}
