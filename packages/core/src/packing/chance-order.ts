/**
 * Orders of moves tried by chance, many and each quickly: whoever can go to its target goes, in an order of its own; where
 * nobody can, one stops over anywhere. It finds what a search from the front is too late for, and proves nothing. Costs
 * tries · moves² · dimensions. The same question has the same tries.
 */
import { chance } from './chance.js';
import { Moving, type Move } from './moving.js';
import type { Ordering } from './order-moves.js';

const TRIES = 4_000;
/** Places that are looked at for a stop-over. */
const LOOKS = 30;

export function orderByChance(ordering: Ordering, most: number, tries = TRIES): Move[] | null {
  const { question, start, target } = ordering;
  const random = chance(question.units);
  const moving = [...start.keys()].filter((unit) => start[unit] !== target[unit]);
  const sizeOf = (unit: number) => sizes[unit]!;
  const sizes = Array.from({ length: question.units }, (_, unit) => largestShare(ordering, unit));
  for (let n = 0; n < tries; n += 1) {
    // Now and then by chance alone, now and then the large ones first.
    const weight = random() * 2;
    const rank = new Map(moving.map((unit) => [unit, weight * sizeOf(unit) + random()]));
    const order = moving.toSorted((a, b) => rank.get(b)! - rank.get(a)!);
    const moves = tryOnce(ordering, order, most, random);
    if (moves) return moves;
  }
  return null;
}

function tryOnce(
  { question, start, target, closed }: Ordering,
  order: number[],
  most: number,
  random: () => number,
): Move[] | null {
  const moving = new Moving(question, start);
  let stopped = 0;
  while (order.length > 0) {
    const next = order.findIndex((unit) => moving.mayGo(unit, target[unit]!));
    if (next >= 0) {
      moving.move(order[next]!, target[order[next]!]!);
      order.splice(next, 1);
      continue;
    }
    if (stopped >= most) return null;
    const stop = Array.from({ length: LOOKS }, () => {
      const unit = order[Math.floor(random() * order.length)]!;
      const hosts = question.candidates[unit]!;
      return { unit, host: hosts[Math.floor(random() * hosts.length)]! };
    }).find(
      ({ unit, host }) => host !== target[unit] && !closed?.has(host) && moving.mayGo(unit, host),
    );
    if (!stop) return null;
    moving.move(stop.unit, stop.host);
    stopped += 1;
  }
  return moving.moves;
}

/** The largest part that a unit takes of the room of all hosts together, times hosts. */
function largestShare({ question }: Ordering, unit: number): number {
  const { dims, hosts, room, need, classes } = question;
  let most = 0;
  for (let d = 0; d < dims; d += 1) {
    let all = 0;
    for (let host = 0; host < hosts; host += 1) all += Math.max(0, room[host * dims + d]!);
    most = Math.max(most, (need[unit * classes * dims + d]! * hosts) / Math.max(1, all));
  }
  return most;
}
