/** What the server answers with: plain shapes for lists and sheets. */
import type { BatchTimeView } from './clone-views.js';
import type { FindingMark, Named } from './shared-views.js';
import type {
  AcceptsItself,
  CopyProgress,
  DecideBy,
  LastTime,
  MoveKind,
  MoveMethod,
  Check,
  Estimate,
  Figure,
  Finding,
  GuestBuild,
  ReadingVerdict,
  Row,
  Subject,
  ToleranceMoved,
  Waterline,
} from '@insel/core';

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
