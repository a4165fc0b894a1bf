import fc from 'fast-check';
import { quantileSorted } from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import {
  ENOUGH_SAMPLES,
  nearestRank,
  percentile,
  rangeOf,
  readSample,
  rightSize,
  runway,
  sampleLayout,
  theilSen,
  type Point,
} from './index.js';

/** Definitions: Hyndman & Fan 1996. S1 by type 1 is the textbook example of the nearest rank (from memory); the rest worked by hand. */
describe('percentiles', () => {
  const S1 = [15, 20, 35, 40, 50];
  const S2 = Array.from({ length: 10 }, (_, i) => i + 1);
  const S3 = Array.from({ length: 20 }, (_, i) => i + 1);
  const S4 = [3, 6, 7, 8, 8, 10, 13, 15, 16, 20];
  const S5 = [12, 14, 11, 90, 13, 12, 15, 14, 13, 88];
  const cases: [number[], number, number, number][] = [
    [S1, 5, 15, 16],
    [S1, 25, 20, 20],
    [S1, 30, 20, 23],
    [S1, 40, 20, 29],
    [S1, 50, 35, 35],
    [S1, 90, 50, 46],
    [S1, 95, 50, 48],
    [S1, 100, 50, 50],
    [S2, 5, 1, 1.45],
    [S2, 10, 1, 1.9],
    [S2, 25, 3, 3.25],
    [S2, 50, 5, 5.5],
    [S2, 75, 8, 7.75],
    [S2, 95, 10, 9.55],
    [S2, 99, 10, 9.91],
    [S3, 5, 1, 1.95],
    [S3, 90, 18, 18.1],
    [S3, 95, 19, 19.05],
    [S3, 99, 20, 19.81],
    [S4, 25, 7, 7.25],
    [S4, 50, 8, 9],
    [S4, 75, 15, 14.5],
    [S4, 95, 20, 18.2],
    [S5, 50, 13, 13.5],
    [S5, 80, 15, 29.6],
    [S5, 90, 88, 88.2],
    [S5, 95, 90, 89.1],
    [[42], 0, 42, 42],
    [[42], 100, 42, 42],
  ];
  it.each(cases)(
    'of %j at %i: type 1 gives %d, type 7 gives %d',
    (samples, percent, first, seventh) => {
      expect(nearestRank(samples, percent)).toBe(first);
      expect(percentile(samples, percent)).toBeCloseTo(seventh, 10);
    },
  );
  it('type 1 of 1 … 100 is the per cent itself, also where 0.07 × 100 is more than 7', () => {
    const hundred = Array.from({ length: 100 }, (_, i) => i + 1);
    for (let percent = 1; percent <= 100; percent += 1)
      expect(nearestRank(hundred, percent)).toBe(percent);
  });
  it('type 7 is what a statistics library gives, whatever the samples', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { minLength: 1, maxLength: 60 }),
        fc.integer({ min: 0, max: 100 }),
        (samples, percent) => {
          const other = quantileSorted(
            [...samples].sort((a, b) => a - b),
            percent / 100,
          );
          expect(Math.abs(percentile(samples, percent)! - other)).toBeLessThanOrEqual(
            1e-6 * Math.max(1, Math.abs(other)),
          );
        },
      ),
    );
  });
  it('no samples have no percentile, what is not a number is dropped, and other per cents are refused', () => {
    expect([percentile([], 50), nearestRank([NaN], 50), percentile([NaN, 3], 50)]).toEqual([
      null,
      null,
      3,
    ]);
    expect(() => nearestRank([1], 2.5)).toThrow(RangeError);
    expect(() => percentile([1], 101)).toThrow(RangeError);
  });
});

const points = (...pairs: [number, number][]): Point[] => pairs.map(([x, y]) => ({ x, y }));
const T1 = points([0, 10], [1, 12], [2, 13], [3, 15], [4, 100], [5, 18]);
const T3 = points([0, 500], [7, 512], [14, 521], [30, 548], [60, 596]);
const T5 = points([0, 100], [10, 97], [20, 96], [30, 90]);

/** A line with noise and outliers; the generator is the one of Park and Miller, Communications of the ACM 31, 1988. */
function noisy(seed: number, count: number, outlier = 400): Point[] {
  let state = seed;
  const next = () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647;
  let x = 0;
  return Array.from({ length: count }, (_, i) => {
    x += 1 + Math.floor(next() * 5);
    const y = 100 + 3.25 * x + (next() - 0.5) * 80 + (i % 9 === 4 ? outlier : 0);
    return { x, y: Math.round(y * 1000) / 1000 };
  });
}

describe('the trend', () => {
  /** Worked by hand from all pairs. */
  it.each([
    ['one outlier', T1, 5 / 3, 10, 15],
    ['an exact line', points([0, 5], [1, 8], [2, 11], [3, 14]), 3, 5, 6],
    ['gaps in time', T3, 1.6, 500, 10],
    ['two at one time', points([1, 10], [1, 12], [2, 14], [3, 15]), 2, 9.5, 5],
    ['falling', T5, -19 / 60, 1201 / 12, 6],
    ['flat', points([0, 7], [1, 7], [2, 7]), 0, 7, 3],
  ])('%s', (_, samples, slope, intercept, pairs) => {
    const trend = theilSen(samples)!;
    expect(trend.slope).toBeCloseTo(slope, 10);
    expect(trend.intercept).toBeCloseTo(intercept, 10);
    expect(trend.pairs).toBe(pairs);
  });
  it('is the published one for cloud seeding in five years: −0.056', () => {
    // Hollander and Wolfe, Nonparametric Statistical Methods, chapter 9, data of Smith 1967 (from memory; the median worked by hand).
    expect(
      theilSen(points([1, 1.26], [2, 1.27], [3, 1.12], [4, 1.16], [5, 1.03]))!.slope,
    ).toBeCloseTo(-0.05625, 10);
  });
  /** Slope and intercept of scipy 1.17.1, `stats.theilslopes(…, method='joint')`, of the samples that `noisy` makes. */
  it.each([
    [1, 7, 4.249142857142857, 86.56585714285714],
    [2, 24, 3.878003865182437, 76.89828548237475],
    [3, 61, 3.3312647243107767, 90.01708552631578],
    [4, 180, 3.2467606990515767, 108.44519595396963],
  ])('is that of a reference library, seed %i of %i samples', (seed, count, slope, intercept) => {
    const trend = theilSen(noisy(seed, count))!;
    expect(trend.slope).toBeCloseTo(slope, 10);
    expect(trend.intercept).toBeCloseTo(intercept, 10);
  });
  it('is told with the range in which it lies nine times in ten', () => {
    // 400 lines of slope 3.25 without outliers: by chance alone 360 are covered, 12 of that is two standard errors.
    const covered = Array.from({ length: 400 }, (_, seed) =>
      rangeOf(theilSen(noisy(seed + 1, 60, 0))!)!,
    );
    const hits = covered.filter(([low, high]) => low <= 3.25 && 3.25 <= high).length;
    expect(hits).toBeGreaterThan(340);
    expect(hits).toBeLessThan(385);
  });
  it('of an exact line has no range, of three times none that anybody could tell', () => {
    const line = (n: number) =>
      points(...Array.from({ length: n }, (_, x): [number, number] => [x, 3 * x]));
    expect(rangeOf(theilSen(line(30))!)!.map((one) => Math.round(one * 1e9) / 1e9)).toEqual([3, 3]);
    expect(rangeOf(theilSen(line(3))!)).toBeNull();
    expect(rangeOf(theilSen(line(4))!)).not.toBeNull();
  });
  it('needs two different times', () => {
    expect([theilSen([]), theilSen(points([1, 2])), theilSen(points([1, 2], [1, 3]))]).toEqual([
      null,
      null,
      null,
    ]);
  });
  it('of a line with thousands of samples is that line', () => {
    const many = Array.from({ length: 5000 }, (_, x) => ({ x, y: 3 * x + 40 }));
    expect(theilSen(many)!.slope).toBeCloseTo(3, 8);
  });
  it('turns with its samples: stretching y stretches the slope, shifting does not alter it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 50 }), fc.integer({ min: -100, max: 100 })), {
          minLength: 2,
          maxLength: 12,
        }),
        fc.integer({ min: 1, max: 9 }),
        (pairs, k) => {
          const one = theilSen(points(...pairs));
          const other = theilSen(
            points(...pairs.map(([x, y]): [number, number] => [x + 7, k * y - 3])),
          );
          if (one) expect(other!.slope).toBeCloseTo(k * one.slope, 8);
          else expect(other).toBeNull();
        },
      ),
    );
  });
});

describe('time until full', () => {
  const DAY = 86_400;
  const lastOf = (samples: Point[]) => Math.max(...samples.map(({ x }) => x));
  const asked = (samples: Point[], limit: number, today = lastOf(samples)) =>
    runway({
      now: today * DAY,
      samples: samples.map(({ x, y }) => ({ x: x * DAY, y })),
      limit,
      title: 'Full',
      limitWords: 'Usable',
    })!;
  it.each([
    [T3, 1000, 252],
    [T3, 800, 127],
    [T3, 600, 2],
    [T1, 40, 13],
  ])('of %j up to %i: %i days, rounded down', (samples, limit, days) =>
    expect(asked(samples, limit)).toMatchObject({ state: 'filling', days }),
  );
  it('what falls or stays is not filling, what is above is full already', () => {
    expect(asked(T5, 1000).state).toBe('not filling');
    expect(asked(points([0, 7], [1, 7]), 100).state).toBe('not filling');
    expect(asked(T3, 590).state).toBe('full already');
  });
  it('is told with its spread, and named no further than three times the span', () => {
    const found = asked(T3, 1000);
    const near = asked(T3, 700);
    if (found.state !== 'filling' || near.state !== 'filling') throw new Error('it fills');
    const { soonest, latest } = near.range!;
    expect(soonest.days).toBeLessThanOrEqual(near.days);
    expect(latest!.days).toBeGreaterThanOrEqual(near.days);
    expect(soonest.on <= near.on && near.on <= latest!.on).toBe(true);
    expect(found.range).toBeNull();
    const [from, to] = [Math.min(...T3.map(({ x }) => x)), lastOf(T3)];
    expect(found.notBefore).toBe(
      new Date((to + 3 * (to - from)) * DAY * 1000).toISOString().slice(0, 10),
    );
    expect(asked(T3, 700)).toMatchObject({ notBefore: null });
  });
  it('is counted from today, though the last sample is older; its day stays', () => {
    const then = asked(T3, 1000);
    const later = asked(T3, 1000, lastOf(T3) + 100);
    if (then.state !== 'filling' || later.state !== 'filling') throw new Error('it fills');
    expect([later.days, later.on]).toEqual([152, then.on]);
    expect(later.figure.value).toBe(152);
    expect(later.figure.lines[1]!.label).toBe(
      'Level of the trend today; the last sample is 100 days old',
    );
  });
  it('that has passed since the last sample is due, not measured as full', () => {
    const found = asked(T3, 600, lastOf(T3) + 30);
    expect(found).toMatchObject({ state: 'filling', days: 0 });
    expect(found.figure.value).toBe(0);
  });
  it('has workings whose last line is its value', () => {
    const { figure } = asked(T3, 1000);
    expect(figure.lines.at(-1)!.value).toBe(figure.value);
    expect(figure.value).toBe(252);
  });
});

describe('the right size', () => {
  const use = (p95: number, most = p95) => ({ p95, most, samples: ENOUGH_SAMPLES, days: 14 });
  /** Own rule; worked by hand. */
  it.each([
    [5.2, 25, 1, 16, 7, 'shrink'],
    [1.1, 25, 1, 4, 2, 'shrink'],
    [9.3, 20, 2, 16, 12, 'leave'],
    [15.1, 20, 2, 16, 20, 'grow'],
  ])(
    'P95 %d with %i %% headroom in steps of %i, now %i: %i, %s',
    (p95, headroomPercent, step, now, to, advice) =>
      expect(
        rightSize({
          title: 'Size',
          unit: 'vCPU',
          now,
          use: use(p95),
          headroomPercent,
          step,
          minimum: 1,
        }),
      ).toMatchObject({ to, advice }),
  );
  it('never goes below the minimum of the role', () =>
    expect(
      rightSize({
        title: 'Memory',
        unit: 'MiB',
        now: 8192,
        use: use(300),
        headroomPercent: 20,
        step: 256,
        minimum: 1024,
      }),
    ).toMatchObject({ to: 1024, advice: 'shrink' }));
  it('a week of samples is not enough for advice', () =>
    expect(
      rightSize({
        title: 'Size',
        unit: 'vCPU',
        now: 16,
        use: { p95: 1, most: 2, samples: ENOUGH_SAMPLES, days: 7 },
        headroomPercent: 25,
        step: 1,
        minimum: 1,
      }).advice,
    ).toBe('too few samples'));
  it('says when peaks would have to wait', () => {
    expect(
      rightSize({
        title: 'Size',
        unit: 'vCPU',
        now: 16,
        use: use(2, 9),
        headroomPercent: 25,
        step: 1,
        minimum: 1,
      }).sentence,
    ).toContain('peaks would then have to wait');
    expect(
      rightSize({
        title: 'Size',
        unit: 'vCPU',
        now: 16,
        use: use(2, 2.4),
        headroomPercent: 25,
        step: 1,
        minimum: 1,
      }).sentence,
    ).toContain('even its highest peak fits');
  });
});

describe('samples from CSV', () => {
  const NOW = '2026-11-20T12:00:00.000Z';
  const layout = (heads: string) => {
    const read = sampleLayout(heads.split(','));
    if (!read.ok) throw new Error(read.sentence);
    return read.value;
  };
  const GUESTS = layout('Time,guest,cpu %,memory MiB,disk bytes');
  it.each([
    [
      '2026-11-20 08:05,tide,12.5,2048,1000',
      { at: '2026-11-20T08:05:00.000Z', cpuPercent: 12.5, memoryMiB: 2048, diskBytes: 1000 },
    ],
    [
      '2026-11-20T10:05:00+02:00,tide,,2048,',
      { at: '2026-11-20T08:05:00.000Z', cpuPercent: null, memoryMiB: 2048, diskBytes: null },
    ],
    ['1763625900,tide,0,,', { at: '2025-11-20T08:05:00.000Z', cpuPercent: 0 }],
    ['2026-11-20,tide,3,1.4,', { at: '2026-11-20T00:00:00.000Z', memoryMiB: 1 }],
  ])('%s', (line, wanted) =>
    expect(readSample(line.split(','), GUESTS, NOW)).toMatchObject({
      ok: true,
      value: { name: 'tide', ...wanted },
    }),
  );
  it.each([
    ['2026-11-21 08:05,tide,1,,', 'lies in the future'],
    ['2026-02-30 08:05,tide,1,,', 'is not a time'],
    ['20.11.2026,tide,1,,', 'is not a time'],
    ['2026-11-20 08:05,,1,,', 'does not name a guest'],
    ['2026-11-20 08:05,tide,101,,', 'is not cpu %'],
    ['2026-11-20 08:05,tide,-1,,', 'is not cpu %'],
    ['2026-11-20 08:05,tide,1e3,,', 'is not cpu %'],
    ['2026-11-20 08:05,tide,,,', 'Nothing is measured'],
  ])('%s is refused', (line, sentence) => {
    const read = readSample(line.split(','), GUESTS, NOW);
    expect(read.ok ? '' : read.sentence).toContain(sentence);
  });
  it('a file about pools has its own columns', () => {
    expect(
      readSample(['2026-11-20', 'quay', '900'], layout('time,pool,used bytes'), NOW),
    ).toMatchObject({ ok: true, value: { name: 'quay', diskBytes: 900 } });
  });
  it.each([
    ['time,guest', 'nothing measured'],
    ['guest,cpu %', 'no column "time"'],
    ['time,guest,pool,cpu %', 'not about both'],
    ['time,guest,wind', '"wind" is not known'],
    ['time,time,guest', 'Two columns'],
    ['time,pool', 'no column "used bytes"'],
  ])('the headings %s are refused', (heads, sentence) => {
    const read = sampleLayout(heads.split(','));
    expect(read.ok ? '' : read.sentence).toContain(sentence);
  });
});

describe('whatever is measured', () => {
  const samples = fc.array(fc.double({ min: 0, max: 1e9, noNaN: true }), {
    minLength: 1,
    maxLength: 80,
  });
  it('a percentile lies between the least and the most, and never falls as the per cent grows', () => {
    fc.assert(
      fc.property(
        samples,
        fc.integer({ min: 0, max: 100 }),
        fc.integer({ min: 0, max: 100 }),
        (values, p, q) => {
          for (const take of [nearestRank, percentile]) {
            const [low, high] = [take(values, Math.min(p, q))!, take(values, Math.max(p, q))!];
            expect(low).toBeLessThanOrEqual(high);
            expect(low).toBeGreaterThanOrEqual(Math.min(...values));
            expect(high).toBeLessThanOrEqual(Math.max(...values));
          }
          expect(values).toContain(nearestRank(values, p));
        },
      ),
    );
  });
  it('advice never falls below what the 95th percentile needs, nor below the minimum', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1000, noNaN: true }),
        fc.integer({ min: 1, max: 2000 }),
        fc.integer({ min: 1, max: 64 }),
        fc.integer({ min: 1, max: 16 }),
        (p95, now, minimum, step) => {
          const found = rightSize({
            title: 'Size',
            unit: 'vCPU',
            now,
            use: { p95, most: p95, samples: ENOUGH_SAMPLES, days: 20 },
            headroomPercent: 25,
            step,
            minimum,
          });
          expect(found.to).toBeGreaterThanOrEqual(Math.max(minimum, p95 * 1.25 - 1e-6));
          if (found.advice === 'grow') expect(found.to).toBeGreaterThan(now);
          if (found.advice === 'shrink') expect(found.to).toBeLessThanOrEqual(0.7 * now);
        },
      ),
    );
  });
  it('no line of any text makes the reader stumble', () => {
    const layout = sampleLayout(['time', 'guest', 'cpu %', 'memory MiB', 'disk bytes']);
    if (!layout.ok) throw new Error(layout.sentence);
    fc.assert(
      fc.property(fc.array(fc.string(), { maxLength: 7 }), (cells) => {
        const read = readSample(cells, layout.value, '2026-11-20T12:00:00.000Z');
        if (!read.ok) expect(read.sentence.length).toBeGreaterThan(5);
      }),
    );
  });
});
