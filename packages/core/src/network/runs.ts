/**
 * A subnet as a row of runs in address order: what is held, kept, given out dynamically, or free. Computed on 128-bit
 * integers, so a /29, a /16 and an IPv6 /64 are the same work.
 */
import { broadcast, last, usable, type Prefix } from '../address/index.js';

export type RunKind = 'network' | 'broadcast' | 'anycast' | 'gateway' | 'held' | 'dynamic' | 'reserved' | 'free';

export interface Run {
  kind: RunKind;
  first: bigint;
  last: bigint;
}

export interface RunInput {
  prefix: Prefix;
  gateway: bigint | null;
  /** Addresses that machines hold, in any order. */
  held: readonly bigint[];
  ranges: readonly { use: 'dynamic' | 'reserved'; first: bigint; last: bigint }[];
}

/** Runs that together cover the whole block once. Held addresses inside a range stay part of the range's run. */
export function runsOf({ prefix, gateway, held, ranges }: RunInput): Run[] {
  const end = last(prefix);
  const marks: Run[] = ranges.map(({ use, first, last: stop }) => ({ kind: use, first, last: stop }));
  const inRange = (value: bigint) => marks.some((run) => value >= run.first && value <= run.last);
  const single = (kind: RunKind, value: bigint) => ({ kind, first: value, last: value });
  const room = usable(prefix);
  const edges: Run[] = [];
  if (room.first > prefix.first) edges.push(single(prefix.family === 4 ? 'network' : 'anycast', prefix.first));
  const top = broadcast(prefix);
  if (top !== undefined) edges.push(single('broadcast', top));
  if (gateway !== null && gateway >= prefix.first && gateway <= end && !inRange(gateway)) edges.push(single('gateway', gateway));
  const special = new Set(edges.map((run) => run.first));
  const sorted = [...new Set(held)].filter((value) => value >= prefix.first && value <= end && !special.has(value) && !inRange(value));
  sorted.sort(ascending);
  const taken = [...marks, ...edges, ...merge(sorted)].sort((a, b) => ascending(a.first, b.first));
  return withFree(prefix.first, end, taken);
}

function merge(values: readonly bigint[]): Run[] {
  const runs: Run[] = [];
  for (const value of values) {
    const before = runs[runs.length - 1];
    if (before && before.last + 1n === value) before.last = value;
    else runs.push({ kind: 'held', first: value, last: value });
  }
  return runs;
}

function withFree(first: bigint, end: bigint, taken: readonly Run[]): Run[] {
  const runs: Run[] = [];
  let cursor = first;
  for (const run of taken) {
    if (run.first > cursor) runs.push({ kind: 'free', first: cursor, last: run.first - 1n });
    if (run.last >= cursor) {
      runs.push(run.first < cursor ? { ...run, first: cursor } : run);
      cursor = run.last + 1n;
    }
  }
  if (cursor <= end) runs.push({ kind: 'free', first: cursor, last: end });
  return runs;
}

export const ascending = (a: bigint, b: bigint): number => (a < b ? -1 : a > b ? 1 : 0);

export const runLength = (run: Run): bigint => run.last - run.first + 1n;

/**
 * The lowest free addresses, at or above an offset.
 *
 * @param skip addresses already promised in the same change
 * @returns as many as there are, at most n
 */
export function lowestFree(runs: readonly Run[], n: number, skip: ReadonlySet<bigint> = new Set(), from = 0n): bigint[] {
  const found: bigint[] = [];
  for (const run of runs) {
    if (run.kind !== 'free') continue;
    for (let value = run.first > from ? run.first : from; value <= run.last && found.length < n; value += 1n) {
      if (!skip.has(value)) found.push(value);
    }
    if (found.length >= n) break;
  }
  return found;
}

/** The lowest n consecutive free addresses, or undefined where no free run is that long. */
export function lowestFreeRun(runs: readonly Run[], n: number, skip: ReadonlySet<bigint> = new Set(), from = 0n): bigint[] | undefined {
  for (const run of runs) {
    if (run.kind !== 'free') continue;
    let start = run.first > from ? run.first : from;
    for (let value = start; value <= run.last; value += 1n) {
      if (skip.has(value)) start = value + 1n;
      else if (value - start + 1n === BigInt(n)) return Array.from({ length: n }, (_, i) => start + BigInt(i));
    }
  }
  return undefined;
}
