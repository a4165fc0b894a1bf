import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dayOf, sizeAxis } from './over-time.js';

describe('an axis of sizes', () => {
  it.each([
    [0, 500, [0, 128, 256, 384, 512]],
    [0, 5, [0, 1, 2, 3, 4, 5]],
    [900, 1000, [896, 928, 960, 992, 1024]],
    [0, 0, [0, 0.25]],
    [7, 7, [7, 7.25]],
  ])('%d to %d', (low, high, ticks) => expect(sizeAxis(low, high).ticks).toEqual(ticks));
  it('shows all of what it is for, by at most seven ticks that are round', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 2 ** 45 }),
        fc.integer({ min: 0, max: 2 ** 45 }),
        (one, other) => {
          const [low, high] = [Math.min(one, other), Math.max(one, other)];
          const { domain, ticks } = sizeAxis(low, high);
          expect(domain[0]).toBeLessThanOrEqual(low);
          expect(domain[1]).toBeGreaterThanOrEqual(high);
          expect([ticks[0], ticks.at(-1)]).toEqual(domain);
          expect(ticks.length).toBeLessThanOrEqual(7);
          const step = ticks[1]! - ticks[0]!;
          expect(Math.log2(step) % 1).toBeCloseTo(0, 12);
          expect(ticks.every((tick) => tick % step === 0)).toBe(true);
        },
      ),
    ));
});

it('a day of an axis', () => expect(dayOf(Date.parse('2026-11-20'))).toBe('11-20'));
