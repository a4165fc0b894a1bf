/** Numbers of a column: read in the notation that the column itself settles, asked where none of them does. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { notationOf, plainNumber } from './number-notation.js';

describe('the notation of a column', () => {
  it.each([
    [['4', '16 GiB'], { settled: 'point' }],
    [['1.5', '2'], { settled: 'point' }],
    [['1,5 TB', '1.000 GB'], { settled: 'comma' }],
    [['1.000.000', '2'], { settled: 'comma' }],
    [['1,234.5'], { settled: 'point' }],
    [["1'234,50"], { settled: 'comma' }],
    [['0.500'], { settled: 'point' }],
    [['1000.125'], { settled: 'point' }],
    [['1.000 GB', '2'], { ambiguous: '1.000 GB' }],
    [['2,048'], { ambiguous: '2,048' }],
    [['1.5', '2,5'], { ambiguous: '1.5 and 2,5' }],
  ])('%j', (texts, wanted) => expect(notationOf(texts)).toEqual(wanted));
});

describe('a number', () => {
  it.each([
    ['1.234,5 GB', 'comma', '1234.5 GB'],
    ['1.000 GB', 'comma', '1000 GB'],
    ['1.000 GB', 'point', '1.000 GB'],
    ['1,000 GB', 'point', '1000 GB'],
    ['1 234,5', 'comma', '1234.5'],
    ["12'000 MiB", 'point', '12000 MiB'],
    ['16 GiB', 'comma', '16 GiB'],
    ['none', 'comma', 'none'],
  ] as const)('%s, %s: %s', (text, notation, plain) =>
    expect(plainNumber(text, notation)).toBe(plain),
  );
  // Outside check: what the runtime's own formatter (ECMA-402) prints is read back as the number it was.
  it('printed by a general library for a country is read back as it was', () => {
    for (const [country, notation] of [
      ['en-GB', 'point'],
      ['de-DE', 'comma'],
      ['fr-FR', 'comma'],
      ['de-CH', 'point'],
    ] as const) {
      const print = new Intl.NumberFormat(country, { maximumFractionDigits: 2 });
      fc.assert(
        fc.property(fc.integer({ min: 0, max: 1e9 }), (cents) => {
          const text = print.format(cents / 100).replaceAll('’', "'");
          expect(Number(plainNumber(text, notation))).toBe(cents / 100);
        }),
      );
    }
  });
});
