import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { openTimes } from './open-times.js';
import { readWindow } from './work-window.js';

const read = (text: string) => {
  const found = readWindow(text);
  return found.ok ? found.value : found.sentence;
};
const weekly = (days: string, fromMinute: number, minutes: number) => ({
  openings: [{ rule: days && `FREQ=WEEKLY;BYDAY=${days}`, from: null, fromMinute, minutes }],
  closed: [],
});
const daysOf = (text: string) => {
  const found = readWindow(`${text} 01:00-02:00`);
  if (!found.ok) return found.sentence;
  const { rule, from } = found.value!.openings[0]!;
  return from ? `${rule} from ${from}` : rule;
};

describe('hours', () => {
  it.each([
    ['Sat, Sun 02:00-06:00', weekly('SA,SU', 120, 240)],
    ['friday 9:00-17:00', weekly('FR', 540, 480)],
    ['Sunday 0:00-24:00', weekly('SU', 0, 1440)],
    ['Mon all day', weekly('MO', 0, 1440)],
    ['Mon 22:00 to 04:00', weekly('MO', 1320, 360)],
    ['', null],
    [' ; ', null],
  ])('%s', (text, wanted) => expect(read(text)).toEqual(wanted));
  it.each([
    ['whenever', 'no hours'],
    ['Monkey 02:00-04:00', 'no days'],
    ['Fri 25:00-26:00', 'no such hours'],
    ['Fri 02:60-04:00', 'no such hours'],
    ['Fri 02:00-02:00', 'no such hours'],
    ['Fri 24:00-02:00', 'no such hours'],
    ['not', 'no hours'],
    ['not whenever', 'no days'],
  ])('%s: %s', (text, why) => expect(read(text)).toContain(`"${text}" is not a window (${why})`));
});

describe('days', () => {
  it.each([
    ['any day', 'FREQ=DAILY'],
    ['', 'FREQ=DAILY'],
    ['Mon-Fri', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR'],
    ['Sat–Mon', 'FREQ=WEEKLY;BYDAY=SA,SU,MO'],
    ['Tuesday and Thursday', 'FREQ=WEEKLY;BYDAY=TU,TH'],
    ['1st Sat', 'FREQ=MONTHLY;BYDAY=1SA'],
    ['2nd, 4th Tue', 'FREQ=MONTHLY;BYDAY=2TU,4TU'],
    ['last Sun of Mar, Sep', 'FREQ=MONTHLY;BYDAY=-1SU;BYMONTH=3,9'],
    ['Sun of Nov-Jan', 'FREQ=WEEKLY;BYDAY=SU;BYMONTH=11,12,1'],
    ['every other Sat from 2026-12-05', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=SA from 2026-12-05'],
    [
      'every 3 weeks on Sat, Sun from 2026-12-05',
      'FREQ=WEEKLY;INTERVAL=3;BYDAY=SA,SU from 2026-12-05',
    ],
    ['2026-12-05', 'FREQ=DAILY;UNTIL=20261205T000000Z from 2026-12-05'],
    ['2026-12-24 to 2027-01-02', 'FREQ=DAILY;UNTIL=20270102T000000Z from 2026-12-24'],
    ['RRULE:FREQ=MONTHLY;BYMONTHDAY=-1', 'FREQ=MONTHLY;BYMONTHDAY=-1'],
    [
      'rrule:freq=weekly;interval=2;byday=sa;wkst=mo from 2026-12-05',
      'FREQ=WEEKLY;INTERVAL=2;BYDAY=SA;WKST=MO from 2026-12-05',
    ],
    [
      'RRULE:FREQ=DAILY;UNTIL=20270102 from 2026-12-24',
      'FREQ=DAILY;UNTIL=20270102T000000Z from 2026-12-24',
    ],
  ])('%s', (text, wanted) => expect(daysOf(text)).toBe(wanted));
  it.each([
    ['2026-02-30', 'there is no day 2026-02-30'],
    ['2026-12-24 to 2026-12-01', 'it ends before it begins'],
    ['every other Sat from 2026-13-05', 'there is no day 2026-13-05'],
    ['RRULE:FREQ=HOURLY', 'FREQ cannot be HOURLY'],
    ['RRULE:FREQ=DAILY;BYHOUR=3', 'BYHOUR says nothing of days'],
    ['RRULE:BYDAY=MO', 'FREQ is missing'],
    ['RRULE:FREQ=WEEKLY;BYDAY=XX', 'BYDAY cannot be XX'],
    ['RRULE:FREQ=DAILY;INTERVAL=2', 'say from which day it counts'],
    ['RRULE:FREQ=MONTHLY', 'say from which day it counts'],
    ['RRULE:FREQ=DAILY;UNTIL=20261399', 'there is no day 20261399'],
    ['6th Sat', 'no days'],
    ['Sat of Foo', 'no days'],
  ])('%s: %s', (text, why) => expect(daysOf(text)).toContain(why));
});

it('parts are told apart with and without a space, and a recurrence keeps its own', () => {
  for (const text of [
    'RRULE:FREQ=MONTHLY;BYDAY=2SA 02:00-04:00;not month end',
    'rrule:freq=monthly;byday=2sa 02:00-04:00; not month end;',
  ])
    expect(read(text)).toMatchObject({
      openings: [{ rule: 'FREQ=MONTHLY;BYDAY=2SA', fromMinute: 120 }],
      closed: [{ from: null }],
    });
});

it('closed days stand beside openings, or alone', () => {
  expect(read('Sat 22:00-04:00; not 2026-12-26; not month end')).toEqual({
    openings: [{ rule: 'FREQ=WEEKLY;BYDAY=SA', from: null, fromMinute: 1320, minutes: 360 }],
    closed: [
      { rule: 'FREQ=DAILY;UNTIL=20261226T000000Z', from: '2026-12-26' },
      { rule: 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=1,2,-2,-1', from: null },
    ],
  });
  expect(read('not Mon-Fri\n')).toMatchObject({ openings: [], closed: [{}] });
});

it('any week is read as it is written', () => {
  const NAMES = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
  const clock = (minute: number) =>
    `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
  fc.assert(
    fc.property(
      fc.subarray([0, 1, 2, 3, 4, 5, 6], { minLength: 1 }),
      fc.integer({ min: 0, max: 1439 }),
      fc.integer({ min: 1, max: 1439 }),
      (days, fromMinute, minutes) => {
        const text = `${days.map((day) => NAMES[day]).join(', ')} ${clock(fromMinute)}-${clock((fromMinute + minutes) % 1440)}`;
        const codes = days.map((day) => NAMES[day]!.slice(0, 2).toUpperCase()).join(',');
        expect(read(text)).toEqual(weekly(codes, fromMinute, minutes));
      },
    ),
  );
});

it('what the reader takes, the calendar can work out', () => {
  const number = (most: number) => fc.integer({ min: -most, max: most }).filter((n) => n !== 0);
  const list = (one: fc.Arbitrary<string | number>) =>
    fc.array(one, { minLength: 1, maxLength: 3 }).map((some) => some.join(','));
  const day = fc.constantFrom('MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU');
  const part = fc.oneof(
    list(day).map((days) => `BYDAY=${days}`),
    list(fc.tuple(number(53), day).map(([n, name]) => `${n}${name}`)).map((d) => `BYDAY=${d}`),
    list(fc.integer({ min: 1, max: 12 })).map((months) => `BYMONTH=${months}`),
    list(number(31)).map((days) => `BYMONTHDAY=${days}`),
    list(number(366)).map((days) => `BYYEARDAY=${days}`),
    list(number(9)).map((places) => `BYSETPOS=${places}`),
    fc.integer({ min: 1, max: 400 }).map((n) => `INTERVAL=${n}`),
    fc.integer({ min: 1, max: 400 }).map((n) => `COUNT=${n}`),
    fc.constant('UNTIL=20271231'),
  );
  fc.assert(
    fc.property(
      fc.constantFrom('DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY'),
      fc.uniqueArray(part, { maxLength: 4, selector: (text) => text.split('=')[0] }),
      (freq, parts) => {
        const found = readWindow(
          `RRULE:${[`FREQ=${freq}`, ...parts].join(';')} from 2025-01-01 01:00-02:00`,
        );
        if (!found.ok) return;
        openTimes(found.value, 'Europe/Lisbon', 29_700_000, 29_800_000);
      },
    ),
    { numRuns: 300 },
  );
});
