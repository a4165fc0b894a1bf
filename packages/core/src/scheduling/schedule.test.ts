import highs from 'highs';
import { describe, expect, it } from 'vitest';
import { chance } from '../packing/chance.js';
import { schedule } from './schedule.js';
import { faultsOfSchedule } from './faults-of-schedule.js';
import type { Work } from './work.js';

// Its types are those of its CommonJS build; as a module it is the function itself.
const loadHighs = highs as unknown as typeof highs.default;

const ALWAYS: Work['windows'] = [[0, 100_000]];
const work = (minutes: number, more: Partial<Work> = {}): Work => ({
  minutes,
  windows: ALWAYS,
  uses: [{ key: 'host', most: 1 }],
  after: [],
  ...more,
});

describe('works one after another, by hand', () => {
  it('one link bears one at a time: 30 + 20 + 10 end at 60', () =>
    expect(schedule([work(30), work(20), work(10)], 0)).toMatchObject({
      end: 60,
      bound: 60,
      proven: true,
    }));
  it('two at once: 30 beside 20 + 10', () => {
    const uses = [{ key: 'host', most: 2 }];
    expect(schedule([work(30, { uses }), work(20, { uses }), work(10, { uses })], 0).end).toBe(30);
  });
  it('a slower one bears less while it is there', () => {
    const slow = work(30);
    const fast = work(20, { uses: [{ key: 'host', most: 4 }] });
    expect(schedule([slow, fast, fast], 0).end).toBe(50);
  });
  it('each whole within a window: 50 minutes do not go over the gap', () => {
    const windows: Work['windows'] = [
      [0, 60],
      [100, 200],
    ];
    const found = schedule([work(50, { windows }), work(30, { windows })], 0);
    expect(found.end).toBe(130);
    expect([...found.starts].sort()).toEqual([0, 100]);
  });
  it('what ends no later in fewer windows is put into fewer: nobody comes for one move alone', () => {
    const nights: Work['windows'] = [
      [0, 60],
      [100, 160],
      [200, 260],
    ];
    // The last one has to wait for the third night; all three fit into it.
    const found = schedule(
      [
        work(20, { windows: nights }),
        work(20, { windows: nights, uses: [] }),
        work(20, { windows: [[240, 260]] }),
      ],
      0,
    );
    expect(found).toMatchObject({ end: 260, windows: 1, proven: true });
    expect([...found.starts].sort()).toEqual([200, 200, 240]);
  });
  it('where the end needs them, all windows are used', () =>
    expect(
      schedule([work(50, { windows: [[0, 60], [100, 160]] }), work(50, { windows: [[0, 60], [100, 160]] })], 0), // prettier-ignore
    ).toMatchObject({ end: 150, windows: 2 }));
  it('the directory goes last; what is in no window finds no place', () => {
    const found = schedule(
      [work(10, { after: [1, 2] }), work(20, { uses: [] }), work(30, { uses: [] }), work(200, { windows: [[0, 100]] })], // prettier-ignore
      0,
    );
    expect(found.starts).toEqual([30, 0, 0, null]);
  });
  it('what stands there already is gone round, even where two stand too close', () => {
    const found = schedule(
      [work(60, { at: 0 }), work(60, { at: 30 }), work(20), work(10, { after: [0] })],
      0,
    );
    // Both stand until 90; then 20 and 10, whichever comes first.
    expect(found.starts.slice(0, 2)).toEqual([0, 30]);
    expect(found.end).toBe(120);
    expect(faultsOfSchedule([work(60, { at: 0 }), work(20)], [0, 30], 0)).toHaveLength(1);
  });
  it('what finds no place holds nobody up, and proves nothing', () => {
    const found = schedule(
      [work(500, { windows: [[0, 100]] }), work(10, { after: [0], uses: [] })],
      0,
    );
    expect(found).toEqual({ starts: [null, 0], end: 10, bound: 10, proven: true, windows: 1 });
  });
  it('a circle of waiting is broken', () =>
    expect(schedule([work(10, { after: [1] }), work(10, { after: [0] })], 0).end).toBe(20));
});

/** Works of an evening: hosts with one or two at once, windows on two days, some that wait, some of a group. */
function evening(seed: number, count: number): Work[] {
  const random = chance(seed);
  const pick = (n: number) => Math.floor(random() * n);
  return Array.from({ length: count }, (_, i): Work => {
    const hosts = [pick(3), pick(3)];
    return {
      minutes: 10 + 5 * pick(8),
      windows:
        random() < 0.5
          ? [[0, 2000]]
          : [
              [30, 150],
              [400, 560 + 10 * pick(20)],
            ],
      uses: [
        ...[...new Set(hosts)].map((host) => ({ key: `h${host}`, most: 1 + pick(2) })),
        ...(random() < 0.3 ? [{ key: 'replicas', most: 1 }] : []),
      ],
      after: i > 0 && random() < 0.25 ? [pick(i)] : [],
    };
  });
}

/** The earliest end over schedules in which each begins at 0, at a window, or when another ends: by trying all. */
function byHand(works: readonly Work[]): number {
  let best = Infinity;
  const starts: (number | null)[] = works.map(() => null);
  const go = (placed: number): void => {
    const ends = starts.flatMap((start, i) => (start === null ? [] : [start + works[i]!.minutes]));
    if (placed === works.length) {
      best = Math.min(best, Math.max(...ends));
      return;
    }
    for (const [i, { windows, minutes, after }] of works.entries()) {
      if (starts[i] !== null || after.some((before) => starts[before] === null)) continue;
      const moments = new Set([0, ...ends, ...windows.map(([from]) => from)]);
      for (const at of moments) {
        if (at + minutes >= best) continue;
        starts[i] = at;
        if (faultsOfSchedule(works, starts, 0).length === 0) go(placed + 1);
        starts[i] = null;
      }
    }
  };
  go(0);
  return best;
}

it('up to five works: the end is the earliest of all schedules, tried one by one', () => {
  for (let seed = 0; seed < 60; seed += 1) {
    const works = evening(seed, 2 + (seed % 4));
    const found = schedule(works, 0);
    if (found.starts.includes(null)) continue;
    expect(faultsOfSchedule(works, found.starts, 0)).toEqual([]);
    expect([seed, found.end, found.proven]).toEqual([seed, byHand(works), true]);
  }
});

it('thirty works on three hosts that bear one at a time: every schedule holds, its end is never before the bound, and is it in most', () => {
  let [tight, all] = [0, 0];
  for (let seed = 100; seed < 140; seed += 1) {
    const works = evening(seed, 30).map((one) => ({
      ...one,
      windows: [[0, 5000]] as const,
      uses: one.uses.map(({ key }) => ({ key, most: 1 })),
    }));
    const found = schedule(works, 0);
    expect(faultsOfSchedule(works, found.starts, 0)).toEqual([]);
    expect(found.starts).not.toContain(null);
    expect(found.end).toBeGreaterThanOrEqual(found.bound);
    all += 1;
    tight += Number(found.end <= found.bound * 1.03);
  }
  expect(tight / all).toBeGreaterThan(0.6);
});

it('against a solver: eight works on machines that bear one at a time end when it says, or within 3 %', async () => {
  const solver = await loadHighs();
  for (let seed = 200; seed < 206; seed += 1) {
    const random = chance(seed);
    const works = Array.from({ length: 8 }, () =>
      work(10 + Math.floor(random() * 30), {
        uses: [0, 1].map(() => Math.floor(random() * 4)).filter((host, i, both) => both.indexOf(host) === i).map((host) => ({ key: `h${host}`, most: 1 })), // prettier-ignore
      }),
    );
    const horizon = works.reduce((sum, { minutes }) => sum + minutes, 0);
    // Disjunctive model: of two that use the same, one is before the other (Manne, Operations Research 8, 1960).
    const rows: string[] = [];
    const binaries: string[] = [];
    for (const [i, one] of works.entries()) {
      rows.push(`finish - s${i} >= ${one.minutes}`);
      for (const [j, other] of works.entries()) {
        if (j <= i || !one.uses.some(({ key }) => other.uses.some((use) => use.key === key)))
          continue;
        binaries.push(`b${i}_${j}`);
        rows.push(`s${j} - s${i} - ${horizon} b${i}_${j} >= ${one.minutes - horizon}`);
        rows.push(`s${i} - s${j} + ${horizon} b${i}_${j} >= ${other.minutes}`);
      }
    }
    const program = `Minimize\n cost: finish\nSubject To\n${rows.map((row, n) => ` r${n}: ${row}`).join('\n')}\nBinary\n${binaries.map((name) => ` ${name}`).join('\n')}\nEnd`;
    const { Status, ObjectiveValue } = solver.solve(program, { time_limit: 10 });
    const found = schedule(works, 0);
    expect(found.end).toBeGreaterThanOrEqual(found.bound);
    if (Status === 'Optimal') {
      expect(found.bound).toBeLessThanOrEqual(Math.round(ObjectiveValue));
      expect(found.end).toBeLessThanOrEqual(Math.round(ObjectiveValue) * 1.03);
    }
  }
});
