/** Measured use: what is imported, and what follows from it. Outside the log and the record. */
import type { Figure, RightSize, Runway } from '@insel/core';
import { Count, Optional } from './rules.js';

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
  samples: number;
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
