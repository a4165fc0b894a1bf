import { Placer, better, type Placed } from './placer.js';
import { earliestEnds } from './schedule-bound.js';
import type { Work, Schedule } from './work.js';

/** Up to so many works all orders are tried. */
const ALL_ORDERS_OF = 7;
/** Places tried before it is settled with what was found. */
const BUDGET = 40_000;

export function schedule(works: readonly Work[], from: number, budget = BUDGET): Schedule {
  const placer = new Placer(works, from);
  const open = [...works.keys()].filter((i) => works[i]!.at === undefined);
  let best = placer.place(byUrgency(works, open));
  let all = open.length <= ALL_ORDERS_OF;
  if (all)
    for (const order of orders(open.length))
      best = better(best, placer.place(order.map((i) => open[i]!)));
  else best = improved(placer, works, best, budget);
  const placed = works.map((work, i) => (best.starts[i] === null ? null : work));
  const bound = Math.max(from, ...earliestEnds(placed, from));
  best = gathered(works, from, best);
  // Those that found no place might have with others left out: then no order is the proof of an earliest end.
  all &&= best.left === 0;
  return {
    starts: best.starts,
    end: best.end,
    bound: all ? best.end : bound,
    proven: all || best.end <= bound,
    windows: usedOf(stretchesOf(works), works, best.starts).length,
  };
}

type Stretch = readonly [from: number, until: number];

/** When any of the works may be: ascending, apart. */
function stretchesOf(works: readonly Work[]): Stretch[] {
  const all = works
    .flatMap(({ at, windows }) => (at === undefined ? windows : []))
    .sort(([one], [other]) => one - other);
  const found: [number, number][] = [];
  for (const [from, until] of all) {
    const last = found.at(-1);
    if (last && from <= last[1]) last[1] = Math.max(last[1], until);
    else found.push([from, until]);
  }
  return found;
}

const within = ([from, until]: Stretch, at: number): boolean => at >= from && at < until;

/** Those in which a work begins, the one with the fewest first. */
function usedOf(
  stretches: readonly Stretch[],
  works: readonly Work[],
  starts: readonly (number | null)[],
): Stretch[] {
  const begun = starts.filter((start, i) => start !== null && works[i]!.at === undefined);
  const countIn = (stretch: Stretch) => begun.filter((start) => within(stretch, start!)).length;
  return stretches
    .filter((stretch) => countIn(stretch) > 0)
    .sort((one, other) => countIn(one) - countIn(other));
}

/**
 * Fewer stretches for the same end, so that people are there on fewer nights: the one in which the fewest begin is left out,
 * again and again, as long as all still find a place that ends no later. Not the fewest there are; costs two placements for
 * each stretch.
 */
function gathered(works: readonly Work[], from: number, best: Placed): Placed {
  const stretches = stretchesOf(works);
  let [found, open] = [best, [...works]];
  const kept = new Set<number>();
  for (let tried = 0; tried < stretches.length; tried += 1) {
    const used = usedOf(stretches, works, found.starts);
    const shut = used.find(([begins]) => !kept.has(begins));
    if (!shut || used.length === 1) break;
    const fewer = open.map((work) => ({
      ...work,
      windows: work.windows.filter(([begins]) => !within(shut, begins)),
    }));
    const placer = new Placer(fewer, from);
    const again = [found.order, byUrgency(fewer, found.order)]
      .map((order) => placer.place(order))
      .find(
        (one) =>
          one.left <= found.left &&
          one.end <= found.end &&
          usedOf(stretches, works, one.starts).length <= used.length,
      );
    if (again) [found, open] = [again, fewer];
    else kept.add(shut[0]);
  }
  return found;
}

/** Those with the least choice first: whose windows end first, then the longest. */
function byUrgency(works: readonly Work[], open: readonly number[]): number[] {
  const last = ({ windows }: Work) => windows.at(-1)?.[1] ?? 0;
  const choice = ({ windows, minutes }: Work) =>
    windows.reduce((sum, [from, until]) => sum + Math.max(0, until - from - minutes), 0);
  return [...open].sort(
    (a, b) =>
      Number(choice(works[a]!) > choice(works[b]!) * 1.5) -
        Number(choice(works[b]!) > choice(works[a]!) * 1.5) ||
      last(works[a]!) - last(works[b]!) ||
      works[b]!.minutes - works[a]!.minutes ||
      a - b,
  );
}

/** Two of the order change places, or one goes elsewhere, as long as it gets better; the same for the same works. */
function improved(placer: Placer, works: readonly Work[], first: Placed, budget: number): Placed {
  const n = first.order.length;
  let seed = 1;
  const random = (below: number) => {
    seed = (Math.imul(seed, 1_103_515_245) + 12_345) & 0x7fffffff;
    return Math.floor((seed / 0x80000000) * below);
  };
  let best = first;
  const longest = [...first.order].sort((a, b) => works[b]!.minutes - works[a]!.minutes || a - b);
  best = better(best, placer.place(longest));
  let current = best;
  for (let tried = 0; tried < budget / n; tried += 1) {
    const order = [...current.order];
    const [from, to] = [random(n), random(n)];
    if (tried % 2 === 0) [order[from], order[to]] = [order[to]!, order[from]!];
    else order.splice(to, 0, ...order.splice(from, 1));
    const next = placer.place(order);
    // What is as good is taken as well: that leads off plateaus.
    if (better(next, current) === next) current = next;
    best = better(best, current);
    if (tried % 500 === 499) current = best;
  }
  return best;
}

/** Every order of so many. */
function* orders(n: number): Generator<number[]> {
  const order = Array.from({ length: n }, (_, i) => i);
  const turns = new Array<number>(n).fill(0);
  yield order;
  for (let i = 1; i < n;)
    if (turns[i]! < i) {
      const other = i % 2 === 0 ? 0 : turns[i]!;
      [order[other], order[i]] = [order[i]!, order[other]!];
      yield order;
      turns[i]! += 1;
      i = 1;
    } else turns[i++] = 0;
}
