/** How long until something is full, from the trend of its samples. */
import { own, standard, type Figure } from '../figure/index.js';
import { theilSen, type Point } from './trend.js';

const DAY = 86_400;
/** Rounded down, where a double may lie a hair below a whole day. */
const wholeDays = (days: number): number => Math.floor(days + 1e-9);

export type Runway =
  | { state: 'not filling'; figure: Figure }
  | { state: 'full already'; figure: Figure }
  | {
      state: 'filling';
      days: number;
      /** Whole days if it fills as fast as three quarters, and as slowly as a quarter, of all slopes say; null: never. */ soonest: number;
      latest: number | null;
      /** Beyond three times the observed span no date is named. */ beyond: boolean;
      figure: Figure;
    };

export interface Filling {
  /** Seconds since the epoch, and bytes used then. */
  samples: readonly Point[];
  limitBytes: number;
  title: string;
  limitWords: string;
}

/**
 * Whole days until the limit, rounded down: (limit − level now) ÷ slope, with the level of the fitted line at the last
 * sample. Null with fewer than two samples.
 */
export function runway({ samples, limitBytes, title, limitWords }: Filling): Runway | null {
  const trend = theilSen(samples.map(({ x, y }) => ({ x: x / DAY, y })));
  if (!trend) return null;
  const days = samples.map(({ x }) => x / DAY);
  const [first, last] = [Math.min(...days), Math.max(...days)];
  const level = trend.intercept + trend.slope * last;
  const left = limitBytes - level;
  const exact = trend.slope > 0 ? Math.max(0, left / trend.slope) : null;
  const figure: Figure = {
    name: 'runway',
    title,
    value: exact === null ? null : wholeDays(exact),
    unit: 'days',
    lines: [
      { label: limitWords, value: limitBytes, unit: 'bytes', operator: '·' },
      {
        label: 'Level of the trend at the last sample',
        value: Math.round(level),
        unit: 'bytes',
        operator: '−',
      },
      {
        label: `Slope a day: the median of ${trend.pairs.toLocaleString('en-GB')} slopes between samples of ${Math.round(last - first)} days`,
        value: Math.round(trend.slope),
        unit: 'bytes',
        operator: '÷',
      },
      {
        label: 'Until then, in whole days',
        value: exact === null ? null : wholeDays(exact),
        unit: 'days',
        operator: '=',
        note: exact === null ? 'it is not filling' : undefined,
      },
    ],
    sources: [
      standard('Theil, Indagationes Mathematicae 12, 1950; Sen, JASA 63, 1968'),
      own('No date is named beyond three times the observed span'),
    ],
  };
  if (left <= 0) return { state: 'full already', figure };
  if (exact === null) return { state: 'not filling', figure };
  return {
    state: 'filling',
    days: wholeDays(exact),
    soonest: wholeDays(left / Math.max(trend.slopeHigh, trend.slope)),
    latest: trend.slopeLow > 0 ? wholeDays(left / trend.slopeLow) : null,
    beyond: exact > 3 * (last - first),
    figure,
  };
}
