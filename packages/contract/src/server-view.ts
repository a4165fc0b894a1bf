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

export interface ServerView {
  startedAt: string;
  revision: number;
  loadedInMs: number;
  /** Of the whole process, of what the record and its values take of it, and above which values are let go. */
  memoryMiB: { process: number; heap: number; ceiling: number };
  /** How often values were let go for their room. */
  letGo: number;
  /** Rows, tables and keys from which something that is kept was computed. */
  noted: number;
  values: KeptValues[];
  changes: ChangeTimes[];
}
