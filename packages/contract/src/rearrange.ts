/** Moving guests among the hosts of a group: what is asked, how far the search is, what it found. */
import { AIMS, type Aim, type PatchRound, type Rearranged } from '@insel/core';
import { Clearable, Flag, Id, Ids, OneOf, Text, Whole } from './rules.js';

export class RearrangeBody {
  @OneOf(AIMS) aim!: Aim;
  /** A group of hosts; null: hosts of no group. */
  @Clearable() @Id() groupId!: string | null;
  /** Hosts to be emptied, where that is the aim. */
  @Ids(50) emptiedIds!: string[];
  @Whole(1, 500) mostMoves!: number;
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
  @Whole(1_000_000) linkBitsPerSecond!: number;
  /** How long it may be searched for something better, at each host. */
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
