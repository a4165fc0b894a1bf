/**
 * The trend of samples as the median of all slopes between two of them, which single outliers do not bend. Sources:
 * H. Theil, Indagationes Mathematicae 12, 1950; P. K. Sen, Journal of the American Statistical Association 63, 1968.
 */
import { percentile } from './percentile.js';

export interface Point {
  x: number;
  y: number;
}

export interface Trend {
  /** Change of y for one x: the median of all slopes. */
  slope: number;
  /** y at x = 0: the median of y − slope · x. */
  intercept: number;
  /** A quarter and three quarters of all slopes lie below: how sure the slope is. */
  slopeLow: number;
  slopeHigh: number;
  pairs: number;
}

/** All pairs are looked at up to so many points; above, points are averaged in equal parts of the span first. */
export const MOST_POINTS = 500;

/** Null where fewer than two different x are known. */
export function theilSen(points: readonly Point[]): Trend | null {
  const used = points.length > MOST_POINTS ? averaged(points, MOST_POINTS) : points;
  const slopes: number[] = [];
  for (let i = 0; i < used.length; i += 1) {
    for (let j = i + 1; j < used.length; j += 1) {
      const run = used[j]!.x - used[i]!.x;
      if (run !== 0) slopes.push((used[j]!.y - used[i]!.y) / run);
    }
  }
  const slope = percentile(slopes, 50);
  if (slope === null) return null;
  return {
    slope,
    intercept: percentile(
      used.map(({ x, y }) => y - slope * x),
      50,
    )!,
    slopeLow: percentile(slopes, 25)!,
    slopeHigh: percentile(slopes, 75)!,
    pairs: slopes.length,
  };
}

/** Means of equal parts of the span, so that a thousand samples become a few hundred points. */
function averaged(points: readonly Point[], parts: number): Point[] {
  const first = points.reduce((least, { x }) => Math.min(least, x), Infinity);
  const span = points.reduce((most, { x }) => Math.max(most, x), -Infinity) - first;
  if (span === 0) return [...points];
  const sums = new Map<number, { x: number; y: number; n: number }>();
  for (const { x, y } of points) {
    const part = Math.min(parts - 1, Math.floor(((x - first) / span) * parts));
    const sum = sums.get(part) ?? { x: 0, y: 0, n: 0 };
    sums.set(part, { x: sum.x + x, y: sum.y + y, n: sum.n + 1 });
  }
  return [...sums.entries()]
    .sort(([a], [b]) => a - b)
    .map(([, { x, y, n }]) => ({ x: x / n, y: y / n }));
}
