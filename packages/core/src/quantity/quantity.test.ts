import { describe, expect, it, test } from 'vitest';
import {
  formatBinary,
  formatBoth,
  formatDecimal,
  formatDuration,
  formatMemory,
  GIB,
  parseBytes,
  parseDuration,
  parseMemory,
} from './index.js';

describe('sizes are read as written', () => {
  // Prefixes: SI Brochure, 9th edition, section 3; IEC 80000-13:2008, clause 4.
  test.each([
    ['500 GB', 500_000_000_000],
    ['500GB', 500_000_000_000],
    ['500 GiB', 536_870_912_000],
    ['500 Gi', 536_870_912_000],
    ['1 kB', 1000],
    ['1 KiB', 1024],
    ['1.5 GiB', 1_610_612_736],
    ['1.92 TB', 1_920_000_000_000],
    ['12 GiB', 12_884_901_888],
    ['0 B', 0],
  ])('%s is %d bytes', (text, bytes) =>
    expect(parseBytes(text)).toMatchObject({ ok: true, value: bytes }),
  );

  test.each([
    '500G',
    '1,5 GiB',
    '1,500 GiB',
    '-1 GiB',
    '1e3 GiB',
    '',
    'GiB',
    'NaN',
    'Infinity',
    '500',
    '9 PiB',
  ])('%s is refused with a sentence', (text) => {
    const read = parseBytes(text);
    expect(read.ok).toBe(false);
    expect(!read.ok && read.sentence).toMatch(/\w.*[.]$/);
  });

  it('says how an odd spelling was read', () =>
    expect(parseBytes('500 Gb')).toEqual({ ok: true, value: 5e11, note: 'read as GB' }));
  it('rounds a part of a byte half up and says so', () =>
    expect(parseBytes('0.1 GiB')).toEqual({
      ok: true,
      value: 107_374_182,
      note: 'rounded to a whole byte',
    }));
  it('takes memory in binary units only', () => {
    expect(parseMemory('4 GiB')).toEqual({ ok: true, value: 4096 });
    expect(parseMemory('4 GB')).toMatchObject({ ok: false });
  });
});

describe('sizes are printed', () => {
  // A 500 GB disk is 465.661287308 GiB, 12 GiB is 12.884901888 GB: exact by the definitions above.
  test.each([
    [500e9, '500 GB = 465.7 GiB'],
    [12 * GIB, '12.9 GB = 12 GiB'],
    [4e12, '4 TB = 3.6 TiB'],
  ])('%d as both', (bytes, text) => expect(formatBoth(bytes)).toBe(text));
  it('chooses the unit after rounding', () => expect(formatBinary(1023.99 * GIB)).toBe('1 TiB'));
  it('never shows more free than there is, nor less needed', () => {
    expect(formatBinary(1.99 * GIB, 'down')).toBe('1.9 GiB');
    expect(formatBinary(1.91 * GIB, 'up')).toBe('2 GiB');
    expect(formatMemory(-4800, 'down')).toBe('−4.7 GiB');
  });
  it('keeps decimal and binary apart', () =>
    expect([formatDecimal(34e9), formatBinary(34e9)]).toEqual(['34 GB', '31.7 GiB']));
});

describe('durations', () => {
  // 25,491.713 s is 7 h 04 min 51.7 s; what people wait for is rounded up.
  test.each([
    [25_491.713, '7 h 05 min'],
    [538.947, '9 min'],
    [8, '8 s'],
    [0, '0 s'],
    [3 * 86_400 + 3600, '3 d 01 h'],
  ])('%d seconds print as %s', (seconds, text) => expect(formatDuration(seconds)).toBe(text));
  it('reads what people write', () => {
    expect(parseDuration('1 h 30 min')).toEqual({ ok: true, value: 5400 });
    expect(parseDuration('soon').ok).toBe(false);
  });
});
