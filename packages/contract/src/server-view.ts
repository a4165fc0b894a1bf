/** The server as whoever looks after it sees it: its memory, what it keeps, how long changes take. */
import type { KeptValues } from '@insel/core';

/** In milliseconds. */
export interface Spread {
  median: number;
  p95: number;
  most: number;
}

export interface ChangeTimes {
  type: string;
  times: number;
  /** For its turn. */
  waited: Spread | null;
  /** Null where none was decided here, as where it was refused before or decided in the worker. */
  decided: Spread | null;
}

/** Of one thread: it has a record and a heap of its own. */
export interface ThreadFigures {
  heapMiB: number;
  /** How often values were let go for their room. */
  letGo: number;
  /** Rows, tables and keys from which something that is kept was computed. */
  noted: number;
  /** How often something was computed from one of these, or from another value; and about how many bytes all of this takes. */
  edges: number;
  bytes: number;
  values: KeptValues[];
}

export interface ServerView extends ThreadFigures {
  startedAt: string;
  revision: number;
  loadedInMs: number;
  /** Of the whole process. */
  processMiB: number;
  /** Heap of a thread above which what it keeps is let go. */
  ceilingMiB: number;
  changes: ChangeTimes[];
  /** The thread that computes over the whole fleet; null where it did not answer within a second. */
  worker: ThreadFigures | null;
}
