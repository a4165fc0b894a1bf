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
  private readonly counts: Int32Array;
  private readonly left: Float64Array;
  /** Items by worth for what they take of the mixture, the dearest first; all else that is asked stands in this order. */
  private readonly order: readonly number[];
  private readonly size: Float64Array;
  private readonly most: Int32Array;
  private readonly value: Float64Array;
  private readonly mixed: Float64Array;
  private readonly share: Float64Array;

  constructor(
    private readonly items: PatternItems,
    room: Float64Array,
    worth: Float64Array,
    floor: number,
    private readonly limit: number,
  ) {
    const { count, dims } = items;
    this.best = floor;
    this.counts = new Int32Array(count);
    this.left = room.map((has) => Math.max(0, has));
    const useful = Array.from({ length: count }, (_, item) => item).filter(
      (item) => worth[item]! > 0 && fittingIn(items, this.left, item) > 0,
    );
    const { share, order, bound } = tightest(items, this.left, worth, useful);
    const mixed = mix(items, share);
    this.share = share;
    this.order = order;
    this.atRoot = bound;
    this.size = Float64Array.from(
      order.flatMap((item) => [...items.size.subarray(item * dims, (item + 1) * dims)]),
    );
    this.most = Int32Array.from(order, (item) => items.most[item]!);
    this.value = Float64Array.from(order, (item) => worth[item]!);
    this.mixed = Float64Array.from(order, (item) => mixed[item]!);
  }

  go(from: number, value: number): void {
    if (value > this.best) this.keep(value);
    for (let at = from; at < this.order.length; at += 1) {
      if (this.cut || (this.steps += 1) > this.limit) {
        this.cut = true;
        return;
      }
      if (value + this.boundFrom(at) <= this.best) return;
      for (let count = this.fitting(at); count > 0; count -= 1) {
        this.put(at, count);
        this.go(at + 1, value + count * this.value[at]!);
        this.put(at, -count);
      }
    }
  }

  private keep(value: number): void {
    this.best = value;
    this.found.push({ counts: this.counts.slice(), worth: value });
    if (this.found.length > KEPT) this.found.shift();
  }

  private put(at: number, count: number): void {
    const dims = this.left.length;
    this.counts[this.order[at]!]! += count;
    for (let d = 0; d < dims; d += 1) this.left[d]! -= count * this.size[at * dims + d]!;
  }

  /** How many of those at a place in the order fit yet. */
  private fitting(at: number): number {
    const { size, left } = this;
    const dims = left.length;
    let count = this.most[at]!;
    for (let d = 0; d < dims; d += 1) {
      const demand = size[at * dims + d]!;
      if (demand > left[d]!) return 0;
      if (count > 1 && demand > 0) count = Math.min(count, Math.floor(left[d]! / demand));
    }
    return count;
  }

  /** What those of the rest that fit can be worth at most, in fractions of the mixture; rounded up a little, and then down to a whole number. */
  private boundFrom(from: number): number {
    const { left, share, mixed, value } = this;
    let room = 0;
    for (let d = 0; d < left.length; d += 1) room += share[d]! * left[d]!;
    let sum = 0;
    for (let at = from; at < value.length; at += 1) {
      const count = this.fitting(at);
      if (count === 0) continue;
      const demand = mixed[at]! * count;
      if (demand > room) {
        sum += (value[at]! * room) / mixed[at]!;
        break;
      }
      room -= demand;
      sum += value[at]! * count;
    }
    return roundedUp(sum);
  }
}

const roundedUp = (value: number): number => Math.floor(value * (1 + 1e-9) + 1e-6);

/** How many of an item a whole host takes. */
function fittingIn({ dims, size, most }: PatternItems, room: Float64Array, item: number): number {
  let count = most[item]!;
  for (let d = 0; d < dims; d += 1) {
    const demand = size[item * dims + d]!;
    if (demand > 0) count = Math.min(count, Math.floor(room[d]! / demand));
  }
  return count;
}

const mix = ({ count, dims, size }: PatternItems, share: Float64Array): Float64Array =>
  Float64Array.from({ length: count }, (_, item) => {
    let sum = 0;
    for (let d = 0; d < dims; d += 1) sum += share[d]! * size[item * dims + d]!;
    return sum;
  });

/** Of the mixtures the one that proves the most, and the items by what they are worth in it. */
function tightest(
  items: PatternItems,
  room: Float64Array,
  worth: Float64Array,
  useful: readonly number[],
): { share: Float64Array; order: readonly number[]; bound: number } {
  let least = { share: room, order: useful, bound: Infinity };
  for (const share of mixtures(room)) {
    const mixed = mix(items, share);
    const order = useful.toSorted((a, b) => worth[b]! * mixed[a]! - worth[a]! * mixed[b]! || a - b);
    let left = share.reduce((sum, part, d) => sum + part * room[d]!, 0);
    let value = 0;
    for (const item of order) {
      const count = fittingIn(items, room, item);
      const demand = mixed[item]! * count;
      const part = demand > left ? left / demand : 1;
      value += worth[item]! * count * part;
      left -= demand * part;
      if (part < 1) break;
    }
    const bound = roundedUp(value);
    if (bound < least.bound) least = { share, order, bound };
  }
  return least;
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
