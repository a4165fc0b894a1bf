import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addressOf, formatAddress, prefixOf, total } from '../address/index.js';
import { lowestFree, lowestFreeRun, runLength, runsOf } from './runs.js';

const at = (ip: string) => addressOf(ip).value;
const shown = (values: bigint[] | undefined, family: 4 | 6 = 4) =>
  values?.map((value) => formatAddress({ family, value }));

/** Hand-worked: 10.20.30.0/24, gateway .1, held .2 .3 .5, dynamic .100–.199. */
const example = runsOf({
  prefix: prefixOf('10.20.30.0/24'),
  gateway: at('10.20.30.1'),
  held: ['10.20.30.2', '10.20.30.3', '10.20.30.5'].map(at),
  ranges: [{ use: 'dynamic', first: at('10.20.30.100'), last: at('10.20.30.199') }],
});

describe('the next free address', () => {
  it('is the lowest that is neither held, gateway, nor in a range', () => {
    expect(shown(lowestFree(example, 3))).toEqual(['10.20.30.4', '10.20.30.6', '10.20.30.7']);
    expect(shown(lowestFree(example, 1, new Set(), at('10.20.30.10')))).toEqual(['10.20.30.10']);
    expect(shown(lowestFree(example, 1, new Set(), at('10.20.30.100')))).toEqual(['10.20.30.200']);
  });
  it('leaves 150 free addresses of 254', () =>
    expect(
      Number(
        example.filter((run) => run.kind === 'free').reduce((n, run) => n + runLength(run), 0n),
      ),
    ).toBe(150));
  it('skips what the same change has promised', () =>
    expect(shown(lowestFree(example, 1, new Set([at('10.20.30.4')])))).toEqual(['10.20.30.6']));
  it('takes a consecutive run where one is asked for', () =>
    expect(shown(lowestFreeRun(example, 3))).toEqual(['10.20.30.6', '10.20.30.7', '10.20.30.8']));
  it('gives none rather than network or broadcast', () => {
    const runs = (prefix: string, held: string[]) =>
      runsOf({ prefix: prefixOf(prefix), gateway: null, held: held.map(at), ranges: [] });
    expect(shown(lowestFree(runs('192.0.2.0/30', ['192.0.2.1']), 5))).toEqual(['192.0.2.2']);
    expect(shown(lowestFree(runs('192.0.2.0/31', ['192.0.2.0']), 5))).toEqual(['192.0.2.1']);
    expect(shown(lowestFree(runs('192.0.2.7/32', []), 5))).toEqual(['192.0.2.7']);
    expect(lowestFreeRun(runs('192.0.2.0/30', []), 3)).toBeUndefined();
    expect(shown(lowestFree(runs('2001:db8:0:1::/64', []), 1), 6)).toEqual(['2001:db8:0:1::1']);
  });
});

it('runs cover a block once, whatever is held', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 20, max: 32 }),
      fc.array(fc.nat(4095), { maxLength: 40 }),
      fc.nat(4095),
      fc.nat(100),
      (length, held, rangeStart, rangeLength) => {
        const prefix = prefixOf(`10.0.0.0/${length}`);
        const size = total(prefix);
        const first = prefix.first + (BigInt(rangeStart) % size);
        const last =
          first + BigInt(rangeLength) < prefix.first + size ? first + BigInt(rangeLength) : first;
        const runs = runsOf({
          prefix,
          gateway: prefix.first + 1n,
          held: held.map((n) => prefix.first + BigInt(n)),
          ranges: [{ use: 'reserved', first, last }],
        });
        let cursor = prefix.first;
        for (const run of runs) {
          expect(run.first).toBe(cursor);
          expect(run.last).toBeGreaterThanOrEqual(run.first);
          cursor = run.last + 1n;
        }
        expect(cursor).toBe(prefix.first + size);
      },
    ),
  );
});
