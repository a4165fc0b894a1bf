/** What the server answers with: plain shapes for lists and sheets. */
import type { Check, Estimate, Figure, Finding, Row, Severity, Subject, Waterline } from '@insel/core';

export interface Named {
  id: string;
  name: string;
}

/** Gravest finding at a record, and how many there are. */
export interface FindingMark {
  severity: Severity;
  count: number;
}

export interface HostListRow extends Named {
  state: Row<'host'>['state'];
  site: string;
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

export interface AddressView {
  id: string;
  ip: string;
  assigned: boolean;
  use: string;
  purpose: string;
  network: Named | null;
  prefixLength: number | null;
  gateway: string | null;
}

export interface PoolView extends Row<'pool'> {
  left: Figure;
  taken: Figure;
  hosts: Named[];
}

export interface HostSheet {
  host: Row<'host'>;
  site: Named | null;
  platform: Row<'platform'>;
  figures: { memoryForGuests: Figure; vcpuForGuests: Figure; memoryLeft: Figure; vcpuLeft: Figure; memoryTaken: Figure; vcpuTaken: Figure; largestGuest: Figure };
  limits: 'memory' | 'processors';
  pools: PoolView[];
  networks: { id: string; mode: string; network: Named | null; guests: number }[];
  management: AddressView[];
  guests: GuestListRow[];
  findings: Finding[];
}

export interface GuestListRow extends Named {
  state: Row<'guest'>['state'];
  template: boolean;
  family: string;
  host: Named;
  vcpu: number;
  memoryMiB: number;
  volumeBytes: number;
  address: string;
  /** Memory left on its host, MiB. */
  headroomMiB: number;
  openItems: number;
  finding: FindingMark | null;
}

export interface AdapterView extends Row<'adapter'> {
  network: Named | null;
  addresses: AddressView[];
}

export interface IdentityView {
  cloneId: string;
  origin: Named;
  copy: string;
  madeAt: string;
  items: Row<'identityItem'>[];
}

export interface GuestSheet {
  guest: Row<'guest'>;
  host: Named;
  demand: Figure;
  volumes: (Row<'volume'> & { pool: Named })[];
  adapters: AdapterView[];
  identity: IdentityView | null;
  clones: Named[];
  migrations: MigrationListRow[];
  states: Row<'guest'>['state'][];
  findings: Finding[];
}

export interface SubnetBrief {
  id: string;
  prefix: string;
  free: number | null;
  takenPercent: number | null;
  held: number;
}

export interface NetworkListRow extends Named {
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

export interface HeldView {
  id: string;
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
  next: string | null;
  free: Figure;
  taken: Figure;
}

export interface NetworkSheet {
  network: Row<'network'>;
  site: Named | null;
  subnets: SubnetView[];
  carriedBy: (Named & { mode: string })[];
  findings: Finding[];
}

export interface CloneListRow {
  id: string;
  guest: Named;
  state: string;
  origin: Named;
  copy: string;
  madeAt: string;
  done: number;
  items: number;
  host: Named;
}

export interface Lineage {
  origin: Named & { state: string; template: boolean };
  clones: (CloneListRow & { open: string[] })[];
}

export interface MigrationListRow {
  id: string;
  guest: Named;
  source: Named;
  target: Named;
  state: Row<'migration'>['state'];
  running: boolean;
  bytes: number;
  estimateSeconds: number | null;
  copySeconds: number | null;
  plannedAt: string;
  startedAt: string | null;
  switchedAt: string | null;
  endedAt: string | null;
  finding: FindingMark | null;
}

export interface SideView extends Named {
  state: string;
  site: string;
  memoryLeftMiB: number;
  vcpuLeft: number;
  pools: { id: string; name: string; leftBytes: number }[];
}

export interface MigrationSheet {
  migration: Row<'migration'>;
  guest: Named & { state: string; vcpu: number; memoryMiB: number; volumeBytes: number };
  source: SideView;
  target: SideView;
  checks: Check[];
  estimate: Estimate;
  moves: { volume: string; from: Named; to: Named; bytes: number }[];
  holds: (Row<'hold'> & { place: Named })[];
  findings: Finding[];
}

/** The fleet as it would be with a change that is being typed. */
export interface Preview {
  objections: { code: string; sentence: string; field?: string; remedy?: string; figure?: Figure; overridable: boolean }[];
  before: Waterline;
  after: Waterline;
  /** Headroom of the places the change touches. */
  places: { kind: string; id: string; name: string; before: Figure; after: Figure }[];
  appearing: Finding[];
  vanishing: Finding[];
  /** What would be made, row by row, where the change makes several. */
  made: { name: string; host: string; ip: string; mac: string }[];
}

export interface MigrationPreview extends Preview {
  checks: Check[];
  estimate: Estimate | null;
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
  /** Row-level differences, in words a person can read. */
  difference: { kind: string; name: string; op: 'create' | 'update' | 'delete'; fields: { field: string; before: string; after: string }[] }[];
  undoable: boolean;
  text: string;
  /** A long pasted text under its hash; redacted ones are gone for good. */
  attachment: { sha256: string; bytes: number; redacted: boolean } | null;
}

export interface WaterlineView {
  revision: number;
  levels: Waterline;
  findings: { blocker: number; caution: number; note: number } | null;
}

export interface SearchHit {
  kind: 'host' | 'guest' | 'network' | 'address' | 'adapter' | 'pool' | 'migration';
  id: string;
  label: string;
  detail: string;
  /** Path of the screen that shows it. */
  path: string;
}

/** What was read from the machine Insel runs on; what could not be read is null. */
export interface ThisMachine {
  hostName: string;
  processorModel: string | null;
  architecture: string | null;
  sockets: number | null;
  coresPerSocket: number | null;
  threadsPerCore: number | null;
  installedMiB: number | null;
  visibleMiB: number | null;
  disks: { name: string; model: string | null; bytes: number; rotating: boolean | null }[];
  addresses: { port: string; mac: string | null; ip: string; prefixLength: number }[];
  gateway: string | null;
  nameServers: string[];
  /** Sentence if the machine is itself a guest, and how that is known. */
  isGuest: string | null;
  isLaptop: string | null;
  unread: string[];
}
