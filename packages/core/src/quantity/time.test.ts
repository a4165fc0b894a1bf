/** Times as text: forms of RFC 3339 (examples of section 5.8, from memory) and what is none. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { canonicalTime, isDay } from './time.js';

describe('a time', () => {
  it.each([
    ['1985-04-12T23:20:50.52Z', '1985-04-12T23:20:50.520Z'],
    ['1996-12-19T16:39:57-08:00', '1996-12-20T00:39:57.000Z'],
    ['1937-01-01T12:00:27.87+00:20', '1937-01-01T11:40:27.870Z'],
    ['2026-11-20T08:00', '2026-11-20T08:00:00.000Z'],
    ['2026-11-20 08:00:00z', '2026-11-20T08:00:00.000Z'],
    ['2026-11-20T08:00:00.123456Z', '2026-11-20T08:00:00.123Z'],
  ])('%s is kept as %s', (text, kept) => expect(canonicalTime(text)).toBe(kept));
  it.each([
    '2027-W01-1',
    '0000-01-01T00:00:00Z',
    '2026-11-20',
    '20261120T080000Z',
    '2026-02-30T08:00Z',
    '2026-11-20T25:00Z',
    '2026-11-20T08:00+2',
    'yesterday',
    '',
    '+012026-11-20T08:00:00Z',
  ])('%s is none', (text) => expect(canonicalTime(text)).toBeUndefined());
  it('that is canonical stays as it is', () => {
    const times = fc.date({
      min: new Date('1000-01-01T00:00:00Z'),
      max: new Date('9999-12-31T23:59:59Z'),
      noInvalidDate: true,
    });
    fc.assert(
      fc.property(times, (time) => {
        expect(canonicalTime(time.toISOString())).toBe(time.toISOString());
      }),
    );
  });
});

describe('a day', () => {
  it.each([
    ['2028-02-29', true],
    ['2026-02-29', false],
    ['2026-13-01', false],
    ['2026-1-1', false],
    ['2026-11-20T00:00Z', false],
    ['0000-01-01', false],
  ])('%s: %s', (text, is) => expect(isDay(text)).toBe(is));
});
