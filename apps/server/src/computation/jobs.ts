/** What the computation worker is asked: reads that look at the whole fleet. What it answers. */
import type { Problem, ReadName } from '@insel/contract';
import type { LogEntry, Patch } from '@insel/core';
import type { Asking } from '../reads/read.js';
import type { ChangeJob } from '../changes/long-change.js';

/** With what it begins. */
export interface WorkerData {
  databaseUrl: string;
  heapCeilingMiB: number;
  /** The record is read only when it is told to. */
  waits: boolean;
}

export interface Job {
  type: 'job';
  id: number;
  /** It is answered from a fleet that has reached this revision. */
  revision: number;
  name: ReadName;
  query: object;
  asking: Omit<Asking, 'orders' | 'then'>;
  /** Asked of an overlay: of which revision, and what makes it. */
  over?: Over;
  /** Compared with the record as it was. */
  then?: Over & { now: string };
}

export interface Over {
  base: number;
  revision: number;
  patches: Patch[];
}

/** What it keeps itself. */
export interface FiguresJob {
  type: 'figures';
  id: number;
  revision: number;
}

export type AnyJob = Job | ChangeJob | FiguresJob;
export type ToWorker = { type: 'entries'; entries: LogEntry[] } | { type: 'read' } | AnyJob;
export type FromWorker =
  | { type: 'ready'; revision: number }
  | { type: 'done'; id: number; answer: unknown }
  | { type: 'refused'; id: number; problem: Problem }
  /** The fleet under the overlay has altered: ask anew. */
  | { type: 'moved'; id: number }
  | { type: 'failed'; id: number; message: string };
