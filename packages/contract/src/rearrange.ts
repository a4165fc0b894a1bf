/** Moving guests among the hosts of a group: what is asked, how far the search is, what it found. */
import {
  AIMS,
  BATCH_AIMS,
  EVEN_BY,
  FAMILIES,
  MOST_ALIKE,
  MOST_LOTS,
  PROCESSOR_MODES,
  type Aim,
  type BatchAim,
  type EvenBy,
  type Lot,
  type PatchRound,
  type PlacedBatch,
  type Rearranged,
} from '@insel/core';
import {
  Clearable,
  Flag,
  Id,
  Ids,
  Name,
  OneOf,
  Optional,
  Parts,
  Text,
  Texts,
  Whole,
} from './rules.js';

export class RearrangeBody {
  @OneOf(AIMS) aim!: Aim;
  /** A group of hosts; null: hosts of no group. */
  @Clearable() @Id() groupId!: string | null;
  /** Hosts to be emptied, where that is the aim. */
  @Ids(50) emptiedIds!: string[];
  @Whole(1, 500) mostMoves!: number;
  /** When evening out: no more than this travels in all. */
  @Optional() @Whole(1, 1_000_000) mostGiB?: number;
  /** When evening out: by what guests were given, where it is left out. */
  @Optional() @OneOf(EVEN_BY) by?: EvenBy;
  @Flag() keepTolerance!: boolean;
  @Whole(1_000_000) linkBitsPerSecond!: number;
  /** How long it may be searched for something better. */
  @Whole(1, 120) seconds!: number;
  /** A name for this search, by which it can be looked at and stopped. */
  @Text(60) search!: string;
}

export class PatchRoundBody {
  @Clearable() @Id() groupId!: string | null;
  /** Hosts that are worked at, one at a time. */
  @Ids(50) hostIds!: string[];
  @Flag() returns!: boolean;
  @Whole(1, 10_080) workMinutes!: number;
  /** Release that each host takes; null: the work alters none. */
  @Clearable() @Id() platformId!: string | null;
  @Whole(1_000_000) linkBitsPerSecond!: number;
  /** How long it may be searched for something better, at each host. */
  @Whole(1, 120) seconds!: number;
  @Text(60) search!: string;
}

/** New guests that are all alike. */
export class LotBody implements Lot {
  @Name(63) pattern!: string;
  @Whole(1, MOST_ALIKE) count!: number;
  @OneOf(FAMILIES) family!: Lot['family'];
  @Clearable() @Id() profileId!: string | null;
  @Texts() labels!: string[];
  @Clearable() @Id() guestGroupId!: string | null;
  @Whole(1, 4096) vcpu!: number;
  @Whole(1) memoryMiB!: number;
  @Whole(0) bytes!: number;
  @Flag() thin!: boolean;
  @Clearable() @Id() poolId!: string | null;
  @Ids(16) networkIds!: string[];
  @OneOf(PROCESSOR_MODES) processorMode!: Lot['processorMode'];
  @OneOf(['none', 'host', 'rack', 'site']) apart!: Lot['apart'];
}

export class PriceBody {
  @Id() entitlementId!: string;
  @Whole(0, 1_000_000) price!: number;
}

/** Guests that are to be, and where hosts of a group could take them. */
export class PlaceBatchBody {
  @Clearable() @Id() groupId!: string | null;
  @Parts(() => LotBody, MOST_LOTS) lots!: LotBody[];
  @OneOf(BATCH_AIMS) aim!: BatchAim;
  @Parts(() => PriceBody) prices!: PriceBody[];
  @Flag() makesRoom!: boolean;
  @Flag() keepTolerance!: boolean;
  @Whole(1_000_000) linkBitsPerSecond!: number;
  @Whole(1, 120) seconds!: number;
  @Text(60) search!: string;
}

/** How far a search is. */
export interface Searching {
  underWay: boolean;
  /** Seconds since it began. */
  since: number;
  /** The best answer so far, in a sentence. */
  best: string | null;
  /** Of a round: hosts that are settled, of how many. */
  settled: { hosts: number; of: number } | null;
}

export interface RearrangedView extends Rearranged {
  revision: number;
  /** It was stopped, or its time was spent: what it had is the answer. */
  cutShort: boolean;
}

export interface PatchRoundView extends PatchRound {
  revision: number;
  /** It was stopped: hosts that come later were not asked. */
  cutShort: boolean;
}

export interface PlacedBatchView extends PlacedBatch {
  revision: number;
  cutShort: boolean;
}
