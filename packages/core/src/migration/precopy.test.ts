/** Moving a running guest: against the closed form of the published model, and a small discrete simulation. */
import { describe, expect, it, test } from 'vitest';
import { GIB, MIB } from '../quantity/index.js';
import { goodput } from './goodput.js';
import { HANDOVER_SECONDS, MOST_ROUNDS, precopy, STOP_BYTES } from './precopy.js';

const rate = goodput(1e9, { mtu: 1500 });

describe('pre-copy', () => {
  // Clark et al., NSDI 2005: rounds of M, M r, M r² …, r = written ÷ copied; in all M (1 − r^(n+1)) ÷ (1 − r).
  test.each([0, 0.1, 0.3, 0.5, 0.8, 0.95])('copies the geometric sum at r = %d', (ratio) => {
    const memoryBytes = 8 * GIB;
    const move = precopy({ memoryBytes, rate, dirtyRate: ratio * rate });
    const n = move.rounds;
    const sum = ratio === 0 ? memoryBytes : (memoryBytes * (1 - ratio ** (n + 1))) / (1 - ratio);
    expect(move.copiedBytes / sum).toBeCloseTo(1, 9);
    expect(move.downtimeSeconds).toBeCloseTo(
      (memoryBytes * ratio ** n) / rate + HANDOVER_SECONDS,
      6,
    );
    expect(move.seconds).toBeCloseTo(sum / rate + HANDOVER_SECONDS, 6);
  });
  // Common practice, no source: 9.1 s for each GiB at 1 Gbit/s, 0.9 at 10.
  it.each([
    [1e9, 9.1],
    [10e9, 0.9],
  ])('at %d bit/s takes so many seconds for each GiB', (link, wanted) => {
    const idle = { memoryBytes: GIB, dirtyRate: 0, rate: goodput(link, { mtu: 1500 }) };
    expect(precopy(idle).seconds - HANDOVER_SECONDS).toBeCloseTo(wanted, 1);
  });
  it.each([
    [0.2, 'easy'],
    [0.49, 'easy'],
    [0.5, 'slow'],
    [0.9, 'slow'],
    [1, 'never'],
    [2, 'never'],
  ])('written ÷ copied of %d is %s', (ratio, verdict) =>
    expect(precopy({ memoryBytes: GIB, rate, dirtyRate: ratio * rate }).verdict).toBe(verdict),
  );
  it('that never converges stands still for all of its memory', () => {
    const { rounds, downtimeSeconds } = precopy({ memoryBytes: GIB, rate, dirtyRate: 2 * rate });
    expect(rounds).toBe(1);
    expect(downtimeSeconds).toBeCloseTo(GIB / rate + HANDOVER_SECONDS, 6);
  });
  it('gives up after so many rounds', () =>
    expect(precopy({ memoryBytes: 512 * GIB, rate, dirtyRate: 0.99 * rate }).rounds).toBe(
      MOST_ROUNDS,
    ));
  it('needs a rate', () =>
    expect(() => precopy({ memoryBytes: GIB, rate: 0, dirtyRate: 1 })).toThrow(RangeError));
});

/** Pages of 1 MiB; in each tick some travel and some are written, each time others: the worst case of the model. */
function simulated(memoryBytes: number, ratio: number): { copied: number; left: number } {
  const pages = memoryBytes / MIB;
  let dirty = pages;
  let copied = 0;
  for (
    let round = 0;
    round < MOST_ROUNDS && (round === 0 || dirty * MIB > STOP_BYTES);
    round += 1
  ) {
    let sent = 0;
    let written = 0;
    let owed = 0;
    while (sent < dirty) {
      sent += 1;
      owed += ratio;
      while (owed >= 1) {
        written = Math.min(pages, written + 1);
        owed -= 1;
      }
    }
    copied += sent;
    dirty = written;
  }
  return { copied: (copied + dirty) * MIB, left: dirty * MIB };
}

describe('a simulation page by page', () => {
  test.each([
    [4, 0.25],
    [16, 0.5],
    [16, 0.75],
    [64, 0.9],
  ])('of %i GiB at r = %d agrees', (gib, ratio) => {
    const told = precopy({ memoryBytes: gib * GIB, rate, dirtyRate: ratio * rate });
    const seen = simulated(gib * GIB, ratio);
    expect(told.copiedBytes / seen.copied).toBeCloseTo(1, 2);
    const left = (told.downtimeSeconds - HANDOVER_SECONDS) * rate;
    expect(Math.abs(left - seen.left)).toBeLessThan(0.01 * gib * GIB);
  });
});
