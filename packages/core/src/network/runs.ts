/**
 * A subnet as a row of runs in address order: what is held, kept, given out dynamically, or free. Computed on 128-bit
 * integers, so a /29, a /16 and an IPv6 /64 are the same work.
 */
import { broadcast, last, usable, type Prefix } from '../address/index.js';

/** 'resting': released, not given out again yet; 'aside': free, but outside the ranges that single addresses are taken from. */
export type RunKind =
  | 'network'
  | 'broadcast'
  | 'anycast'
  | 'gateway'
  | 'held'
  | 'dynamic'
  | 'reserved'
  | 'resting'
  | 'aside'
  | 'free';

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
  /** Ranges given out by others or kept free. */
  ranges: readonly { use: 'dynamic' | 'reserved'; first: bigint; last: bigint }[];
  /** Ranges that single addresses are taken from; none: the whole block. */
  offered?: readonly { first: bigint; last: bigint }[];
  /** Released addresses that rest. */
  resting?: readonly bigint[];
}

/** Runs that together cover the whole block once. Held addresses inside a range stay part of the range's run. */
export function runsOf({
  prefix,
  gateway,
  held,
  ranges,
  offered = [],
  resting = [],
}: RunInput): Run[] {
  const end = last(prefix);
  const marks: Run[] = ranges.map(({ use, first, last: stop }) => ({
    kind: use,
    first,
    last: stop,
  }));
  const inRange = (value: bigint) => marks.some((run) => value >= run.first && value <= run.last);
  const single = (kind: RunKind, value: bigint) => ({ kind, first: value, last: value });
  const room = usable(prefix);
  const edges: Run[] = [];
  if (room.first > prefix.first)
    edges.push(single(prefix.family === 4 ? 'network' : 'anycast', prefix.first));
  const top = broadcast(prefix);
  if (top !== undefined) edges.push(single('broadcast', top));
  if (gateway !== null && gateway >= prefix.first && gateway <= end && !inRange(gateway))
    edges.push(single('gateway', gateway));
  const special = edges.map((run) => run.first);
  const inside = (value: bigint) =>
    value >= prefix.first && value <= end && !special.includes(value) && !inRange(value);
  const sorted = held.filter(inside).sort(ascending);
  const mine = resting.length > 0 ? new Set(held) : undefined;
  const rests = resting.filter((value) => inside(value) && !mine?.has(value)).sort(ascending);
  const taken = [...marks, ...edges, ...merge('held', sorted), ...merge('resting', rests)].sort(
    (a, b) => ascending(a.first, b.first),
  );
  const runs = withFree(prefix.first, end, taken);
  return offered.length === 0
    ? runs
    : runs.flatMap((run) => (run.kind === 'free' ? setAside(run, offered) : [run]));
}

/** @param values ascending; one that comes twice counts once */
function merge(kind: RunKind, values: readonly bigint[]): Run[] {
  const runs: Run[] = [];
  for (const value of values) {
    const before = runs[runs.length - 1];
    if (before?.last === value) continue;
    if (before && before.last + 1n === value) before.last = value;
    else runs.push({ kind, first: value, last: value });
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

/** A free run cut at the ranges that addresses are taken from. */
function setAside(run: Run, offered: readonly { first: bigint; last: bigint }[]): Run[] {
  const parts: Run[] = [];
  let at = run.first;
  for (const span of [...offered].sort((a, b) => ascending(a.first, b.first))) {
    const first = span.first > at ? span.first : at;
    const end = span.last < run.last ? span.last : run.last;
    if (first > end) continue;
    if (first > at) parts.push({ kind: 'aside', first: at, last: first - 1n });
    parts.push({ kind: 'free', first, last: end });
    at = end + 1n;
  }
  if (at <= run.last) parts.push({ kind: 'aside', first: at, last: run.last });
  return parts;
}

const ascending = (a: bigint, b: bigint): number => (a < b ? -1 : a > b ? 1 : 0);

export const runLength = (run: Run): bigint => run.last - run.first + 1n;

/**
 * The lowest free addresses, at or above an offset.
 *
 * @param skip addresses already promised in the same change
 * @returns as many as there are, at most n
 */
export function lowestFree(
  runs: readonly Run[],
  n: number,
  skip: ReadonlySet<bigint> = new Set(),
  from = 0n,
): bigint[] {
  const found: bigint[] = [];
  for (const run of runs) {
    if (run.kind !== 'free') continue;
    for (
      let value = run.first > from ? run.first : from;
      value <= run.last && found.length < n;
      value += 1n
    ) {
      if (!skip.has(value)) found.push(value);
    }
    if (found.length >= n) break;
  }
  return found;
}

/** n different free addresses drawn from all that are free. @param below gives a whole number from 0 to its argument − 1 */
export function randomFree(
  runs: readonly Run[],
  n: number,
  below: (limit: bigint) => bigint,
  skip: ReadonlySet<bigint> = new Set(),
): bigint[] {
  const free = runs.filter((run) => run.kind === 'free');
  const room = free.reduce((sum, run) => sum + runLength(run), 0n);
  const found = new Set<bigint>();
  // Small rooms are listed and drawn from; large ones are drawn from until a draw is new.
  if (room <= 4096n) {
    const left = free
      .flatMap((run) =>
        Array.from({ length: Number(runLength(run)) }, (_, i) => run.first + BigInt(i)),
      )
      .filter((value) => !skip.has(value));
    while (found.size < n && left.length > 0)
      found.add(left.splice(Number(below(BigInt(left.length))), 1)[0]!);
    return [...found];
  }
  for (let draws = 0; found.size < n && draws < n * 100; draws += 1) {
    const value = nth(free, below(room));
    if (!skip.has(value)) found.add(value);
  }
  return [...found];
}

function nth(runs: readonly Run[], index: bigint): bigint {
  let left = index;
  for (const run of runs) {
    if (left < runLength(run)) return run.first + left;
    left -= runLength(run);
  }
  throw new RangeError('beyond the last free address');
}

/** The lowest n consecutive free addresses, or undefined where no free run is that long. */
export function lowestFreeRun(
  runs: readonly Run[],
  n: number,
  skip: ReadonlySet<bigint> = new Set(),
  from = 0n,
): bigint[] | undefined {
  for (const run of runs) {
    if (run.kind !== 'free') continue;
    let start = run.first > from ? run.first : from;
    for (let value = start; value <= run.last; value += 1n) {
      if (skip.has(value)) start = value + 1n;
      else if (value - start + 1n === BigInt(n))
        return Array.from({ length: n }, (_, i) => start + BigInt(i));
    }
  }
  return undefined;
}
