import { describe, expect, it, test } from 'vitest';
import { GIB } from '../quantity/index.js';
import { estimate } from './estimate.js';
import { efficiency, goodput } from './goodput.js';

describe('goodput', () => {
  // Frame overhead: IEEE Std 802.3; timestamps: RFC 7323. 1448/1538 is the "941 Mbit/s" of a gigabit link.
  test.each([
    [{ mtu: 1500, timestamps: false }, 0.94928479],
    [{ mtu: 1500 }, 0.94148244],
    [{ mtu: 1500, tags: 1 }, 0.93904021],
    [{ mtu: 1500, family: 6 as const }, 0.92847854],
    [{ mtu: 9000 }, 0.99004204],
    [{ mtu: 9000, family: 6 as const }, 0.98782917],
  ])('%o', (framing, wanted) => expect(efficiency(framing)).toBeCloseTo(wanted, 8));
  it('is bytes of payload', () =>
    expect(goodput(1e9, { mtu: 1500 }) / 1e6).toBeCloseTo(117.6853, 4));
  it('does not invent a rate for an impossible MTU', () =>
    expect(() => efficiency({ mtu: 60, family: 6 })).toThrow(RangeError));
});

describe('estimate', () => {
  const base = { link: 1e9, mtu: 1500, sameRoute: [], anyRoute: [] };
  it('expects about 9 minutes for 12 GiB without history, and says the range is wide', () => {
    // Common practice, no source: 12 GiB took about 9 minutes between two ordinary hosts.
    const { expected, low, high, basis } = estimate({ ...base, bytes: 12 * GIB });
    expect(expected.value).toBeCloseTo(540, 6);
    expect(basis).toBe('no history');
    expect(high! / low!).toBeCloseTo(6, 6);
  });
  it('gives 7 h 04 min 51.7 s as the best for 3 TB over 1 Gbit/s', () =>
    expect(estimate({ ...base, bytes: 3e12 }).best.value).toBeCloseTo(25_491.713, 2));
  it('never expects more than the link carries', () => {
    const { expected, best } = estimate({ ...base, link: 1e8, bytes: 32 * GIB });
    expect(expected.value).toBe(best.value);
    expect(best.value).toBeCloseTo(2919.629, 2);
  });
  it('learns from this route before others, by the median', () => {
    const run = (rate: number) => ({ bytes: rate * 100, seconds: 100 });
    const taught = estimate({
      ...base,
      bytes: 50e6 * 60,
      sameRoute: [run(40e6), run(50e6), run(80e6)],
      anyRoute: [run(1e6)],
    });
    expect(taught.basis).toBe('this route');
    // By hand: logarithms 0.2231, 0 and −0.4700 beside the prior: 60 s × e^(−0.0110 ∓ 0.5963).
    expect(taught.low).toBeCloseTo(32.69, 1);
    expect(taught.high).toBeCloseTo(107.7, 1);
    expect(taught.expected.value).toBe(60);
  });
  it('counts the tag and the MTU of the way', () => {
    // 1448/1542 of 125 MB/s: 117.38 MB/s; 8948/9042: 123.70 MB/s.
    const seconds = (framing: object) => estimate({ ...base, ...framing, bytes: 3e12 }).best.value!;
    expect(3e12 / seconds({ tags: 1 }) / 1e6).toBeCloseTo(117.38, 2);
    expect(3e12 / seconds({ tags: 1, mtu: 9000 }) / 1e6).toBeCloseTo(123.7005, 3);
  });
  it('expects what is written meanwhile to be copied again, which the best does not know', () => {
    // Common practice, no source: 9.1 s per GiB at 1 Gbit/s, times 1.3; here at the habitual rate.
    const still = estimate({ ...base, bytes: 12 * GIB });
    const running = estimate({ ...base, bytes: 12 * GIB, changing: 12 * GIB });
    expect(running.best.value).toBe(still.best.value);
    expect(running.expected.value! / still.expected.value!).toBeCloseTo(1.3, 6);
    expect(running.expected.lines.map(({ label }) => label)).toContain(
      'Written meanwhile and copied again, 30 % of the memory',
    );
  });
  it('takes no time for nothing', () =>
    expect(estimate({ ...base, bytes: 0 }).expected.value).toBe(0));
});
