/**
 * Windows on the clock of a place: against the worked examples of RFC 5545 (section 3.8.5.3, from memory of the text), and the
 * two odd days by hand. `outside/clocks.test.ts` asks the system's own clocks.
 */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { crossing, joined, openTimes, type Stretch } from './open-times.js';
import { readWindow } from './work-window.js';
import { readTimeZone } from './zone-name.js';
import { dayAt, midnights, minuteAt } from './zone.js';

const minute = (time: string) => Date.parse(time) / 60_000;
const time = (at: number) => new Date(at * 60_000).toISOString().slice(0, 16);
const open = (text: string, zone: string, from: string, until: string): string[] => {
  const read = readWindow(text);
  if (!read.ok) throw new Error(read.sentence);
  return openTimes(read.value, zone, minute(`${from}T00:00Z`), minute(`${until}T00:00Z`)).map(
    ([begins, ends]) => `${time(begins)}/${time(ends)}`,
  );
};

describe('examples of RFC 5545, section 3.8.5.3: nine o’clock in New York is 13:00 or 14:00 UTC', () => {
  const NEW_YORK = 'America/New_York';
  const starts = (rule: string, from: string, until: string) =>
    open(`RRULE:${rule} from ${from} 09:00-10:00`, NEW_YORK, '1997-01-01', until).map((one) =>
      one.slice(0, 16),
    );
  const days = (month: string, hour: string, ...some: number[]) =>
    some.map((day) => `${month}-${String(day).padStart(2, '0')}T${hour}:00`);
  it.each([
    [
      'daily for 10 occurrences',
      'FREQ=DAILY;COUNT=10',
      '1997-09-02',
      days('1997-09', '13', 2, 3, 4, 5, 6, 7, 8, 9, 10, 11),
    ],
    [
      'weekly until 24 December 1997',
      'FREQ=WEEKLY;BYDAY=TU;UNTIL=19971224',
      '1997-09-02',
      [
        ...days('1997-09', '13', 2, 9, 16, 23, 30),
        ...days('1997-10', '13', 7, 14, 21),
        ...days('1997-10', '14', 28),
        ...days('1997-11', '14', 4, 11, 18, 25),
        ...days('1997-12', '14', 2, 9, 16, 23),
      ],
    ],
    [
      'every other week on Tuesday and Thursday, for 8 occurrences',
      'FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH',
      '1997-09-02',
      [...days('1997-09', '13', 2, 4, 16, 18, 30), ...days('1997-10', '13', 2, 14, 16)],
    ],
    [
      'monthly on the first Friday for 10 occurrences',
      'FREQ=MONTHLY;COUNT=10;BYDAY=1FR',
      '1997-09-05',
      [
        ...['1997-09-05T13', '1997-10-03T13', '1997-11-07T14', '1997-12-05T14', '1998-01-02T14'],
        ...['1998-02-06T14', '1998-03-06T14', '1998-04-03T14', '1998-05-01T13', '1998-06-05T13'],
      ].map((hour) => `${hour}:00`),
    ],
    [
      'monthly on the second-to-last Monday for 6 months',
      'FREQ=MONTHLY;COUNT=6;BYDAY=-2MO',
      '1997-09-22',
      [
        ...['1997-09-22T13', '1997-10-20T13', '1997-11-17T14'],
        ...['1997-12-22T14', '1998-01-19T14', '1998-02-16T14'],
      ].map((hour) => `${hour}:00`),
    ],
    [
      'the third-to-last day of the month (six of them)',
      'FREQ=MONTHLY;BYMONTHDAY=-3;COUNT=6',
      '1997-09-28',
      [
        ...['1997-09-28T13', '1997-10-29T14', '1997-11-28T14'],
        ...['1997-12-29T14', '1998-01-29T14', '1998-02-26T14'],
      ].map((hour) => `${hour}:00`),
    ],
    [
      'the second-to-last weekday of the month (seven of them)',
      'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2;COUNT=7',
      '1997-09-29',
      [
        ...['1997-09-29T13', '1997-10-30T14', '1997-11-27T14', '1997-12-30T14'],
        ...['1998-01-29T14', '1998-02-26T14', '1998-03-30T14'],
      ].map((hour) => `${hour}:00`),
    ],
    [
      'every 20th Monday of the year (three of them)',
      'FREQ=YEARLY;BYDAY=20MO;COUNT=3',
      '1997-05-19',
      ['1997-05-19T13:00', '1998-05-18T13:00', '1999-05-17T13:00'],
    ],
    [
      'every Thursday of March (eleven of them)',
      'FREQ=YEARLY;BYMONTH=3;BYDAY=TH;COUNT=11',
      '1997-03-13',
      [
        ...days('1997-03', '14', 13, 20, 27),
        ...days('1998-03', '14', 5, 12, 19, 26),
        ...days('1999-03', '14', 4, 11, 18, 25),
      ],
    ],
  ])('%s', (_, rule, from, wanted) => expect(starts(rule, from, '2000-01-01')).toEqual(wanted));

  it('every Friday the 13th, with the first day excepted', () =>
    expect(
      open(
        'RRULE:FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13 09:00-10:00; not 1997-09-02',
        NEW_YORK,
        '1997-09-01',
        '2000-12-31',
      ).map((one) => one.slice(0, 13)),
    ).toEqual([
      '1998-02-13T14',
      '1998-03-13T14',
      '1998-11-13T14',
      '1999-08-13T13',
      '2000-10-13T13',
    ]));
});

describe('the two odd days of the year', () => {
  const LISBON = 'Europe/Lisbon';
  // Lisbon goes from +0 to +1 on 28 March 2027 at 01:00, and back on 31 October 2027 at 02:00 (EU directive 2000/84/EC).
  it('one night has an hour less, one an hour more', () => {
    expect(open('Sat 22:00-04:00', LISBON, '2027-03-27', '2027-03-29')).toEqual([
      '2027-03-27T22:00/2027-03-28T03:00',
    ]);
    expect(open('Sat 22:00-04:00', LISBON, '2027-10-30', '2027-11-01')).toEqual([
      '2027-10-30T21:00/2027-10-31T04:00',
    ]);
  });
  it('an hour that is left out gives nothing; one that begins in it begins when it is over', () => {
    expect(open('Sun 01:00-02:00', LISBON, '2027-03-28', '2027-03-29')).toEqual([]);
    expect(open('Sun 01:30-04:00', LISBON, '2027-03-28', '2027-03-29')).toEqual([
      '2027-03-28T01:30/2027-03-28T03:00',
    ]);
  });
  it('of an hour that comes twice the first is meant', () =>
    expect(open('Sun 01:30-03:00', LISBON, '2027-10-31', '2027-11-01')).toEqual([
      '2027-10-31T00:30/2027-10-31T03:00',
    ]));
  it('their days have 23 and 25 hours', () => {
    const hours = (from: string, until: string) =>
      midnights(LISBON, minute(from), minute(until)).map((at, i, all) => (all[i + 1] ?? at) - at);
    expect(hours('2027-03-27T00:00Z', '2027-03-30T00:00Z')).toEqual([1440, 1380, 1440, 0]);
    expect(hours('2027-10-29T23:00Z', '2027-11-01T12:00Z')).toEqual([1440, 1500, 0]);
  });
  it('far from Greenwich the day is another', () => {
    expect(dayAt('Pacific/Auckland', minute('2026-12-04T12:00Z'))).toBe(
      minute('2026-12-05T00:00Z') / 1440,
    );
    expect(open('Sat 02:00-04:00', 'Pacific/Auckland', '2026-12-04', '2026-12-06')).toEqual([
      '2026-12-04T13:00/2026-12-04T15:00',
    ]);
  });
});

describe('closed days', () => {
  it('close what begins on them, and leave what runs into them', () =>
    expect(open('any day 22:00-04:00; not 2026-12-25', 'UTC', '2026-12-24', '2026-12-27')).toEqual([
      '2026-12-24T00:00/2026-12-24T04:00',
      '2026-12-24T22:00/2026-12-25T04:00',
      '2026-12-26T22:00/2026-12-27T00:00',
    ]));
  it('alone they leave all other time open', () =>
    expect(open('not Mon-Fri', 'UTC', '2026-12-02', '2026-12-09')).toEqual([
      '2026-12-05T00:00/2026-12-07T00:00',
    ]));
  // November 2026 ends on a Monday: its last two working days are the 27th and 30th, the next month's first are the 1st and 2nd.
  it('the end of a month is its last two working days and the next one’s first two', () =>
    expect(open('any day 01:00-02:00; not month end', 'UTC', '2026-11-26', '2026-12-05')).toEqual([
      '2026-11-26T01:00/2026-11-26T02:00',
      '2026-11-28T01:00/2026-11-28T02:00',
      '2026-11-29T01:00/2026-11-29T02:00',
      '2026-12-03T01:00/2026-12-03T02:00',
      '2026-12-04T01:00/2026-12-04T02:00',
    ]));
});

describe('stretches', () => {
  const stretches = fc.array(
    fc
      .tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: -2, max: 20 }))
      .map(([from, length]): Stretch => [from, from + length]),
    { maxLength: 8 },
  );
  const holds = (some: readonly Stretch[], at: number) =>
    some.some(([from, until]) => at >= from && at < until);
  it('joined they hold the same minutes, in order, none touching another', () =>
    fc.assert(
      fc.property(stretches, (some) => {
        const all = joined(some);
        for (let at = -3; at < 90; at += 1) expect(holds(all, at)).toBe(holds(some, at));
        all.forEach(([from], i) => i > 0 && expect(from).toBeGreaterThan(all[i - 1]![1]));
      }),
    ));
  it('crossing holds the minutes that are in both', () =>
    fc.assert(
      fc.property(stretches, stretches, (one, other) => {
        const both = crossing(joined(one), joined(other));
        for (let at = -3; at < 90; at += 1)
          expect(holds(both, at)).toBe(holds(one, at) && holds(other, at));
      }),
    ));
});

it('a zone is known by its name, in any case; an offset is none', () => {
  expect(readTimeZone(' europe/lisbon ')).toEqual({ ok: true, value: 'Europe/Lisbon' });
  expect(readTimeZone('utc')).toEqual({ ok: true, value: 'UTC' });
  expect(readTimeZone('')).toEqual({ ok: true, value: '' });
  for (const text of ['Mordor/Gate', '+02:00', 'summer time'])
    expect(readTimeZone(text)).toMatchObject({ ok: false });
});

it('minutes of a clock and back: any time that a clock shows is found', () =>
  fc.assert(
    fc.property(
      fc.constantFrom('Europe/Lisbon', 'America/New_York', 'Asia/Kathmandu', 'Australia/Lord_Howe'),
      fc.integer({ min: 20_000, max: 22_000 }),
      (zone, day) => {
        const at = minuteAt(zone, day, 720);
        expect(dayAt(zone, at)).toBe(day);
        expect(Math.abs(at - (day * 1440 + 720))).toBeLessThan(15 * 60);
      },
    ),
  ));
