/**
 * What fits on one host together (a pattern) and is worth most, when every unit has a price: a knapsack in several dimensions
 * with bounded counts, by branch and bound. Its bound is one knapsack of a mixture of the dimensions, filled with fractions
 * (Martello and Toth, Knapsack Problems, 1990). Exponential at worst: it ends after so many steps, with a bound that holds.
 */
export interface PatternItems {
  /** Kinds of unit. */
  count: number;
  dims: number;
  /** `size[item · dims + dim]`, whole numbers. */
  size: Float64Array;
  /** How many there are of each. */
  most: Int32Array;
}

export interface Pattern {
  /** How many of each item. */
  counts: Int32Array;
  worth: number;
}

export interface BestPatterns {
  /** Worth more than the floor, the best last. */
  patterns: Pattern[];
  /** No pattern is worth more; at least the floor. */
  bound: number;
}

const STEPS = 100_000;
const KEPT = 6;

/** @param worth of one of each item, in whole numbers @param floor patterns that are worth no more are not looked for */
export function bestPatterns(
  items: PatternItems,
  room: Float64Array,
  worth: Float64Array,
  floor: number,
  steps = STEPS,
): BestPatterns {
  const search = new Search(items, room, worth, floor, steps);
  search.go(0, 0);
  return {
    patterns: search.found,
    bound: search.cut ? Math.max(floor, search.atRoot) : search.best,
  };
}

class Search {
  best: number;
  cut = false;
  readonly found: Pattern[] = [];
  readonly atRoot: number;
  private steps = 0;
  private readonly order: number[];
  private readonly counts: Int32Array;
  private readonly left: Float64Array;
  private readonly share: Float64Array;
  private readonly mixed: Float64Array;

  constructor(
    private readonly items: PatternItems,
    room: Float64Array,
    private readonly worth: Float64Array,
    floor: number,
    private readonly limit: number,
  ) {
    this.best = floor;
    this.counts = new Int32Array(items.count);
    this.left = room.map((has) => Math.max(0, has));
    const useful = Array.from({ length: items.count }, (_, item) => item).filter(
      (item) => worth[item]! > 0 && this.fitting(item) > 0,
    );
    let least = { bound: Infinity, share: room, order: useful };
    for (const share of mixtures(this.left)) {
      const mixed = this.mix(share);
      const order = useful.toSorted(
        (a, b) => worth[b]! * mixed[a]! - worth[a]! * mixed[b]! || a - b,
      );
      const bound = this.boundFrom(order, 0, mixed, share);
      if (bound < least.bound) least = { bound, share, order };
    }
    this.share = least.share;
    this.order = least.order;
    this.mixed = this.mix(least.share);
    this.atRoot = least.bound;
  }

  go(from: number, value: number): void {
    if (value > this.best) this.keep(value);
    for (let at = from; at < this.order.length; at += 1) {
      if (this.cut || (this.steps += 1) > this.limit) {
        this.cut = true;
        return;
      }
      if (value + this.boundFrom(this.order, at, this.mixed, this.share) <= this.best) return;
      const item = this.order[at]!;
      for (let count = this.fitting(item); count > 0; count -= 1) {
        this.put(item, count);
        this.go(at + 1, value + count * this.worth[item]!);
        this.put(item, -count);
      }
    }
  }

  private keep(value: number): void {
    this.best = value;
    this.found.push({ counts: this.counts.slice(), worth: value });
    if (this.found.length > KEPT) this.found.shift();
  }

  private put(item: number, count: number): void {
    const { dims, size } = this.items;
    this.counts[item]! += count;
    for (let d = 0; d < dims; d += 1) this.left[d]! -= count * size[item * dims + d]!;
  }

  private fitting(item: number): number {
    const { dims, size, most } = this.items;
    let count = most[item]!;
    for (let d = 0; d < dims; d += 1) {
      const asked = size[item * dims + d]!;
      if (asked > 0) count = Math.min(count, Math.floor(this.left[d]! / asked));
    }
    return count;
  }

  private mix(share: Float64Array): Float64Array {
    const { count, dims, size } = this.items;
    return Float64Array.from({ length: count }, (_, item) =>
      share.reduce((sum, part, d) => sum + part * size[item * dims + d]!, 0),
    );
  }

  /** What those of the rest that fit can be worth at most, in fractions of the mixture; rounded up a little, and then down to a whole number. */
  private boundFrom(
    order: readonly number[],
    from: number,
    mixed: Float64Array,
    share: Float64Array,
  ): number {
    let room = 0;
    for (let d = 0; d < share.length; d += 1) room += share[d]! * this.left[d]!;
    let value = 0;
    for (let i = from; i < order.length; i += 1) {
      const item = order[i]!;
      const [count, asked] = [this.fitting(item), mixed[item]!];
      if (count === 0) continue;
      if (asked * count <= room) {
        room -= asked * count;
        value += this.worth[item]! * count;
        continue;
      }
      value += (this.worth[item]! * room) / asked;
      break;
    }
    return Math.floor(value * (1 + 1e-9) + 1e-6);
  }
}

/** Weights of the dimensions: each alone, and mixtures of all that there is room in. */
function mixtures(room: Float64Array): Float64Array[] {
  const parts = (weights: readonly number[]) =>
    Float64Array.from(room, (has, d) => weights[d]! / Math.max(1, has));
  const found = Array.from(room.keys(), (only) =>
    parts(Array.from(room.keys(), (d) => Number(d === only))),
  );
  for (let a = 0; a < room.length; a += 1)
    for (let b = a + 1; b < room.length; b += 1)
      for (const tenth of [2, 4, 5, 6, 8])
        found.push(
          parts(Array.from(room.keys(), (d) => (d === a ? tenth : d === b ? 10 - tenth : 0))),
        );
  if (room.length > 2) found.push(parts(Array.from(room, () => 1)));
  return found;
}
