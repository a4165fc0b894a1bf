/**
 * The trend of samples as the median of all slopes between two of them, which single outliers do not bend; how sure it is,
 * by how it alters when a part of the time is left out. Sources: H. Theil, Indagationes Mathematicae 12, 1950; P. K. Sen, Journal
 * of the American Statistical Association 63, 1968; J. W. Tukey, Annals of Mathematical Statistics 29, 1958 (the jackknife by groups).
 */
// eslint-disable-next-line @typescript-eslint/triple-slash-reference -- who reads this source from another package has to find it
/// <reference path="./ml-regression-theil-sen.d.ts" />
import { TheilSenRegression } from 'ml-regression-theil-sen';
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
  pairs: number;
  /** What it was found by: the samples, or their means. */
  points: readonly Point[];
}

/** All pairs are looked at up to so many points; above, points are averaged in equal parts of the span first. */
const MOST_POINTS = 200;
/** Parts of the time that are left out in turn: what lies together belongs together, as a busy week does. */
const PARTS = 10;
const FEWEST_PARTS = 4;
/** Student's t for 90 % on both sides, by degrees of freedom (any table of it). */
const STUDENT_90: Record<number, number> = {
  ...{ 3: 2.353, 4: 2.132, 5: 2.015, 6: 1.943, 7: 1.895, 8: 1.86, 9: 1.833 },
};

/** Null where fewer than two different x are known. Costs the pairs of its points. */
export function theilSen(points: readonly Point[]): Trend | null {
  const used = (points.length > MOST_POINTS ? averaged(points, MOST_POINTS) : [...points]).sort(
    (a, b) => a.x - b.x,
  );
  const slope = medianSlope(used);
  if (slope === null) return null;
  return {
    slope,
    intercept: percentile(
      used.map(({ x, y }) => y - slope * x),
      50,
    )!,
    pairs: pairsOf(used),
    points: used,
  };
}

/** Of two middle slopes the library takes the lower one, of the mirrored samples the upper one; Sen's is their mean. */
function medianSlope(points: readonly Point[]): number | null {
  if (new Set(points.map(({ x }) => x)).size < 2) return null;
  const [x, y] = [points.map((point) => point.x), points.map((point) => point.y)];
  const lower = new TheilSenRegression(x, y).slope;
  const upper = -new TheilSenRegression(x, y.map((value) => -value)).slope; // prettier-ignore
  return (lower + upper) / 2;
}

/**
 * Nine times in ten the slope lies between these, by how far the slopes without a part of the time lie apart; null with samples of
 * fewer than four times, of which nobody can tell. Costs ten trends.
 */
export function rangeOf({ points, slope }: Trend): readonly [low: number, high: number] | null {
  const times = [...new Set(points.map(({ x }) => x))];
  const parts = Math.min(PARTS, times.length);
  if (parts < FEWEST_PARTS) return null;
  const partOf = new Map(times.map((x, i) => [x, Math.floor((i * parts) / times.length)]));
  const without = Array.from({ length: parts }, (_, part) =>
    medianSlope(points.filter(({ x }) => partOf.get(x) !== part))!,
  );
  const mean = without.reduce((sum, one) => sum + one, 0) / parts;
  const apart = without.reduce((sum, one) => sum + (one - mean) ** 2, 0);
  const error = STUDENT_90[parts - 1]! * Math.sqrt(((parts - 1) / parts) * apart);
  return [slope - error, slope + error];
}

/** Two samples of one time have no slope. */
function pairsOf(points: readonly Point[]): number {
  const atOnce = new Map<number, number>();
  for (const { x } of points) atOnce.set(x, (atOnce.get(x) ?? 0) + 1);
  const pairs = (n: number) => (n * (n - 1)) / 2;
  return [...atOnce.values()].reduce((left, n) => left - pairs(n), pairs(points.length));
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
