/** Works put one after another, in a given order, each as early as its windows and what it shares let it. */
import type { Work } from './work.js';

export interface Placed {
  order: number[];
  starts: (number | null)[];
  end: number;
  left: number;
  /** Of all beginnings: what is earlier is better where the end is the same. */
  sum: number;
}

export const better = (one: Placed, other: Placed): Placed =>
  other.left < one.left ||
  (other.left === one.left &&
    (other.end < one.end || (other.end === one.end && other.sum < one.sum)))
    ? other
    : one;

export class Placer {
  constructor(
    private readonly works: readonly Work[],
    private readonly from: number,
  ) {}

  /** In this order, each after those that it waits for. */
  place(order: readonly number[]): Placed {
    const starts: (number | null)[] = this.works.map(({ at }) => at ?? null);
    const using = new Map<string, number[]>();
    const waiting = [...order];
    const done = new Set<number>();
    let [end, left, sum] = [this.from, 0, 0];
    const stands = (i: number): void => {
      for (const { key } of this.works[i]!.uses) using.set(key, [...(using.get(key) ?? []), i]);
      end = Math.max(end, starts[i]! + this.works[i]!.minutes);
    };
    for (const [i, { at }] of this.works.entries()) {
      if (at === undefined) continue;
      done.add(i);
      stands(i);
    }
    while (waiting.length > 0) {
      const at = waiting.findIndex((i) => this.works[i]!.after.every((before) => done.has(before)));
      // A circle of waiting is broken where it stands.
      const [i] = waiting.splice(Math.max(0, at), 1) as [number];
      done.add(i);
      const ready = Math.max(
        this.from,
        ...this.works[i]!.after.flatMap((before) =>
          starts[before] === null ? [] : [starts[before]! + this.works[before]!.minutes],
        ),
      );
      const start = this.first(i, ready, starts, using);
      starts[i] = start;
      if (start === null) {
        left += 1;
        continue;
      }
      stands(i);
      sum += start;
    }
    return { order: [...order], starts, end, left, sum };
  }

  private first(
    i: number,
    ready: number,
    starts: readonly (number | null)[],
    using: ReadonlyMap<string, number[]>,
  ): number | null {
    const { windows, minutes } = this.works[i]!;
    for (const [from, until] of windows) {
      let at = Math.max(from, ready);
      while (at + minutes <= until) {
        const again = this.blockedUntil(i, at, starts, using);
        if (again === null) return at;
        at = again;
      }
    }
    return null;
  }

  /** Null where it may begin then; else when to look again. */
  private blockedUntil(
    i: number,
    at: number,
    starts: readonly (number | null)[],
    using: ReadonlyMap<string, number[]>,
  ): number | null {
    const end = at + this.works[i]!.minutes;
    for (const { key, most } of this.works[i]!.uses) {
      const meanwhile = (using.get(key) ?? []).filter(
        (other) => starts[other]! < end && starts[other]! + this.works[other]!.minutes > at,
      );
      // The most that are there at one time is reached when one of them, or this one, begins.
      for (const moment of [at, ...meanwhile.map((other) => starts[other]!)]) {
        if (moment < at) continue;
        const there = meanwhile.filter(
          (other) =>
            starts[other]! <= moment && starts[other]! + this.works[other]!.minutes > moment,
        );
        const allowed = Math.min(most, ...there.map((other) => this.bears(other, key)));
        if (there.length + 1 > allowed)
          return Math.min(...there.map((other) => starts[other]! + this.works[other]!.minutes));
      }
    }
    return null;
  }

  private bears(i: number, key: string): number {
    return this.works[i]!.uses.find((use) => use.key === key)!.most;
  }
}
