/**
 * Orders of moves tried by chance, many and each quickly: whoever can go to its target goes, in an order of its own; where
 * nobody can, one that stands in the way stops over elsewhere, or anyone does. It finds what a search from the front is too
 * late for, and proves nothing. Costs tries · moves² · dimensions. The same question has the same tries.
 */
import { chance } from './chance.js';
import { Moving, type Move } from './moving.js';
import type { Ordering } from './order-moves.js';

/** Places that are looked at for a stop-over. */
const LOOKS = 30;

export interface ByChance {
  /** The most stop-overs. */
  most: number;
  tries: number;
  /** Whether those step aside as well that need not move, or have moved. */
  helpers: boolean;
}

export function orderByChance(
  ordering: Ordering,
  { most, tries, helpers }: ByChance,
): Move[] | null {
  const { question, start, target } = ordering;
  const random = chance(question.units);
  const moving = [...start.keys()].filter((unit) => start[unit] !== target[unit]);
  const sizes = Array.from({ length: question.units }, (_, unit) => largestShare(ordering, unit));
  for (let n = 0; n < tries; n += 1) {
    // Now and then by chance alone, now and then the large ones first.
    const weight = random() * 2;
    const rank = new Map(moving.map((unit) => [unit, weight * sizes[unit]! + random()]));
    const order = moving.toSorted((a, b) => rank.get(b)! - rank.get(a)!);
    const one = new Try(ordering, order, random, helpers);
    if (one.succeeds(most)) return one.moves;
  }
  return null;
}

interface Stop {
  unit: number;
  host: number;
}

class Try extends Moving {
  constructor(
    private readonly ordering: Ordering,
    /** Units that are not where they are to be. */
    private readonly open: number[],
    private readonly random: () => number,
    private readonly helpers: boolean,
  ) {
    super(ordering.question, ordering.start);
  }

  succeeds(most: number): boolean {
    const { open } = this;
    const { target } = this.ordering;
    for (let stopped = 0; open.length > 0;) {
      const next = open.findIndex((unit) => this.mayGo(unit, target[unit]!));
      if (next >= 0) {
        this.move(open[next]!, target[open[next]!]!);
        open.splice(next, 1);
        continue;
      }
      if (stopped >= most) return false;
      const stop = (this.random() < 0.7 && this.makingRoom()) || this.anywhere();
      if (!stop) return false;
      this.move(stop.unit, stop.host);
      if (!open.includes(stop.unit)) open.push(stop.unit);
      stopped += 1;
    }
    return true;
  }

  /** One that stands in the way of another, which could go if it stood elsewhere for a while. */
  private makingRoom(): Stop | undefined {
    const { target, question } = this.ordering;
    for (const waiting of this.fromAnywhere(this.open)) {
      const to = target[waiting]!;
      const there = this.helpers ? [...this.board.at.keys()] : this.open;
      for (const unit of this.fromAnywhere(there.filter((one) => this.board.at[one] === to))) {
        if (!this.frees(unit, waiting)) continue;
        for (const host of this.fromAnywhere(question.candidates[unit]!))
          if (this.mayStop(unit, host)) return { unit, host };
      }
    }
    return undefined;
  }

  private anywhere(): Stop | undefined {
    const any = <T>(of: ArrayLike<T>): T => of[Math.floor(this.random() * of.length)]!;
    const { candidates } = this.ordering.question;
    for (let look = 0; look < LOOKS; look += 1) {
      const unit = any(this.open);
      const host = any(candidates[unit]!);
      if (this.mayStop(unit, host)) return { unit, host };
    }
    return undefined;
  }

  private mayStop(unit: number, host: number): boolean {
    const { target, closed } = this.ordering;
    return host !== target[unit] && !closed?.has(host) && this.mayGo(unit, host);
  }

  /** Whether the one could go to its target if the other, which is there, were not. */
  private frees(unit: number, waiting: number): boolean {
    const to = this.board.at[unit]!;
    this.board.take(unit);
    const frees = this.mayGo(waiting, to);
    this.board.put(unit, to);
    return frees;
  }

  /** All of them in turn, beginning by chance. */
  private *fromAnywhere(of: ArrayLike<number>): Generator<number> {
    const first = Math.floor(this.random() * of.length);
    for (let n = 0; n < of.length; n += 1) yield of[(first + n) % of.length]!;
  }
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
