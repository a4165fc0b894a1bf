/** What the server answers with: plain shapes for lists and sheets. */
import type { BatchTimeView } from './clone-views.js';
import type { GuestListRow } from './guest-views.js';
import type { AddressView, FindingMark, Named, NeedView } from './shared-views.js';
import type {
  AcceptsItself,
  CopyProgress,
  DecideBy,
  LastTime,
  MoveKind,
  MoveMethod,
  ArrayOption,
  BuildSheet,
  Check,
  Estimate,
  Expectation,
  FactRow,
  Figure,
  Finding,
  GuestBuild,
  HostInput,
  HostLevel,
  MachineFacts,
  ReadingVerdict,
  Row,
  Subject,
  SuitabilityPoint,
  ToleranceMoved,
  Waterline,
} from '@insel/core';

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

/** A host as the chart draws it: capacity, reserve, and its guests from the largest to the smallest. */
export interface ChartHost extends Named {
  state: Row<'host'>['state'];
  site: string;
  siteId: string | null;
  rack: string;
  /** Nested in another host: drawn, not counted. */
  nested: boolean;
  /** Nothing about its parts is known yet. */
  bare: boolean;
  vcpu: number;
  memoryMiB: number;
  reserveVcpu: number;
  reserveMiB: number;
  /** What counts against it, with what moves hold. */
  takenVcpu: number;
  takenMiB: number;
  /** Empty on a map, as its pools are; nothing is asked about its findings and parts there. */
  guests: { id: string; name: string; vcpu: number; memoryMiB: number }[];
  pools: { name: string; takenPercent: number }[];
  finding: FindingMark | null;
}

export interface ChartView {
  /** How much of a host is drawn: the more match, the less; a map shows all of them and no guest. */
  form: 'full' | 'dense' | 'map';
  /** A window of those that match, by site, rack, size. */
  hosts: ChartHost[];
  matching: number;
  /** The largest host of all: one scale for every window. */
  largest: { vcpu: number; memoryMiB: number };
  labels: string[];
  networks: Named[];
  sites: Named[];
  /** Hosts nested in others left out. */
  totals: {
    hosts: number;
    cores: number;
    memoryForGuestsMiB: number;
    memoryTakenMiB: number;
    vcpuForGuests: number;
    vcpuTaken: number;
  };
}

/** For the waterline: of how many hosts, how many may fail without a guest left down, and how many may not. */
export interface ToleranceCounts {
  hosts: number;
  mayNot: number;
  notSettled: number;
  /** The first of those that may not. */
  first: { id: string; name: string }[];
}

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

export interface SubnetBrief {
  id: string;
  prefix: string;
  free: number | null;
  takenPercent: number | null;
  held: number;
}

export interface NetworkListRow extends Named, Expectation {
  site: string;
  vlanId: number | null;
  subnets: SubnetBrief[];
  finding: FindingMark | null;
}

export interface RunView {
  kind: string;
  first: string;
  last: string;
  /** Number of addresses, as text: a /64 has more than a double counts. */
  count: string;
}

export interface HeldView extends Expectation {
  ip: string;
  assigned: boolean;
  use: string;
  holder: Subject;
  inRange: boolean;
}

export interface SubnetView extends Row<'subnet'> {
  runs: RunView[];
  held: HeldView[];
  ranges: Row<'range'>[];
  resting: Row<'quarantine'>[];
  routingDomain: Named;
  /** Subnets that lie side by side with it and could be joined with it. */
  joinable: (Expectation & { prefix: string })[];
  next: string | null;
  free: Figure;
  taken: Figure;
}

export interface NetworkSheet {
  network: Row<'network'>;
  site: Named | null;
  subnets: SubnetView[];
  carriedBy: (Named & { mode: string })[];
  alsoAt: Named[];
  devices: (Named & { port: string })[];
  findings: Finding[];
}

export interface SideView extends Named {
  /** A host, or a computer that runs no guests. */
  kind: 'host' | 'device';
  state: string;
  site: string;
  /** Of a host. */
  memoryLeftMiB: number | null;
  vcpuLeft: number | null;
  pools: { id: string; name: string; freeBytes: number }[];
  /** Of a computer: its disks. */
  disks: Row<'computerDisk'>[];
}

export interface ReadingView {
  takenAt: string;
  by: string;
  lines: number;
}

export interface MigrationSheet {
  migration: Row<'migration'>;
  guest: Named & { state: string; vcpu: number; memoryMiB: number; volumeBytes: number };
  source: SideView;
  target: SideView;
  /** Clock of the site that it leaves: IANA name; UTC where nobody said. */
  zone: string;
  checks: Check[];
  estimate: Estimate;
  moves: { volume: string; from: string; to: string; bytes: number }[];
  holds: (Row<'hold'> & { place: Named })[];
  /** In their order; empty for moves from before there were any. */
  steps: Row<'moveStep'>[];
  /** What it printed before and after, and what that says; null where it did not. */
  readings: { before: ReadingView | null; after: ReadingView | null; verdicts: ReadingVerdict[] };
  /** Of a copy under way, where somebody said how far it is. */
  progress: CopyProgress | null;
  /** When it accepts itself, and what stands against that now; null where a named user accepts. */
  acceptsItself: AcceptsItself | null;
  kind: MoveKind;
  method: MoveMethod;
  decideBy: DecideBy | null;
  /** Days that its disks are kept after acceptance, by its kind. */
  holdDays: number;
  findings: Finding[];
}

/** The fleet as it would be with a change that is being typed. */
export interface Preview {
  objections: {
    code: string;
    sentence: string;
    field?: string;
    remedy?: string;
    figure?: Figure;
    overridable: boolean;
  }[];
  before: Waterline;
  after: Waterline;
  /** Headroom of the places the change touches. */
  places: { kind: string; id: string; name: string; before: Figure; after: Figure }[];
  appearing: Finding[];
  vanishing: Finding[];
  /** What would be made, row by row, where the change makes several. */
  made: {
    name: string;
    host: Named;
    pools: string[];
    ip: string;
    mac: string;
    vcpu: number;
    memoryMiB: number;
    /** Names of the files of its volumes. */
    disks: string[];
  }[];
  /** When clones would be made and ready, where the change makes some. */
  time: BatchTimeView | null;
  /** Which hosts may fail before and after, where the change makes clones. */
  tolerance: ToleranceMoved | null;
  /** Its build sheet, where the change makes exactly one guest. */
  build: GuestBuild | null;
}

/** A move that is being thought of: what must be so before it, and how long it takes. */
export interface MigrationRoute {
  /** A finished run of the same route, as a pattern; null: none. */
  lastTime: LastTime | null;
  kind: MoveKind | null;
  checks: Check[];
  estimate: Estimate | null;
}

/** Of a move off a computer or onto one; where it cannot be planned at all: why. */
export interface PhysicalRoute {
  checks: Check[];
  estimate: Estimate | null;
  fault: { sentence: string; remedy: string } | null;
}

export interface LogRow {
  revision: number;
  at: string;
  happenedAt: string | null;
  actorName: string;
  mine: boolean;
  title: string;
  reason: string;
  override: string;
  type: string;
  subjects: Subject[];
  /** What differs, in one line; empty where no row does. */
  summary: string;
  /** Row-level differences, in words a person can read. */
  difference: {
    kind: string;
    name: string;
    op: 'create' | 'update' | 'delete';
    fields: { field: string; before: string; after: string }[];
  }[];
  undoable: boolean;
  /** Id of the import that it is a part of; null: of none. */
  importId: string | null;
  text: string;
  /** A long pasted text under its hash; redacted ones are gone for good. */
  attachment: { sha256: string; bytes: number; redacted: boolean } | null;
  /** Revision of the entry that it takes back. */
  undoes: number | null;
}

export interface WaterlineView {
  revision: number;
  levels: Waterline;
  findings: { blocker: number; caution: number; note: number } | null;
}

export interface SearchHit {
  kind:
    | 'host'
    | 'guest'
    | 'network'
    | 'device'
    | 'physicalSwitch'
    | 'address'
    | 'adapter'
    | 'pool'
    | 'migration'
    | 'medium'
    | 'profile'
    | 'guestGroup'
    | 'template'
    | 'entitlement';
  id: string;
  label: string;
  detail: string;
  /** Path of the screen that shows it. */
  path: string;
}

/** What was read from the machine Insel runs on; what could not be read is null. */
/** Facts of the machine Insel runs on. */
export type ThisMachine = MachineFacts;
