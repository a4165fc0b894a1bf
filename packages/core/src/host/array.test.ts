import { describe, expect, it, test } from 'vitest';
import {
  arrayFault,
  effectiveIops,
  rebuildBits,
  rebuildSeconds,
  survives,
  unreadableOdds,
  usableBytes,
  wastedBytes,
  type ArrayLevel,
} from './array.js';
import { compareArrays } from './array-comparison.js';

const TB = 1e12;
const of = (n: number, tb: number) => Array.from({ length: n }, () => tb * TB);

describe('usable size: disks’ worth of data times the smallest member (Patterson, Gibson, Katz 1988; Chen et al. 1994)', () => {
  const cases: [string, number[], number, Partial<Record<ArrayLevel, number>>, number][] = [
    ['4 × 2 TB', of(4, 2), 2, { '0': 8, '1': 2, '10': 4, '5': 6, '6': 4 }, 0],
    [
      '2, 2, 2, 4 TB',
      [2, 2, 2, 4].map((n) => n * TB),
      2,
      { '0': 8, '1': 2, '10': 4, '5': 6, '6': 4 },
      2,
    ],
    [
      '1, 2, 3, 4 TB',
      [1, 2, 3, 4].map((n) => n * TB),
      2,
      { '0': 4, '1': 1, '10': 2, '5': 3, '6': 2 },
      6,
    ],
    [
      '6 × 4 TB, 2 groups',
      of(6, 4),
      2,
      { '0': 24, '1': 4, '10': 12, '5': 20, '6': 16, '50': 16 },
      0,
    ],
    [
      '8 × 4 TB, 2 groups',
      of(8, 4),
      2,
      { '0': 32, '1': 4, '10': 16, '5': 28, '6': 24, '50': 24, '60': 16 },
      0,
    ],
    [
      '12 × 8 TB, 3 groups',
      of(12, 8),
      3,
      { '0': 96, '1': 8, '10': 48, '5': 88, '6': 80, '50': 72, '60': 48 },
      0,
    ],
    ['2 × 960 GB', of(2, 0.96), 2, { '0': 1.92, '1': 0.96 }, 0],
    ['3 × 1.92 TB', of(3, 1.92), 2, { '0': 5.76, '1': 1.92, '5': 3.84 }, 0],
  ];
  test.each(cases)('%s', (_, members, groups, wanted, waste) => {
    for (const [level, tb] of Object.entries(wanted))
      expect([level, usableBytes(level as ArrayLevel, members, groups)]).toEqual([level, tb * TB]);
    for (const level of ['50', '60', '5', '6', '10'] as const)
      if (wanted[level] === undefined)
        expect([level, arrayFault(level, members, groups)]).toEqual([level, expect.any(String)]);
    expect(wastedBytes(members)).toBe(waste * TB);
  });
  test.each([
    ['5', of(2, 1), 1, 'at least 3'],
    ['6', of(3, 1), 1, 'at least 4'],
    ['10', of(5, 1), 1, 'leave one over'],
    ['50', of(7, 1), 2, 'do not divide'],
    ['60', of(9, 1), 3, 'at least 4'],
    ['1', [TB, 0], 1, 'no capacity'],
  ] as const)('level %s of %j cannot be built', (level, members, groups, sentence) => {
    expect(arrayFault(level, members, groups)).toContain(sentence);
    expect(() => usableBytes(level, members, groups)).toThrow(RangeError);
  });
});

test.each([
  ['10', 8, 1, 1, 4],
  ['5', 4, 1, 1, 1],
  ['6', 8, 1, 2, 2],
  ['50', 8, 2, 1, 2],
  ['60', 12, 3, 2, 6],
  ['1', 3, 1, 2, 2],
  ['0', 4, 1, 0, 0],
] as const)(
  'level %s of %d disks in %d groups surely survives %d failures, at best %d',
  (level, n, groups, worst, best) => expect(survives(level, n, groups)).toEqual({ worst, best }),
);

/** Which sets of failed disks kill an array, by the definition of the level: groups of disks and how many each may lose. */
function dies(level: ArrayLevel, n: number, groups: number, failed: Set<number>): boolean {
  const [size, spare] =
    level === '10'
      ? [2, 1]
      : level === '50'
        ? [n / groups, 1]
        : level === '60'
          ? [n / groups, 2]
          : [n, level === '5' ? 1 : level === '6' ? 2 : level === '1' ? n - 1 : 0];
  for (let g = 0; g < n; g += size)
    if ([...failed].filter((disk) => disk >= g && disk < g + size).length > spare) return true;
  return false;
}

it('worst and best case are those of all sets of failures of small arrays, counted out', () => {
  for (const [level, n, groups] of [
    ['10', 6, 1],
    ['5', 4, 1],
    ['6', 5, 1],
    ['50', 6, 2],
    ['60', 8, 2],
    ['1', 3, 1],
    ['0', 3, 1],
  ] as const) {
    const sets = Array.from(
      { length: 2 ** n },
      (_, bits) => new Set(Array.from({ length: n }, (_, i) => i).filter((i) => bits & (1 << i))),
    );
    const lived = sets.filter((set) => !dies(level, n, groups, set)).map((set) => set.size);
    const killed = sets.filter((set) => dies(level, n, groups, set)).map((set) => set.size);
    expect([level, survives(level, n, groups)]).toEqual([
      level,
      { worst: Math.min(...killed) - 1, best: Math.max(...lived) },
    ]);
  }
});

test.each([
  [8, 150, 0.7, [1200, 923.07692, 631.57895, 480]],
  [4, 80, 0.5, [320, 213.33333, 128, 91.428571]],
  [6, 20_000, 0.9, [120_000, 109_090.91, 92_307.692, 80_000]],
  [8, 150, 0, [1200, 600, 300, 200]],
])(
  '%d disks of %d operations, %d reads: levels 0, 10, 5, 6 (n·i / (r + w·q))',
  (n, iops, reads, wanted) => {
    for (const [i, level] of (['0', '10', '5', '6'] as const).entries())
      expect(effectiveIops(level, n, iops, reads)).toBeCloseTo(
        wanted[i]!,
        wanted[i]! > 1e4 ? 1 : 4,
      );
  },
);

test.each([
  [2, 100, 20_000],
  [4, 150, 26_666.7],
  [8, 150, 53_333.3],
  [16, 200, 80_000],
  [0.96, 400, 2400],
])('%d TB at %d MB/s is full after %d s', (tb, rate, seconds) => {
  expect(rebuildSeconds(tb * TB, rate * 1e6)).toBeCloseTo(seconds, 0);
  expect(rebuildSeconds(tb * TB, rate * 1e6, 0.5)).toBeCloseTo(2 * seconds, 0);
});

describe('an unreadable sector while rebuilding: 1 − (1 − p)^bits, computed without cancellation', () => {
  test.each([
    ['5', of(4, 2), 4.8e13, [0.38121661, 0.04686621, 0.0047885]],
    ['5', of(3, 1), 1.6e13, [0.14785621, 0.01587268, 0.00159872]],
    ['5', of(8, 4), 2.24e14, [0.8935415, 0.20068487, 0.02215098]],
    ['5', of(6, 10), 4e14, [0.98168436, 0.32967995, 0.03921056]],
    ['10', of(4, 2), 1.6e13, [0.14785621, 0.01587268, 0.00159872]],
  ] as const)('level %s of %j', (level, members, bits, odds) => {
    expect(rebuildBits(level, members)).toBe(bits);
    for (const [i, p] of [1e-14, 1e-15, 1e-16].entries())
      expect(unreadableOdds(bits, p)).toBeCloseTo(odds[i]!, 7);
  });
  it('keeps its digits where the naive form gives 0: p = 1e-17', () => {
    expect(1 - (1 - 1e-17) ** 4.8e13).toBe(0);
    expect(unreadableOdds(4.8e13, 1e-17)).toBeCloseTo(0.00047988, 7);
  });
  it('is 0 where one more error is still corrected', () =>
    expect(rebuildBits('6', of(8, 4))).toBe(0));
  it('a mirror of three corrects it from its third way; one of two does not', () => {
    expect(rebuildBits('1', of(3, 4))).toBe(0);
    expect(rebuildBits('1', of(2, 4))).toBe(8 * 4e12);
  });
});

describe('the same disks side by side', () => {
  const wish = {
    disks: of(8, 4),
    diskClass: 'enterprise disk' as const,
    spares: 0,
    readShare: 0.7,
    rebuildShare: 0.5,
  };
  it('shows every level they can form, each with its workings', () => {
    const options = compareArrays(wish);
    expect(options.map(({ level, usable }) => [level, usable.value / TB])).toEqual([
      ['0', 32],
      ['1', 4],
      ['10', 16],
      ['5', 28],
      ['6', 24],
      ['50', 24],
      ['60', 16],
    ]);
    for (const option of options)
      for (const figure of [option.usable, option.iops, option.rebuildIdle, option.unreadable.high])
        expect([figure.lines.at(-1)!.value, figure.sources.length > 0]).toEqual([
          figure.value,
          true,
        ]);
  });
  it('takes spares from the largest disks', () => {
    const [mirror] = compareArrays({ ...wish, disks: [1 * TB, 1 * TB, 4 * TB], spares: 1 }).filter(
      ({ level }) => level === '1',
    );
    expect([mirror!.usable.value, mirror!.wasted]).toEqual([1 * TB, 0]);
  });
  it('is empty where nothing is left for data', () =>
    expect(compareArrays({ ...wish, disks: [TB], spares: 1 })).toEqual([]));
});
