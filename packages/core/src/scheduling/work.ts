/**
 * Works in time: each whole within one of its windows, after those that it waits for, beside no more others than what it uses
 * bears. Serial schedule generation (Kolisch, European Journal of Operational Research 90, 1996, from memory): works are placed one
 * after another, each at the first time that is legal. Some order of the works gives the earliest end there is, so all orders
 * of a few works prove it; of many, orders are improved by exchanging two. Times in whole minutes. Costs, per order, works² ·
 * windows.
 */
export interface Work {
  minutes: number;
  /** When it may be: ascending, apart, each [from, until). */
  windows: readonly (readonly [from: number, until: number])[];
  /** What it uses, and how many may use that at once while it does. */
  uses: readonly { key: string; most: number }[];
  /** Works that must have ended before. */
  after: readonly number[];
  /** It stands there already, whatever stands beside it: others go round it. */
  at?: number;
}

export interface Schedule {
  /** When each begins; null: it finds no place. */
  starts: (number | null)[];
  /** When the last one ends. */
  end: number;
  /** No schedule of all that found a place ends before this. */
  bound: number;
  proven: boolean;
  /** Stretches of time, open for any of the works, in which one begins that does not stand there already. */
  windows: number;
}

/** Work that takes its time, and a timetable of it. */
/** When so many minutes have passed within these windows. */
export function timeFor(
  windows: readonly [number, number][],
  minutes: number,
  from: number,
): number {
  let left = minutes;
  for (const [begins, until] of windows) {
    const at = Math.max(begins, from);
    if (until <= at) continue;
    if (until - at >= left) return at + left;
    left -= until - at;
  }
  return from;
}
