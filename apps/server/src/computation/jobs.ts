/** What the computation worker can be asked, and what it answers. */
import type {
  MatrixView,
  PatchTableView,
  ReachView,
  SizeAnswer,
  SizeGuestBody,
  StartOrderView,
} from '@insel/contract';
import type { FailureOutcome, Finding, LogEntry, Tolerance } from '@insel/core';

export interface Jobs {
  /** Every finding of the fleet, gravest first, at most `most` of them, and how many there are of each severity. */
  findings: {
    input: { now: string; most: number };
    output: { findings: Finding[]; counts: { blocker: number; caution: number; note: number } };
  };
  /** What happens when any one host, rack or site fails. */
  tolerance: { input: { now: string }; output: Tolerance };
  /** Whether one machine reaches another, with the path, the first failure, and the smallest mend. */
  reach: {
    input: { now: string; query: { from: string; to?: string; ip?: string; family?: '4' | '6' } };
    output: ReachView;
  };
  /** Who of a group reaches whom. */
  matrix: { input: { ids: string[] }; output: MatrixView | { sentence: string } };
  /** Hosts down, networks across: what each carries and where it stands alone or goes wrong. */
  patchTable: { input: { siteId?: string; from: number; take: number }; output: PatchTableView };
  /** Size, places and devices of a guest to be; null where there is no such role. */
  sizeGuest: { input: { now: string; body: SizeGuestBody }; output: SizeAnswer | null };
  /** The order of starting after a power cut, and what never comes up. */
  startOrder: { input: Record<string, never>; output: StartOrderView };
  /** What happens to each guest when one of them fails; null where there is no such place. */
  failure: {
    input: { now: string; kind: 'host' | 'rack' | 'site'; id: string };
    output: FailureOutcome | null;
  };
}

export type JobName = keyof Jobs;

export type Job = {
  [N in JobName]: { type: 'job'; id: number; name: N; revision: number; input: Jobs[N]['input'] };
}[JobName];
export type ToWorker = { type: 'entries'; entries: LogEntry[] } | Job;
export type FromWorker =
  | { type: 'ready'; revision: number }
  | { type: 'done'; id: number; output: Jobs[JobName]['output'] }
  | { type: 'failed'; id: number; message: string };
