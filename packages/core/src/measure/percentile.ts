/**
 * Percentiles by two of the nine competing definitions. Source: Hyndman & Fan, "Sample quantiles in statistical packages",
 * The American Statistician 50(4), 1996. The type stands beside every percentile that is shown.
 */

/**
 * Type 1, nearest rank: always a value that was observed. Null without samples; samples that are not numbers are dropped.
 *
 * @param percent whole per cent, 0 to 100: a fraction would round wrongly, as 0.07 × 100 does
 * @throws RangeError for anything else
 * @example nearestRank([15, 20, 35, 40, 50], 30) // 20
 */
export function nearestRank(samples: readonly number[], percent: number): number | null {
  if (!Number.isInteger(percent) || percent < 0 || percent > 100)
    throw new RangeError('a whole per cent from 0 to 100');
  const sorted = ascending(samples);
  if (sorted.length === 0) return null;
  return sorted[Math.max(1, Math.floor((percent * sorted.length + 99) / 100)) - 1]!;
}

/**
 * Type 7, linear between neighbours. Null without samples; samples that are not numbers are dropped.
 *
 * @param percent 0 to 100
 * @throws RangeError outside of it
 * @example percentile([15, 20, 35, 40, 50], 40) // 29
 */
export function percentile(samples: readonly number[], percent: number): number | null {
  if (!(percent >= 0 && percent <= 100)) throw new RangeError('a per cent from 0 to 100');
  const sorted = ascending(samples);
  if (sorted.length === 0) return null;
  const h = ((sorted.length - 1) * percent) / 100;
  const below = Math.floor(h);
  const low = sorted[below]!;
  return h === below ? low : low + (h - below) * (sorted[below + 1]! - low);
}

const ascending = (samples: readonly number[]): number[] =>
  samples.filter((value) => Number.isFinite(value)).sort((a, b) => a - b);
