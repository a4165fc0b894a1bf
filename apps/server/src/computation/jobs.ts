/** What the computation worker can be asked, and what it answers. */
import type { Finding, LogEntry } from '@insel/core';

export interface Jobs {
  /** Every finding of the fleet, gravest first, at most `most` of them, and how many there are of each severity. */
  findings: { input: { now: string; most: number }; output: { findings: Finding[]; counts: { blocker: number; caution: number; note: number } } };
}

export type JobName = keyof Jobs;

export type ToWorker = { type: 'entries'; entries: LogEntry[] } | { type: 'job'; id: number; name: JobName; revision: number; input: Jobs[JobName]['input'] };
export type FromWorker = { type: 'ready'; revision: number } | { type: 'done'; id: number; output: Jobs[JobName]['output'] } | { type: 'failed'; id: number; message: string };
