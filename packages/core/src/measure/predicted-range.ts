/**
 * The range in which the next run will fall in 8 of 10 cases, as factors of what is usual: a predictive interval for the
 * logarithm of the ratio of actual to usual (Gelman et al., Bayesian Data Analysis, 3rd ed., section 3.3: normal data with
 * a conjugate prior). The prior is that of the trade, common practice without a source: 0.5 to 3 times without a run; it
 * gives about 0.6 to 2 times after one or two, and fades as runs come in. Its cost grows with the number of runs.
 */
export interface RangeFactors {
  low: number;
  high: number;
}

const PRIOR = {
  /** Middle of 0.5 and 3 times, in logarithms. */
  centre: Math.log(Math.sqrt(1.5)),
  /** It counts as so many runs for the middle, and for the spread. */
  runs: 1,
  freedom: 4,
};
/** Half of the width of 0.5 to 3 times, over the quantile and the weight of a prior alone. */
const PRIOR_SCALE =
  Math.log(Math.sqrt(6)) / (quantile90(PRIOR.freedom) * Math.sqrt(1 + 1 / PRIOR.runs));

/**
 * @param ratios of past runs: actual over usual, each above 0
 * @example predictedRange([]) // { low: 0.5, high: 3 }
 */
export function predictedRange(ratios: readonly number[]): RangeFactors {
  const logs = ratios.map(Math.log);
  const n = logs.length;
  const mean = n === 0 ? 0 : logs.reduce((sum, value) => sum + value, 0) / n;
  const squares = logs.reduce((sum, value) => sum + (value - mean) ** 2, 0);
  const weight = PRIOR.runs + n;
  const freedom = PRIOR.freedom + n;
  const centre = (PRIOR.runs * PRIOR.centre + n * mean) / weight;
  const between = ((PRIOR.runs * n) / weight) * (mean - PRIOR.centre) ** 2;
  const variance = (PRIOR.freedom * PRIOR_SCALE ** 2 + squares + between) / freedom;
  const half = quantile90(freedom) * Math.sqrt(variance * (1 + 1 / weight));
  return { low: Math.exp(centre - half), high: Math.exp(centre + half) };
}

/**
 * 90th percentile of Student's t, to a thousandth from 4 degrees of freedom on (Abramowitz and Stegun, Handbook of
 * Mathematical Functions, 26.7.5). @example quantile90(4) // 1.533
 */
export function quantile90(freedom: number): number {
  const z = 1.2815515655446004;
  const v = freedom;
  return (
    z +
    (z ** 3 + z) / (4 * v) +
    (5 * z ** 5 + 16 * z ** 3 + 3 * z) / (96 * v ** 2) +
    (3 * z ** 7 + 19 * z ** 5 + 17 * z ** 3 - 15 * z) / (384 * v ** 3)
  );
}
