/** Placing by an aim, against every placing there is; the published optima stand in rearrange.test.ts. */
import highs from 'highs';
import { beforeAll, describe, expect, it } from 'vitest';
import { valueOf, type CountedByHost, type PlacingAim } from './aims.js';
import { chance } from './chance.js';
import { questionOf, rule } from './cases.js';
import type { SolveLinear } from './linear-model.js';
import { solverOf } from './linear-model.js';
import { placeUnits } from './place-units.js';
import { Board, type PackingQuestion, type Placing } from './question.js';
import { faultsOf } from './verify.js';

const loadHighs = highs as unknown as typeof highs.default;
let solve: SolveLinear;
beforeAll(async () => {
  solve = solverOf(await loadHighs());
});

const none = (hosts: number) => new Uint8Array(hosts);
const fewest = (hosts: number, used: number[] = []): PlacingAim => {
  const flags = none(hosts);
  for (const host of used) flags[host] = 1;
  return { by: 'fewest', used: flags };
};
const even = (has: number[][], taken = has.map((one) => one.map(() => 0))): PlacingAim => ({
  by: 'even',
  has: Float64Array.from(has.flat()),
  taken: Float64Array.from(taken.flat()),
});
const licence = (more: Partial<CountedByHost> & { covers: Uint8Array }): CountedByHost => ({
  once: new Float64Array(more.standing?.length ?? 3).fill(1),
  copies: 0,
  standing: new Int32Array(3),
  ...{ allowed: 0, price: 1 },
  ...more,
});

/** Every placing: the least that is left over, and the least value among those. */
function byHand(question: PackingQuestion, aim: PlacingAim): { left: number; value: number } {
  const board = new Board(question);
  let best = { left: Infinity, value: Infinity };
  const go = (unit: number): void => {
    if (unit === question.units) {
      const at: Placing = board.at.slice();
      const left = at.filter((host) => host < 0).length;
      const value = valueOf(question, aim, at);
      if (left < best.left || (left === best.left && value < best.value)) best = { left, value };
      return;
    }
    for (const host of question.candidates[unit]!) {
      if (!board.fits(unit, host)) continue;
      board.put(unit, host);
      go(unit + 1);
      board.take(unit);
    }
    go(unit + 1);
  };
  go(0);
  return best;
}

/** Six units on three hosts out of a seed, with two kinds of unit, a rule, and one unit that may not go everywhere. */
function made(seed: number): { question: PackingQuestion; aims: PlacingAim[] } {
  const random = chance(seed);
  const whole = (from: number, to: number) => from + Math.floor(random() * (to - from + 1));
  const kinds = [0, 1].map(() => [whole(1, 4), whole(2, 9)]);
  const units = Array.from({ length: 6 }, () => kinds[whole(0, 1)]!);
  const hosts = Array.from({ length: 3 }, () => [whole(4, 9), whole(8, 20)]);
  const question = questionOf({
    ...{ units, hosts },
    candidates: units.map((_, unit) => (unit === 5 ? [0, 2] : [0, 1, 2])),
    limits: random() < 0.6 ? [rule([0, 1, 2], [0, 1, 1], whole(1, 2))] : [],
  });
  const covers = Uint8Array.from(units, () => whole(0, 1));
  const standing = Int32Array.from([whole(0, 2), 0, whole(0, 1)]);
  const once = Float64Array.from(hosts, () => whole(1, 8));
  return {
    question,
    aims: [
      fewest(3, random() < 0.5 ? [whole(0, 2)] : []),
      even(
        hosts.map((one) => one.map((has) => has + 5)),
        hosts.map((one) => one.map(() => whole(0, 5))),
      ),
      {
        by: 'licences',
        licences: [
          licence({
            covers,
            standing,
            once,
            copies: whole(0, 2),
            allowed: whole(0, 6),
            price: whole(0, 3),
          }),
        ],
      },
    ],
  };
}

describe('against every placing of six units on three hosts', () => {
  it.each(Array.from({ length: 30 }, (_, seed) => seed))('seed %d', (seed) => {
    const { question, aims } = made(seed);
    for (const aim of aims) {
      const truth = byHand(question, aim);
      const found = placeUnits({ question, aim, solve, seconds: 5 });
      expect(faultsOf(question, found.at)).toEqual([]);
      expect([aim.by, found.left.length]).toEqual([aim.by, truth.left]);
      expect([aim.by, found.value]).toEqual([aim.by, expect.closeTo(truth.value, 5)]);
      expect(found.proven).toBe(true);
      expect(found.leastLeft).toBe(true);
    }
  });
});

it('evens out over hosts that have nothing of what nobody asks', () => {
  const question = questionOf({
    units: [
      [2, 0],
      [2, 0],
    ],
    hosts: [
      [9, 0],
      [9, 0],
    ],
    candidates: [
      [0, 1],
      [0, 1],
    ],
  });
  const aim = even([
    [9, 0],
    [9, 0],
  ]);
  const found = placeUnits({ question, aim, solve, seconds: 5 });
  expect(found).toMatchObject({ left: [], proven: true });
  expect(found.value).toBeCloseTo(byHand(question, aim).value, 5);
  expect(new Set(found.at).size).toBe(2);
});

describe('without a solver', () => {
  it('what is put in turn holds, and nothing is said to be proved', () => {
    for (let seed = 0; seed < 30; seed += 1) {
      const { question, aims } = made(seed);
      for (const aim of aims) {
        const found = placeUnits({ question, aim });
        expect(faultsOf(question, found.at)).toEqual([]);
        expect(found).toMatchObject({ bound: null, proven: false });
      }
    }
  });
});

describe('who must be able to fail', () => {
  it('more room is kept until it does, though it takes a host more', () => {
    // Two alike fit on one host; if each must find the other half free, they go to two of three.
    const question = questionOf({ units: [[4], [4]], hosts: [[8], [8], [8]] });
    const aim = fewest(3);
    const lost = (at: Placing): number[] =>
      [0, 1, 2].filter((host) => at.filter((one) => one === host).length > 1);
    expect(placeUnits({ question, aim, solve }).value).toBe(1);
    const backed = [0, 1, 2].map((host) => ({ host, carries: [0], free: [12] }));
    const found = placeUnits({ question, aim, backed, lost, solve });
    expect(found.value).toBe(2);
    expect(found.lost).toEqual([]);
    // The sums alone would do with one: that two are needed is not proved.
    expect(found).toMatchObject({ bound: 1, proven: false });
  });
});

describe('many alike', () => {
  it('are one kind: 200 units on 40 hosts are proved at once', () => {
    const units = Array.from({ length: 200 }, (_, i) => (i % 2 ? [2, 8] : [1, 3]));
    const hosts = Array.from({ length: 40 }, () => [16, 48]);
    const question = questionOf({ units, hosts });
    const found = placeUnits({ question, aim: fewest(40), solve, seconds: 10 });
    // 100 · 8 + 100 · 3 = 1,100 in 48s: 22.9.
    expect(found).toMatchObject({ value: 23, bound: 23, proven: true });
  });
});
