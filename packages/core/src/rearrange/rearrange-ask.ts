/** What is asked of moves, and the problem that it is for the search. */
import type { PackingQuestion } from '../packing/index.js';
import type { MeasuredUse } from './measured-use.js';

export const AIMS = ['empty', 'fewest', 'even'] as const;
export type Aim = (typeof AIMS)[number];

export const EVEN_BY = ['given', 'used'] as const;
export type EvenBy = (typeof EVEN_BY)[number];

export interface RearrangeAsk {
  aim: Aim;
  /** Hosts that back each other; null: those of no group. */
  groupId: string | null;
  /** Hosts that are to be left by all. */
  emptiedIds: readonly string[];
  /** When evening out. */
  mostMoves: number;
  /** When evening out: no more than this travels in all; left out: as much as does. */
  mostGiB?: number;
  /** When evening out: by what guests were given (left out), or by what they were measured to use. */
  by?: EvenBy;
  /** Every host that could fail before must still be able to, when getting by with fewer. */
  keepTolerance: boolean;
  /** Slowest link between the hosts, in bit/s: for times. */
  linkBitsPerSecond: number;
  /** A release that some hosts have already: who stands on one of these goes to none that has another (common practice, no source). */
  notBackFrom?: string;
}

/** Everything that a search needs, in plain values. */
export interface RearrangeProblem {
  aim: Aim;
  mostMoves: number;
  mostMiB: number;
  keepTolerance: boolean;
  question: PackingQuestion;
  /** Room with all pools of a host taken as one: more than there is, so that what it proves impossible is. */
  mostRoom: Float64Array;
  guestIds: string[];
  hostIds: string[];
  start: Int32Array;
  closed: number[];
  /** What each host has at all, and what of it is kept free on purpose. */
  has: Float64Array;
  reserve: Float64Array;
  /** When evening out by it. */
  use: MeasuredUse | null;
  /** What moving a unit costs: MiB that travel. */
  cost: Float64Array;
  /** Units that start on another host by themselves when theirs fails. */
  restarts: Uint8Array;
}

/** A guest that stays where it is, and why. */
export interface Unmovable {
  guestId: string;
  why: string;
}
