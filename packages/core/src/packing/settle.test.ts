import fc from 'fast-check';
import highs from 'highs';
import { describe, expect, it, test } from 'vitest';
import { failoverCase, questionOf, rule } from './cases.js';
import { exactlyBy, solverOf } from './linear-model.js';
import type { PackingQuestion } from './question.js';
import { settle } from './settle.js';
import { faultsOf } from './verify.js';

// Its types are those of its CommonJS build; as a module it is the function itself.
const loadHighs = highs as unknown as typeof highs.default;

const alike = (n: number): number[][] => Array.from({ length: n }, () => [16, 64]);

describe('worked instances on hosts of 16 cores and 64 GiB (optimum by exhaustive search and a MILP solver, design section 12)', () => {
  test.each([
    ['A', 3, '8,24 8,32 1,32 8,4 6,40 6,24 2,8 8,16'],
    ['B', 3, '10,24 8,24 4,24 6,24 2,24'],
    ['C', 3, '10,8 8,40 8,40'],
    ['D', 2, '16,64 16,64'],
  ])('%s fits on %d and on no fewer', (_, hosts, sizes) => {
    const units = sizes.split(' ').map((size) => size.split(',').map(Number));
    const fitting = questionOf({ units, hosts: alike(hosts) });
    const { answer, at } = settle(fitting);
    expect(answer).toBe('fits');
    expect(faultsOf(fitting, at)).toEqual([]);
    expect(settle(questionOf({ units, hosts: alike(hosts - 1) })).answer).toBe('does not fit');
  });
  it('E: one guest larger than every host fits nowhere', () =>
    expect(settle(questionOf({ units: [[1, 65]], hosts: alike(5) })).answer).toBe('does not fit'));
});

it('a fit of the sums is no fit of the guests: 40, 40, 40 GiB of 128 on two hosts of 64', () => {
  const result = settle(
    questionOf({ units: [[1, 40], [1, 40], [1, 40]], hosts: alike(2) }), // prettier-ignore
  );
  expect(result.answer).toBe('does not fit');
  expect(result.left).toHaveLength(1);
});

it('says "not settled" when its steps are spent', () => {
  const sizes = [53, 52, 51, 50, 50, 49, 48, 47, 35, 34, 33, 33, 33, 32];
  const hard = questionOf({
    units: sizes.map((memory) => [memory]),
    hosts: Array.from({ length: 6 }, () => [100]),
  });
  expect(settle(hard, 1).answer).not.toBe('does not fit');
  expect(settle(hard).answer).not.toBe('not settled');
});

it('a host overfull in one dimension takes nothing of it from the others, and takes what asks none of it', () => {
  const question = questionOf({
    units: [[0, 1], [0, 1], [0, 4]], // prettier-ignore
    hosts: [[0, 1], [-1, 1], [0, 4], [0, 5]], // prettier-ignore
    limits: [rule([0, 1, 2], [0, 1, 0, 1], null)],
    candidates: [[0, 1, 3], [0, 1, 2], [2, 3]], // prettier-ignore
  });
  const { answer, at } = settle(question);
  expect(answer).toBe('fits');
  expect([...at]).toEqual([3, 1, 3]);
});

/** Every placing, tried. */
function byHand(question: PackingQuestion): boolean {
  const at = new Int32Array(question.units).fill(-1);
  const go = (unit: number): boolean => {
    if (unit === question.units) return faultsOf(question, at).length === 0;
    for (const host of question.candidates[unit]!) {
      at[unit] = host;
      if (go(unit + 1)) return true;
    }
    at[unit] = -1;
    return false;
  };
  return go(0);
}

const size = fc.tuple(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 1, max: 6 }));
const arbitrary = fc
  .record({
    units: fc.array(size, { minLength: 1, maxLength: 6 }),
    hosts: fc.array(fc.tuple(fc.integer({ min: -2, max: 9 }), fc.integer({ min: 1, max: 9 })), {
      minLength: 1,
      maxLength: 4,
    }),
    reach: fc.array(fc.integer({ min: 1, max: 15 }), { minLength: 6, maxLength: 6 }),
    apart: fc.array(fc.boolean(), { minLength: 6, maxLength: 6 }),
    together: fc.array(fc.boolean(), { minLength: 6, maxLength: 6 }),
    most: fc.integer({ min: 1, max: 2 }),
    standing: fc.boolean(),
  })
  .map(({ units, hosts, reach, apart, together, most, standing }) => {
    const members = (chosen: boolean[]) => [...units.keys()].filter((unit) => chosen[unit]);
    const limits = [
      rule(
        members(apart),
        hosts.map((_, host) => host),
        most,
      ),
      rule(members(together), hosts.map((_, host) => host % 2), null), // prettier-ignore
    ];
    if (standing) limits[0]!.standing[0] = 1;
    return questionOf({
      units,
      hosts,
      limits,
      candidates: units.map((_, unit) =>
        [...hosts.keys()].filter((host) => (reach[unit]! >> host) & 1),
      ),
    });
  });

it('agrees with trying every placing, rules and reach included, and its witness holds', () => {
  fc.assert(
    fc.property(arbitrary, (question) => {
      const { answer, at } = settle(question);
      expect(answer).toBe(byHand(question) ? 'fits' : 'does not fit');
      if (answer === 'fits') expect(faultsOf(question, at)).toEqual([]);
    }),
    { numRuns: 10_000 },
  );
});

it('settles failovers of up to 24 guests on up to 8 hosts: 300 of 300 with a solver, nearly all without', async () => {
  const solve = exactlyBy(solverOf(await loadHighs()), 30);
  let alone = 0;
  for (let seed = 0; seed < 300; seed += 1) {
    const question = failoverCase(seed);
    let asked = false;
    const { answer, at, left } = settle(question, undefined, (same) => {
      asked = true;
      return solve(same);
    });
    expect(answer, `seed ${seed}`).not.toBe('not settled');
    if (answer === 'fits') expect(left).toEqual([]);
    expect(faultsOf(question, at)).toEqual([]);
    alone += Number(!asked);
  }
  expect(alone / 300).toBeGreaterThan(0.99);
});

describe('among many hosts', () => {
  it('few are looked at for each unit; what they do not hold is asked of all', () => {
    const hosts = 200;
    const everywhere = [...Array(hosts).keys()];
    const roomy = questionOf({
      units: Array.from({ length: 300 }, (_, unit) => [1 + (unit % 7), 1 + (unit % 3)]),
      hosts: everywhere.map((host) => [host % 2 === 0 ? 3 : 12, 8]),
      limits: [rule([0, 1, 2, 3], everywhere, 1)],
    });
    const found = settle(roomy);
    expect([found.answer, faultsOf(roomy, found.at)]).toEqual(['fits', []]);
    // The rule is full on the first hundred hosts, which have all the room there is a use for.
    const ruled = rule([0, 1], everywhere, 1);
    ruled.standing.fill(1, 0, 100);
    const narrow = questionOf({
      units: [[2], [2]],
      hosts: everywhere.map(() => [4]),
      limits: [ruled],
    });
    const { answer, at } = settle(narrow);
    expect([answer, faultsOf(narrow, at)]).toEqual(['fits', []]);
    expect(at.every((host) => host >= 100)).toBe(true);
    const none = { ...narrow, candidates: narrow.candidates.map((set) => set.slice(0, 100)) };
    expect(settle(none).answer).toBe('does not fit');
  });
});
