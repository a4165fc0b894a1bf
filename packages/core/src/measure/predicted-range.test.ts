/** The range of the next run: against tables, against the defaults of the trade, and by simulation with known truth. */
import { describe, expect, it, test } from 'vitest';
import { predictedRange, quantile90 } from './predicted-range.js';

describe('the 90th percentile of Student’s t', () => {
  // Abramowitz and Stegun, Handbook of Mathematical Functions, table 26.10.
  test.each([
    [4, 1.533],
    [5, 1.476],
    [6, 1.44],
    [8, 1.397],
    [10, 1.372],
    [15, 1.341],
    [20, 1.325],
    [30, 1.31],
    [60, 1.296],
    [120, 1.289],
  ])('with %i degrees of freedom', (freedom, wanted) =>
    expect(Math.abs(quantile90(freedom) - wanted)).toBeLessThan(0.0015),
  );
});

describe('the range', () => {
  // Common practice, no source: without a run 0.5 to 3 times, after one or two about 0.6 to 2 times.
  it('without a run is that of the trade', () => {
    const { low, high } = predictedRange([]);
    expect([low, high].map((one) => one.toFixed(6))).toEqual(['0.500000', '3.000000']);
  });
  it.each([[[1]], [[1, 1]]])('after %j narrows to about 0.6 to 2 times', (ratios) => {
    const { low, high } = predictedRange(ratios);
    expect(low).toBeGreaterThan(0.54);
    expect(low).toBeLessThan(0.66);
    expect(high).toBeGreaterThan(1.8);
    expect(high).toBeLessThan(2.25);
  });
  it('narrows with every run like those before, and follows where runs are slower', () => {
    const widths = [1, 5, 20, 80].map((n) => {
      const { low, high } = predictedRange(Array.from({ length: n }, () => 1));
      return high / low;
    });
    expect([...widths].sort((a, b) => b - a)).toEqual(widths);
    const slow = predictedRange(Array.from({ length: 30 }, () => 2));
    expect(slow.low).toBeGreaterThan(1.5);
    expect(slow.high).toBeLessThan(2.6);
  });
});

/** A generator with a seed, so that a run can be repeated: mulberry32, public domain. */
function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

describe('it holds in 8 of 10 runs', () => {
  const TRIALS = 6000;
  const random = seeded(14);
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  // Truth as the prior has it: 4 degrees of freedom of a spread of 0.413, the middle as uncertain as one run.
  const PRIOR_SCALE = Math.log(Math.sqrt(6)) / (1.533 * Math.SQRT2);
  const truth = () => {
    const chi = Array.from({ length: 4 }, normal).reduce((sum, one) => sum + one * one, 0);
    const spread = Math.sqrt((4 * PRIOR_SCALE ** 2) / chi);
    return { middle: Math.log(Math.sqrt(1.5)) + spread * normal(), spread };
  };
  it.each([0, 1, 2, 5, 10, 30])('after %i runs on routes as they differ', (n) => {
    let held = 0;
    for (let trial = 0; trial < TRIALS; trial += 1) {
      const { middle, spread } = truth();
      const run = () => Math.exp(middle + spread * normal());
      const { low, high } = predictedRange(Array.from({ length: n }, run));
      const next = run();
      held += Number(next >= low && next <= high);
    }
    const share = held / TRIALS;
    expect(share).toBeGreaterThan(0.76);
    expect(share).toBeLessThan(0.84);
  });
});
