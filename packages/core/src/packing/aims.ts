/**
 * What placings are compared by: hosts that are used, how full the fullest is that takes any, what licences cost. Each says
 * what a placing comes to, and what one unit more on a host would add. Costs hosts, or hosts · licences.
 */
import { leastNeeds, needAt, type Board, type PackingQuestion, type Placing } from './question.js';

/** A licence that is counted by the hosts on which what it covers runs. */
export interface CountedByHost {
  /** By unit: 1 where it is covered. */
  covers: Uint8Array;
  /** Units that one licensing of a host takes. */
  once: Float64Array;
  /** Copies that one licensing of a host covers; 0: any number. */
  copies: number;
  /** Copies that run on each host before. */
  standing: Int32Array;
  /** Units that are allowed, and what each beyond them costs. */
  allowed: number;
  price: number;
}

export type PlacingAim =
  | { by: 'fewest'; used: Uint8Array }
  | {
      by: 'even';
      /** Of each host and dimension: what it has at all, and what is taken of it before. */
      has: Float64Array;
      taken: Float64Array;
    }
  | { by: 'licences'; licences: readonly CountedByHost[] };

/** What a unit beyond the allowed ones weighs more than one that is allowed, at a price of 1. */
export const BEYOND = 1000;

const timesOn = ({ copies }: CountedByHost, on: number): number =>
  on === 0 ? 0 : copies === 0 ? 1 : Math.ceil(on / copies);

/** Units of a licence that are used where so many copies run on each host. */
function unitsUsed(licence: CountedByHost, on: ArrayLike<number>): number {
  let used = 0;
  for (let host = 0; host < on.length; host += 1)
    used += timesOn(licence, on[host]!) * licence.once[host]!;
  return used;
}

const costOf = ({ allowed, price }: CountedByHost, used: number): number =>
  BEYOND * price * Math.max(0, used - allowed) + used;

/** Share of a host that is taken, of the scarcer of what it has. */
export function shareOf(
  { dims }: PackingQuestion,
  { has, taken }: Extract<PlacingAim, { by: 'even' }>,
  host: number,
  more: (dim: number) => number,
): number {
  let share = 0;
  for (let d = 0; d < dims; d += 1) {
    const at = host * dims + d;
    if (has[at]! > 0) share = Math.max(share, (taken[at]! + more(d)) / has[at]!);
  }
  return share;
}

/**
 * How full the fullest that takes any must be at least: filled to a level, the hosts hold no more than what is below it, and
 * each unit raises the host it goes to. No placing of all is below. Costs (units + hosts) · dimensions · 40.
 */
export function leastLevel(
  question: PackingQuestion,
  aim: Extract<PlacingAim, { by: 'even' }>,
): number {
  const { units, hosts, dims, candidates } = question;
  const least = leastNeeds(question);
  const open = new Set<number>();
  for (const set of new Set(candidates)) for (const host of set) open.add(host);
  let level = 0;
  const known = new Map<string, number>();
  for (let unit = 0; unit < units; unit += 1) {
    const needs = least.subarray(unit * dims, (unit + 1) * dims).join();
    const key = `${needs} ${candidates[unit]!.length} ${candidates[unit]![0]}`;
    if (known.has(key)) continue;
    const lowest = Math.min(
      Infinity,
      ...Array.from(candidates[unit]!, (host) =>
        shareOf(question, aim, host, (d) => least[unit * dims + d]!),
      ),
    );
    known.set(key, lowest);
    if (Number.isFinite(lowest)) level = Math.max(level, lowest);
  }
  for (let d = 0; d < dims; d += 1) {
    let demand = 0;
    for (let unit = 0; unit < units; unit += 1) demand += least[unit * dims + d]!;
    const below = (to: number): number => {
      let sum = 0;
      for (let host = 0; host < hosts; host += 1) {
        const at = host * dims + d;
        if (open.has(host)) sum += Math.max(0, to * aim.has[at]! - aim.taken[at]!);
      }
      return sum;
    };
    // Where a dimension is not counted, nothing is below any level.
    let [low, high] = [level, 64];
    if (demand <= 0 || below(high) < demand || below(low) >= demand) continue;
    for (let i = 0; i < 40; i += 1) {
      const middle = (low + high) / 2;
      if (below(middle) >= demand) high = middle;
      else low = middle;
    }
    level = Math.max(level, low);
  }
  return level;
}

/** What a placing comes to: less is better. Units that stand nowhere are not asked of. */
export function valueOf(question: PackingQuestion, aim: PlacingAim, at: Placing): number {
  if (aim.by === 'fewest') {
    const used = new Set([...aim.used.keys()].filter((host) => aim.used[host]));
    for (const host of at) if (host >= 0) used.add(host);
    return used.size;
  }
  if (aim.by === 'licences')
    return aim.licences.reduce((sum, licence) => {
      const on = licence.standing.slice();
      for (const [unit, host] of at.entries())
        if (host >= 0 && licence.covers[unit]) on[host]! += 1;
      return sum + costOf(licence, unitsUsed(licence, on));
    }, 0);
  const { dims, need } = question;
  const taken = new Float64Array(question.hosts * dims);
  for (const [unit, host] of at.entries())
    for (let d = 0; host >= 0 && d < dims; d += 1)
      taken[host * dims + d]! += need[needAt(question, unit, host) + d]!;
  return Math.max(
    0,
    ...[...new Set(at)]
      .filter((host) => host >= 0)
      .map((host) => shareOf(question, aim, host, (d) => taken[host * dims + d]!)),
  );
}

/** What the aim says of one unit more on each host, while units are put one after another. */
export interface Step {
  /** Less is better. */
  of: (unit: number, host: number) => number;
  put: (unit: number, host: number) => void;
}

export function stepsTowards(board: Board, aim: PlacingAim): Step {
  const { question } = board;
  if (aim.by === 'fewest') {
    const used = aim.used.slice();
    return { of: (_, host) => (used[host] ? 0 : 1), put: (_, host) => void (used[host] = 1) };
  }
  if (aim.by === 'even') {
    const { dims, room, need } = question;
    return {
      of: (unit, host) =>
        shareOf(
          question,
          aim,
          host,
          (d) =>
            room[host * dims + d]! -
            board.free[host * dims + d]! +
            need[needAt(question, unit, host) + d]!,
        ),
      put: () => undefined,
    };
  }
  const states = aim.licences.map((licence) => {
    const on = licence.standing.slice();
    return { licence, on, used: unitsUsed(licence, on) };
  });
  const more = ({ licence, on }: (typeof states)[number], host: number): number =>
    (timesOn(licence, on[host]! + 1) - timesOn(licence, on[host]!)) * licence.once[host]!;
  return {
    of: (unit, host) =>
      states.reduce(
        (sum, state) =>
          state.licence.covers[unit]
            ? sum +
              costOf(state.licence, state.used + more(state, host)) -
              costOf(state.licence, state.used)
            : sum,
        0,
      ),
    put(unit, host) {
      for (const state of states)
        if (state.licence.covers[unit]) {
          state.used += more(state, host);
          state.on[host]! += 1;
        }
    },
  };
}
