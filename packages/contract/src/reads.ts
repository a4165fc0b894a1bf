/** What is asked with each read of the record, and what is answered. */
import type {
  Consolidation,
  PlatformChange,
  BuildSheet,
  Cause,
  PairTolerance,
  Tolerance,
  Finding,
  FindingAge,
  PoolRank,
  Row,
  SuitabilityPoint,
  ZoneDefaults,
} from '@insel/core';
import {
  FirstStartsQuery,
  ReadProofBody,
  type EntitlementView,
  type KnownByView,
  type Lineage,
  type ReadProofView,
  type TemplateView,
} from './clone-views.js';
import { ReadFactsBody } from './facts.js';
import type {
  FirstStartView,
  GuestBuildView,
  GuestEndView,
  GuestGroupView,
  MediumView,
  ProfileView,
} from './guest-lifecycle-views.js';
import type { GuestListRow, GuestSheet } from './guest-views.js';
import {
  ChartQuery,
  FindingAgeQuery,
  FindingsQuery,
  DevicesQuery,
  ListQuery,
  NextFreeQuery,
  SearchQuery,
  SuitabilityQuery,
  type ListWindow,
} from './lists.js';
import { LogQuery } from './log.js';
import {
  ConsolidationBody,
  PhysicalRouteBody,
  PlatformChangeQuery,
  RouteQuery,
  FindTimesBody,
  TimetableQuery,
  TroubleQuery,
  type CalibrationView,
  type FoundTimesView,
  type TimetableView,
} from './migrations.js';
import { ReadListBody, ReadNamesBody, ZoneQuery } from './names.js';
import type { PlanRow, PlansCompared, PlanSheet } from './plans.js';
import type { GrowthView } from './growth.js';
import {
  PatchRoundBody,
  PlaceBatchBody,
  RearrangeBody,
  type PatchRoundView,
  type PlacedBatchView,
  type RearrangedView,
  type Searching,
} from './rearrange.js';
import { MatrixBody, ReachQuery, type MatrixView, type ReachView } from './reach.js';
import type { READ_PATHS, ReadName } from './read-paths.js';
import {
  UseQuery,
  type GuestUseView,
  type ImportRow,
  type PoolLevel,
  type PoolUseView,
  type SampleKeeping,
} from './samples.js';
import { SizeGuestBody, type SimilarUse, type SizeAnswer } from './sizing.js';
import {
  ShutDownQuery,
  type FailureView,
  type ServiceView,
  type ShutDownView,
  type StartOrderView,
} from './starts.js';
import type {
  ChartView,
  LogRow,
  MigrationRoute,
  PhysicalRoute,
  MigrationSheet,
  SearchHit,
  ToleranceCounts,
  WaterlineView,
} from './views.js';
import type { NetworkListRow, NetworkSheet } from './network-views.js';
import type {
  AlikeView,
  FactsView,
  HostGroupView,
  HostListRow,
  HostSheet,
  PlacementRuleView,
  PoolView,
  PowerFeedView,
  RackView,
} from './host-views.js';
import type { MigrationListRow, Named } from './shared-views.js';
import type {
  DeviceListRow,
  DeviceView,
  LineView,
  ListPreviewView,
  MachineListRow,
  NameSourceView,
  PatchTableView,
  PhysicalSwitchView,
  PlugView,
  ReadNamesView,
  SiteView,
  SubnetOfDomain,
  ZoneFilesView,
} from './wiring-views.js';

/** Classes of what is asked, beside the fields that stand in the path. */
export const READ_QUERIES = {
  chart: ChartQuery,
  findings: FindingsQuery,
  findingAge: FindingAgeQuery,
  search: SearchQuery,
  hosts: ListQuery,
  hostsAlike: NextFreeQuery,
  hostSuitability: SuitabilityQuery,
  factsCompared: ReadFactsBody,
  networks: ListQuery,
  nextFree: NextFreeQuery,
  reach: ReachQuery,
  matrix: MatrixBody,
  zones: ZoneQuery,
  namesCompared: ReadNamesBody,
  listPreview: ReadListBody,
  machines: ListQuery,
  patchTable: ListQuery,
  devices: DevicesQuery,
  guests: ListQuery,
  guestSize: SizeGuestBody,
  growth: UseQuery,
  guestUse: UseQuery,
  poolUse: UseQuery,
  proofRead: ReadProofBody,
  firstStarts: FirstStartsQuery,
  shutDown: ShutDownQuery,
  rearranged: RearrangeBody,
  patchRound: PatchRoundBody,
  placedBatch: PlaceBatchBody,
  migrations: ListQuery,
  migrationRoute: RouteQuery,
  physicalRoute: PhysicalRouteBody,
  consolidation: ConsolidationBody,
  platformChange: PlatformChangeQuery,
  trouble: TroubleQuery,
  timetable: TimetableQuery,
  foundTimes: FindTimesBody,
  log: LogQuery,
} satisfies Partial<Record<ReadName, new () => object>>;

export interface ReadAnswers {
  chart: ChartView;
  tolerance: Tolerance;
  toleranceCounts: ToleranceCounts;
  pairs: PairTolerance;
  failure: FailureView;
  waterline: WaterlineView;
  findings: FindingsView;
  findingAge: FindingAge;
  search: SearchHit[];

  hosts: ListWindow<HostListRow>;
  host: HostSheet;
  hostsAlike: AlikeView[];
  hostSuitability: SuitabilityPoint[];
  hostBuild: BuildSheet;
  hostBuildPage: string;
  factsScript: string;
  factsCompared: FactsView;

  sites: SiteView[];
  routingDomains: Row<'routingDomain'>[];
  racks: RackView[];
  powerFeeds: PowerFeedView[];
  hostGroups: HostGroupView[];
  platforms: Row<'platform'>[];
  placementRules: PlacementRuleView[];

  networks: ListWindow<NetworkListRow>;
  network: NetworkSheet;
  subnets: SubnetOfDomain[];
  nextFree: { addresses: string[] };
  reservations: ReservationsView;
  reach: ReachView;
  matrix: MatrixView;
  zoneDefaults: ZoneDefaults;
  zones: ZoneFilesView;
  hostsFile: { text: string };
  namesCompared: ReadNamesView;
  nameSources: NameSourceView[];
  listPreview: ListPreviewView;

  machines: ListWindow<MachineListRow>;
  machine: { machine: { name: string } };
  patchTable: PatchTableView;
  physicalSwitches: PhysicalSwitchView[];
  plugs: PlugView;
  lines: LineView[];
  devices: ListWindow<DeviceListRow>;
  device: { device: DeviceView };

  guests: ListWindow<GuestListRow>;
  guestSize: SizeAnswer;
  guest: GuestSheet;
  guestBuild: GuestBuildView;
  guestBuildPage: string;
  guestEnd: GuestEndView;
  firstStart: FirstStartView;
  /** Bytes of a disc image. */
  seedImage: Uint8Array;
  guestUse: GuestUseView;
  volumePlaces: PoolRank[];
  profiles: ProfileView[];
  profileUse: { use: SimilarUse | null };
  guestGroups: GuestGroupView[];
  media: MediumView[];
  pools: PoolView[];
  poolsUsed: PoolLevel[];
  poolUse: PoolUseView;
  sampleImports: ImportRow[];
  sampleKeeping: SampleKeeping;
  startOrder: StartOrderView;
  shutDown: ShutDownView;
  services: ServiceView[];

  clones: Lineage[];
  templates: TemplateView[];
  growth: GrowthView;
  plans: PlanRow[];
  plan: PlanSheet;
  planRunbook: string;
  plansCompared: PlansCompared;
  rearranged: RearrangedView;
  patchRound: PatchRoundView;
  placedBatch: PlacedBatchView;
  searching: Searching;
  searchStopped: { stopped: boolean };
  entitlements: EntitlementView[];
  knownBy: KnownByView;
  proofRead: ReadProofView;
  firstStarts: ({ guest: Named } & FirstStartView)[];
  migrations: ListWindow<MigrationListRow>;
  migrationRoute: MigrationRoute;
  physicalRoute: PhysicalRoute;
  consolidation: Consolidation;
  platformChange: PlatformChange;
  calibration: CalibrationView;
  timetable: TimetableView;
  foundTimes: FoundTimesView;
  /** iCalendar (RFC 5545). */
  calendar: string;
  migration: MigrationSheet;
  trouble: Cause[];
  runbook: string;

  log: { rows: LogRow[]; more: boolean };
  attachment: { text: string | null; redactedBy: number | null };
}

/** Findings that match, gravest first, and how many there are in all of each severity that nobody has accepted. */
export interface FindingsView {
  findings: Finding[];
  /** How many match; more than are listed, where there are very many. */
  matching: number;
  /** Kinds and rules that have findings in the whole fleet. */
  kinds: string[];
  rules: string[];
  /** Who looks after what has findings, and the sites that it stands in. */
  owners: string[];
  sites: string[];
  counts: { blocker: number; caution: number; note: number };
}

/** Fixed addresses of a subnet for a DHCP server, as a file of two kinds, with who was left out and why. */
export interface ReservationsView {
  json: string;
  text: string;
  rows: number;
  left: { name: string; why: string }[];
}

type InPath<P extends string> = P extends `${string}:${infer F}/${infer Rest}`
  ? Record<F, string> & InPath<Rest>
  : P extends `${string}:${infer F}.html`
    ? Record<F, string>
    : P extends `${string}:${infer F}`
      ? Record<F, string>
      : unknown;

/** What is asked with a read: fields of its path and of its class. */
export type ReadQuery<N extends ReadName> = InPath<(typeof READ_PATHS)[N]> &
  (N extends keyof typeof READ_QUERIES ? InstanceType<(typeof READ_QUERIES)[N]> : unknown);
export type ReadAnswer<N extends ReadName> = ReadAnswers[N];
