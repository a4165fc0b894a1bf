import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import {
  addressOf,
  aggregate,
  blocksOfRange,
  containing,
  contains,
  formatPrefix,
  freeBlocks,
  halves,
  last,
  placeBlock,
  prefixOf,
  singleCover,
  splitInto,
  total,
  type Prefix,
} from './index.js';

const blocks = (text: string): Prefix[] => text.split(/,\s*/).filter(Boolean).map(prefixOf);
const say = (list: readonly Prefix[]): string => list.map(formatPrefix).join(', ');

describe('blocks merged without loss', () => {
  // Rule: RFC 4632, section 4; the last line is the example of its section 6.1 (from memory). Values recomputed with a second library.
  test.each([
    ['192.168.0.0/24, 192.168.1.0/24', '192.168.0.0/23', '192.168.0.0/23'],
    ['192.168.1.0/24, 192.168.2.0/24', '192.168.1.0/24, 192.168.2.0/24', '192.168.0.0/22'],
    [
      '192.168.0.0/24, 192.168.1.0/24, 192.168.2.0/24',
      '192.168.0.0/23, 192.168.2.0/24',
      '192.168.0.0/22',
    ],
    [
      '10.0.0.0/24, 10.0.1.0/24, 10.0.2.0/24, 10.0.3.0/24, 10.0.4.0/24, 10.0.5.0/24',
      '10.0.0.0/22, 10.0.4.0/23',
      '10.0.0.0/21',
    ],
    ['10.0.0.0/24, 10.0.0.0/25, 10.0.1.0/24', '10.0.0.0/23', '10.0.0.0/23'],
    ['2001:db8::/33, 2001:db8:8000::/33', '2001:db8::/32', '2001:db8::/32'],
    [
      '192.24.0.0/21, 192.24.16.0/20, 192.24.8.0/22, 192.24.12.0/22, 192.24.32.0/23, 192.24.34.0/23',
      '192.24.0.0/19, 192.24.32.0/22',
      '192.24.0.0/18',
    ],
  ])('%s', (given, merged, cover) => {
    expect(say(aggregate(blocks(given)))).toBe(merged);
    expect(formatPrefix(singleCover(blocks(given)))).toBe(cover);
  });
  it('a single cover needs one family', () =>
    expect(() => singleCover(blocks('10.0.0.0/8, 2001:db8::/32'))).toThrow(RangeError));
});

describe('a range as blocks', () => {
  test.each([
    ['192.0.2.10', '192.0.2.20', '192.0.2.10/31, 192.0.2.12/30, 192.0.2.16/30, 192.0.2.20/32'],
    ['10.0.0.0', '10.0.0.255', '10.0.0.0/24'],
    ['192.0.2.5', '192.0.2.5', '192.0.2.5/32'],
    [
      '10.0.0.100',
      '10.0.0.199',
      '10.0.0.100/30, 10.0.0.104/29, 10.0.0.112/28, 10.0.0.128/26, 10.0.0.192/29',
    ],
  ])('%s – %s', (first, end, wanted) =>
    expect(say(blocksOfRange(4, addressOf(first).value, addressOf(end).value))).toBe(wanted),
  );
  it('of 254 addresses in the middle of a /24 is 14 blocks', () =>
    expect(
      blocksOfRange(4, addressOf('10.0.0.1').value, addressOf('10.0.0.254').value),
    ).toHaveLength(14));
  it('reaches the very last address', () =>
    expect(say(blocksOfRange(4, 2n ** 32n - 2n, 2n ** 32n - 1n))).toBe('255.255.255.254/31'));
});

describe('what is left of a block', () => {
  test.each([
    ['10.0.0.0/24', '10.0.0.64/26', '10.0.0.0/26, 10.0.0.128/25'],
    ['10.0.0.0/22', '10.0.1.128/25', '10.0.0.0/24, 10.0.1.0/25, 10.0.2.0/23'],
    [
      '10.20.0.0/16',
      '10.20.0.0/24, 10.20.1.0/25, 10.20.2.0/23',
      '10.20.1.128/25, 10.20.4.0/22, 10.20.8.0/21, 10.20.16.0/20, 10.20.32.0/19, 10.20.64.0/18, 10.20.128.0/17',
    ],
    ['10.0.0.0/24', '10.0.0.0/16', ''],
    ['10.0.0.0/24', '10.9.0.0/24', '10.0.0.0/24'],
  ])('%s without %s', (block, taken, free) =>
    expect(say(freeBlocks(prefixOf(block), blocks(taken)))).toBe(free),
  );
  it('a wanted block goes to the lowest place, or where it keeps large blocks whole', () => {
    const free = blocks('10.0.0.0/24, 10.0.4.0/26, 10.0.8.0/22');
    expect(
      [26, 25, 21].map((length) =>
        [placeBlock(free, length), placeBlock(free, length, 'best')].map(
          (found) => found && formatPrefix(found),
        ),
      ),
    ).toEqual([
      ['10.0.0.0/26', '10.0.4.0/26'],
      ['10.0.0.0/25', '10.0.0.0/25'],
      [undefined, undefined],
    ]);
  });
});

it('halves and equal parts cover a block once', () => {
  expect(say(halves(prefixOf('192.0.2.0/24')))).toBe('192.0.2.0/25, 192.0.2.128/25');
  expect(say(splitInto(prefixOf('192.0.2.0/24'), 26))).toBe(
    '192.0.2.0/26, 192.0.2.64/26, 192.0.2.128/26, 192.0.2.192/26',
  );
  expect(() => halves(prefixOf('192.0.2.1/32'))).toThrow(RangeError);
});

describe('on random blocks', () => {
  const block = fc
    .tuple(fc.integer({ min: 0, max: 2 ** 16 - 1 }), fc.integer({ min: 16, max: 32 }))
    .map(([value, length]) =>
      containing({ family: 4, value: BigInt(value) + (10n << 24n) }, length),
    );
  const holds = (list: readonly Prefix[], value: bigint) =>
    list.some((one) => contains(one, { family: 4, value }));
  it('merging neither gains nor loses an address, and nothing more can be merged', () => {
    fc.assert(
      fc.property(
        fc.array(block, { minLength: 1, maxLength: 12 }),
        fc.integer({ min: 0, max: 2 ** 16 - 1 }),
        (list, offset) => {
          const merged = aggregate(list);
          const value = (10n << 24n) + BigInt(offset);
          expect(holds(merged, value)).toBe(holds(list, value));
          expect(aggregate(merged)).toEqual(merged);
          for (let i = 1; i < merged.length; i += 1)
            expect(merged[i]!.first > last(merged[i - 1]!)).toBe(true);
        },
      ),
    );
  });
  it('free and taken make the whole, without overlap', () => {
    fc.assert(
      fc.property(fc.array(block, { maxLength: 10 }), (taken) => {
        const parent = prefixOf('10.0.0.0/16');
        const free = freeBlocks(parent, taken);
        const held = aggregate(taken).reduce((sum, one) => sum + total(one), 0n);
        expect(free.reduce((sum, one) => sum + total(one), 0n) + held).toBe(total(parent));
        for (const one of free)
          expect([one.first, last(one)].some((value) => holds(taken, value))).toBe(false);
      }),
    );
  });
});
