/** Measured use: what is imported, and what follows from it. Outside the log and the record. */
import type { Figure, RightSize, Runway } from '@insel/core';
import { Clearable, Count, Optional, Whole } from './rules.js';

export class UseQuery {
  /** Days back from the last sample. */
  @Optional() @Count(1, 3660) days?: number;
}

/** How an import stands: asked for while its file is being read. */
export interface ImportProgress {
  id: string;
  state: 'reading' | 'done' | 'cancelled' | 'faulty';
  lines: number;
  /** Bytes read so far. */
  bytes: number;
  /** Of them new; those that were there already are left as they are. */
  added: number;
  /** At most a hundred, by line of the file; the first has the headings. */
  faults: { line: number; sentence: string }[];
  faultsInAll: number;
  firstAt: string | null;
  lastAt: string | null;
}

export interface ImportRow {
  id: string;
  at: string;
  by: string;
  source: string;
  rows: number;
  added: number;
  firstAt: string | null;
  lastAt: string | null;
}

/** How long measured samples are kept, and in what form; what there is of each. */
export interface SampleKeeping {
  /** Days that a sample is kept as it was taken; days that an hour is; days that a day is, null: for good. */
  wholeDays: number;
  hourDays: number;
  dayDays: number | null;
  /** Who said so, and when; null where nobody has: these are the usual ones. */
  by: string | null;
  at: string | null;
  whole: number;
  hours: number;
  days: number;
}

/** In days; the last one left out or null: for good. */
export class SampleKeepingBody {
  @Whole(30, 36_500) wholeDays!: number;
  @Whole(30, 36_500) hourDays!: number;
  @Clearable() @Whole(30, 36_500) dayDays?: number | null;
}

export interface UsePoint {
  at: string;
  /** Mean and largest of the samples that a point stands for. */
  cpu: number | null;
  cpuMost: number | null;
  memoryMiB: number | null;
  memoryMostMiB: number | null;
  diskBytes: number | null;
}

export interface GuestUseView {
  /** All, and those of them that stand summed up by the hour or the day: no percentile is taken of these. */
  samples: number;
  summedUp: number;
  days: number;
  firstAt: string | null;
  lastAt: string | null;
  points: UsePoint[];
  vcpu: RightSize | null;
  memory: RightSize | null;
  disk: Figure | null;
  /** What the smaller size would free, in words; empty where nothing. */
  saves: string;
}

/** The newest measured level of a pool. */
export interface PoolLevel {
  poolId: string;
  at: string;
  usedBytes: number;
}

export interface PoolUseView {
  samples: number;
  points: { at: string; usedBytes: number }[];
  /** The line of the trend at its first and last sample; null without one. */
  trend: { fromAt: string; from: number; toAt: string; to: number } | null;
  runway: Runway | null;
  alarmRunway: Runway | null;
}
