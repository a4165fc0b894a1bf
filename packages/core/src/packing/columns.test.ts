/**
 * Bounds by columns, and placings out of patterns: against every pattern there is, against the solver's own program of units
 * and hosts, and on classes of cases whose recipe is published (source in published-cases.ts).
 */
import highs from 'highs';
import { beforeAll, describe, expect, it } from 'vitest';
import { chance } from './chance.js';
import { questionOf, rule } from './cases.js';
import { columnsOf } from './columns.js';
import { fewestHosts } from './fewest-hosts.js';
import { linearModel, solverOf, type SolveLinear } from './linear-model.js';
import { bestPatterns, type PatternItems } from './patterns.js';
import { PUBLISHED_CLASSES, publishedCase } from './published-cases.js';
import type { PackingQuestion } from './question.js';
import { settle } from './settle.js';
import { faultsOf } from './verify.js';

// Its types are those of its CommonJS build; as a module it is the function itself.
const loadHighs = highs as unknown as typeof highs.default;

let solve: SolveLinear;
beforeAll(async () => {
  solve = solverOf(await loadHighs());
});

/** The bound, and a placing where the bound leaves room for a better one. */
function byColumns(
  question: PackingQuestion,
  start: Int32Array,
  enough: number,
  goOn?: () => boolean,
): { bound: number; at: Int32Array | null } {
  const columns = columnsOf(question, start, solve, goOn);
  const bound = columns.bound(enough);
  return { bound, at: bound < enough ? columns.placing(bound, enough) : null };
}

/** The worth of the best of all patterns. */
function bestByHand(
  { count, dims, size, most }: PatternItems,
  room: Float64Array,
  worth: number[],
) {
  const left = [...room];
  const from = (item: number): number => {
    if (item === count) return 0;
    let best = 0;
    let put = 0;
    for (; put <= most[item]!; put += 1) {
      if (left.some((has) => has < 0)) break;
      best = Math.max(best, put * worth[item]! + from(item + 1));
      for (let d = 0; d < dims; d += 1) left[d]! -= size[item * dims + d]!;
    }
    for (let d = 0; d < dims; d += 1) left[d]! += put * size[item * dims + d]!;
    return best;
  };
  return from(0);
}

function knapsack(seed: number) {
  const random = chance(seed);
  const upTo = (n: number) => Math.floor(random() * n);
  const dims = 1 + upTo(3);
  const count = 2 + upTo(5);
  return {
    items: {
      count,
      dims,
      size: Float64Array.from({ length: count * dims }, () => upTo(40)),
      most: Int32Array.from({ length: count }, () => 1 + upTo(3)),
    },
    room: Float64Array.from({ length: dims }, () => 20 + upTo(60)),
    worth: Array.from({ length: count }, () => upTo(900)),
  };
}

describe('the pattern that is worth most', () => {
  it('is the best of all there are, in one to three dimensions (400 cases)', () => {
    for (let seed = 0; seed < 400; seed += 1) {
      const { items, room, worth } = knapsack(seed);
      const best = bestByHand(items, room, worth);
      const { patterns, bound } = bestPatterns(items, room, Float64Array.from(worth), 0);
      expect([seed, bound, patterns.at(-1)?.worth ?? 0]).toEqual([seed, best, best]);
    }
  });
  it('cut short, it still says what none is worth more than', () => {
    let looser = 0;
    for (let seed = 0; seed < 200; seed += 1) {
      const { items, room, worth } = knapsack(seed);
      const best = bestByHand(items, room, worth);
      const { bound } = bestPatterns(items, room, Float64Array.from(worth), 0, 2);
      expect(bound).toBeGreaterThanOrEqual(best);
      looser += Number(bound > best);
    }
    expect(looser).toBeGreaterThan(20);
  });
});

/** Hosts of two kinds, some guests apart from one another, some that may not go everywhere. */
function mixedCase(seed: number): PackingQuestion {
  const random = chance(seed + 77);
  const units = Array.from({ length: 11 }, () => [
    3 + Math.floor(random() * 9),
    1 + Math.floor(random() * 6),
  ]);
  const hosts = Array.from({ length: 7 }, (_, host) => (host % 3 === 0 ? [24, 10] : [16, 14]));
  const few = [0, 1, 2, 3];
  const all = [...hosts.keys()];
  return questionOf({
    units,
    hosts,
    candidates: units.map((_, unit) => (unit % 4 === 0 ? few : all)),
    limits:
      seed % 2 === 0 ? [rule([1, 2, 3, 5], all, 1)] : [rule([1, 2, 3], [0, 0, 1, 1, 2, 2, 3], 1)],
  });
}

describe('the fewest hosts by columns', () => {
  it('never proves too much, and hardly ever too little: kinds of host, rules, guests that may not go everywhere', () => {
    let [asked, equal] = [0, 0];
    for (let seed = 0; seed < 30; seed += 1) {
      const question = mixedCase(seed);
      const start = settle(question).at;
      if (start.includes(-1)) continue;
      const least = Math.round(solve(linearModel(question, { ofHost: () => 1 }), 20).bound);
      const { bound, at } = byColumns(question, start, new Set(start).size);
      expect([seed, bound <= least]).toEqual([seed, true]);
      if (at) {
        expect(faultsOf(question, at)).toEqual([]);
        expect(new Set(at).size).toBeGreaterThanOrEqual(least);
      }
      asked += 1;
      equal += Number(bound === least);
    }
    expect(asked).toBeGreaterThan(20);
    expect(equal / asked).toBeGreaterThanOrEqual(0.9);
  });

  it.each(PUBLISHED_CLASSES)('class %i, 24 items: found and proved', (number) => {
    for (const seed of [0, 1, 2]) {
      const { question, optimum } = publishedCase(number, 24, seed);
      const start = Int32Array.from({ length: 24 }, (_, unit) => unit);
      const { used, bound, proven, at } = fewestHosts({ question, start, costOf: () => 1, solve });
      expect(faultsOf(question, at)).toEqual([]);
      expect(new Set(at).size).toBe(used);
      expect([seed, proven, bound.hosts]).toEqual([seed, true, used]);
      // Where the recipe says what is best, that is it.
      if (optimum !== null) expect(used).toBe(optimum);
    }
  });

  it('stopped on the way, it says what was proved by then, which is never too much', () => {
    const { question, optimum } = publishedCase(10, 24, 1);
    const start = Int32Array.from({ length: 24 }, (_, unit) => unit);
    const said = [0, 3, 8, 20].map((programs) => {
      let left = programs;
      return byColumns(question, start, 24, () => (left -= 1) >= 0);
    });
    expect(said[0]).toEqual({ bound: 0, at: null });
    expect(said.every(({ bound }) => bound <= optimum!)).toBe(true);
  });

  it('no case of 12 items is proved to need more than a solver places it on', () => {
    for (const number of PUBLISHED_CLASSES) {
      const { question } = publishedCase(number, 12, 5);
      const narrow = questionOf({
        units: Array.from({ length: 12 }, (_, unit) =>
          Array.from(question.need.subarray(unit * 2, unit * 2 + 2)),
        ),
        hosts: Array.from({ length: 9 }, () => Array.from(question.room.subarray(0, 2))),
      });
      const start = settle(narrow).at;
      const least = Math.round(solve(linearModel(narrow, { ofHost: () => 1 }), 30).bound);
      const { bound } = byColumns(narrow, start, Infinity);
      expect([number, bound]).toEqual([number, least]);
    }
  });
});
