/** How long until something is full, from the trend of its samples. */
import { own, standard, type Figure, type Unit } from '../figure/index.js';
import { counted } from '../quantity/index.js';
import { rangeOf, theilSen, type Point } from './trend.js';

const DAY = 86_400;
/** Rounded down, where a double may lie a hair below a whole day. */
const wholeDays = (days: number): number => Math.floor(days + 1e-9);

/** When a limit is reached: the day (UTC), and whole days from today until then, 0 where it has passed. */
export interface Reached {
  on: string;
  days: number;
}

export type Runway =
  | { state: 'not filling'; figure: Figure }
  | { state: 'full already'; figure: Figure }
  | ({
      state: 'filling';
      /** Nine times in ten it is between these days, the later one null for never; null where too little was watched to tell, or no day is named. */
      range: { soonest: Reached; latest: Reached | null } | null;
      /** Beyond three times the observed span after the last sample no date is named: nothing is said after this day. */
      notBefore: string | null;
      figure: Figure;
    } & Reached);

export interface Filling {
  /** Seconds since the epoch, and what was used then. */
  samples: readonly Point[];
  /** In the unit of the samples. */
  limit: number;
  /** Bytes where nothing is said. */
  unit?: Unit;
  title: string;
  limitWords: string;
  /** Seconds since the epoch: days are counted from here, though the last sample may be older. */
  now: number;
}

/**
 * Whole days until the limit, rounded down: (limit − level today) ÷ slope, with the level that the fitted line has today.
 * "Full already" is said of the level at the last sample, which was measured. Null with fewer than two samples.
 */
export function runway({
  samples,
  limit,
  unit = 'bytes',
  title,
  limitWords,
  now,
}: Filling): Runway | null {
  const trend = theilSen(samples.map(({ x, y }) => ({ x: x / DAY, y })));
  if (!trend) return null;
  const days = samples.map(({ x }) => x / DAY);
  const [first, last] = [Math.min(...days), Math.max(...days)];
  const today = Math.max(last, now / DAY);
  const [levelThen, level] = [last, today].map((at) => trend.intercept + trend.slope * at) as [
    number,
    number,
  ];
  const left = limit - level;
  const exact = trend.slope > 0 ? Math.max(0, left / trend.slope) : null;
  const figure: Figure = {
    name: 'runway',
    title,
    value: exact === null ? null : wholeDays(exact),
    unit: 'days',
    lines: [
      { label: limitWords, value: limit, unit, operator: '·' },
      {
        label:
          today - last < 1
            ? 'Level of the trend at the last sample'
            : `Level of the trend today; the last sample is ${counted(Math.floor(today - last), 'day')} old`,
        value: Math.round(level),
        unit,
        operator: '−',
      },
      {
        label: `Slope a day: the median of ${trend.pairs.toLocaleString('en-GB')} slopes between samples of ${Math.round(last - first)} days`,
        value: Math.round(trend.slope),
        unit,
        operator: '÷',
      },
      {
        label: 'From today until then, in whole days',
        value: exact === null ? null : wholeDays(exact),
        unit: 'days',
        operator: '=',
        note: exact === null ? 'it is not filling' : undefined,
      },
    ],
    sources: [
      standard(
        'Theil, Indagationes Mathematicae 12, 1950; Sen, JASA 63, 1968; its range: Tukey, Ann. Math. Stat. 29, 1958',
      ),
      own('No date is named beyond three times the observed span'),
    ],
  };
  if (limit - levelThen <= 0) return { state: 'full already', figure };
  if (exact === null) return { state: 'not filling', figure };
  // Counted from the last sample, as what lies between it and today is not known.
  const reached = (slope: number): Reached => {
    const at = last + (limit - levelThen) / slope;
    return { on: dayOf(at), days: Math.max(0, wholeDays(at - today)) };
  };
  const spoken = last + 3 * (last - first);
  const isSpoken = last + (limit - levelThen) / trend.slope <= spoken;
  // Of a day that is not named no range is told either.
  const range = isSpoken ? rangeOf(trend) : null;
  return {
    state: 'filling',
    ...reached(trend.slope),
    range: range && {
      soonest: reached(range[1]),
      latest: range[0] > 0 ? reached(range[0]) : null,
    },
    notBefore: isSpoken ? null : dayOf(spoken),
    figure,
  };
}

const dayOf = (days: number): string => new Date(days * DAY * 1000).toISOString().slice(0, 10);
