/** Whose windows bind a move, by which clock; what is planned outside of them is said. */
import { beforeEach, describe, expect, it } from 'vitest';
import type { Input } from '../change/index.js';
import { smallWorld, type World } from '../change/testing.js';
import { boundsOf, boundWords } from './bounds.js';
import { checksOf } from './checks-of.js';
import { findTimes } from './find-times.js';
import { timetable } from './timetable.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
  world.make(world.found('web', 'gannet', 512, '192.0.2.10'));
  world.make({
    type: 'site.record',
    input: { name: 'harbour', timeZone: 'europe/lisbon', workWindow: 'any day 18:00-06:00' },
  });
  world.make({ type: 'host-group.record', input: { name: 'pair', workWindow: 'not month end' } });
  world.make({
    type: 'guest-group.record',
    input: { name: 'fronts', outageWindow: 'Sat, Sun all day' },
  });
  host('gannet', { siteId: world.id('site', 'harbour') });
  host('tern', {
    groupId: world.id('hostGroup', 'pair'),
    workWindow: 'Fri-Sun all day',
  });
  guest({ groupId: world.id('guestGroup', 'fronts'), outageWindow: 'Sat 02:00-08:00' });
});

const host = (name: string, more: object) =>
  world.make({ type: 'host.edit', input: { id: world.id('host', name), ...more } });
const guest = (more: object) =>
  world.make({ type: 'guest.edit', input: { id: world.id('guest', 'web'), ...more } });
function plan(more: Partial<Input<'migration.plan'>> = {}) {
  world.make({
    type: 'migration.plan',
    input: {
      guestId: world.id('guest', 'web'),
      targetHostId: world.id('host', 'tern'),
      targetPoolId: world.id('pool', 'tern-data'),
      running: false,
      linkBitsPerSecond: 1e9,
      ...more,
    },
  });
  return [...world.fleet.all('migration')].at(-1)!;
}
const words = (move: ReturnType<typeof plan>) => boundsOf(world.fleet, move).map(boundWords);

it('a stopped move is bound by guest, its group, both hosts, their groups and sites', () =>
  expect(words(plan())).toEqual([
    'web may be down Sat 02:00-08:00 (Europe/Lisbon)',
    'one of fronts may be down Sat, Sun all day (Europe/Lisbon)',
    'work is done at harbour any day 18:00-06:00 (Europe/Lisbon)',
    'tern is worked at Fri-Sun all day (UTC)',
    'hosts of pair are worked at any time, not month end (UTC)',
  ]));

it('while it runs its guest is not down: only the places bind', () =>
  expect(words(plan({ running: true }))).toEqual([
    'work is done at harbour any day 18:00-06:00 (Europe/Lisbon)',
    'tern is worked at Fri-Sun all day (UTC)',
    'hosts of pair are worked at any time, not month end (UTC)',
  ]));

it('where nobody said when, nothing binds', () => {
  guest({ groupId: null, outageWindow: '' });
  host('gannet', { siteId: null });
  host('tern', { groupId: null, workWindow: '' });
  const move = plan({
    windowFrom: '2027-06-02T12:00:00.000Z',
    windowUntil: '2027-06-02T14:00:00.000Z',
  });
  expect(words(move)).toEqual([]);
  expect(checksOf(world.fleet, move).some(({ name }) => name === 'work window')).toBe(false);
});

it('a time is found at which all of them are open, by the clock of each place', () => {
  plan();
  const look = (from: string) =>
    findTimes(world.fleet, { from, days: 7, anew: false, hours: '', zone: 'UTC', mostAtOnce: null })
      .times[0]?.from;
  // In June Lisbon is an hour ahead of UTC: Saturday 02:00 there is 01:00 UTC; in January it is not.
  expect(look('2027-06-08T00:00:00.000Z')).toBe('2027-06-12T01:00:00.000Z');
  expect(look('2027-01-12T00:00:00.000Z')).toBe('2027-01-16T02:00:00.000Z');
  // 30 January 2027 is a Saturday: no working day, and therefore no month end; 1 May 2027 likewise.
  expect(look('2027-01-26T00:00:00.000Z')).toBe('2027-01-30T02:00:00.000Z');
});

it('the hours of people are meant by the clock that they are said for', () => {
  plan({ running: true });
  const look = (zone: string) =>
    findTimes(world.fleet, {
      from: '2027-06-08T00:00:00.000Z',
      ...{ days: 7, anew: false, hours: 'Sat 19:00-23:00', zone, mostAtOnce: null },
    }).times[0]?.from;
  expect(look('UTC')).toBe('2027-06-12T19:00:00.000Z');
  expect(look('Asia/Tokyo')).toBeUndefined();
  expect(look('America/New_York')).toBe('2027-06-12T23:00:00.000Z');
});

describe('what is planned for another time', () => {
  const window = (windowFrom: string, windowUntil: string) => ({ windowFrom, windowUntil });
  it('is said by the check and at its bar, and stands in nobody’s way', () => {
    const move = plan(window('2027-06-12T07:30:00.000Z', '2027-06-12T09:00:00.000Z'));
    expect(checksOf(world.fleet, move).find(({ name }) => name === 'work window')).toMatchObject({
      passed: false,
      advice: true,
      sentence:
        'Its time is not all within what is allowed: web may be down Sat 02:00-08:00 (Europe/Lisbon); work is done at harbour any day 18:00-06:00 (Europe/Lisbon).',
    });
    const { bars } = timetable(world.fleet, '2027-06-12T00:00:00.000Z', '2027-06-13T00:00:00.000Z');
    expect(bars[0]!.shut).toEqual([
      'web may be down Sat 02:00-08:00 (Europe/Lisbon)',
      'work is done at harbour any day 18:00-06:00 (Europe/Lisbon)',
    ]);
  });
  it('within it, it passes', () => {
    const move = plan(window('2027-06-12T01:00:00.000Z', '2027-06-12T03:00:00.000Z'));
    expect(checksOf(world.fleet, move).find(({ name }) => name === 'work window')).toMatchObject({
      passed: true,
    });
    const { bars } = timetable(world.fleet, '2027-06-12T00:00:00.000Z', '2027-06-13T00:00:00.000Z');
    expect(bars[0]!.shut).toEqual([]);
  });
});

it.each([
  ['site.record', { name: 'far', timeZone: 'Mordor/Gate' }, 'timeZone'],
  ['site.record', { name: 'far', workWindow: 'whenever' }, 'workWindow'],
  ['host-group.record', { name: 'far', workWindow: 'Sat 25:00-26:00' }, 'workWindow'],
  [
    'guest-group.record',
    { name: 'far', outageWindow: 'RRULE:FREQ=HOURLY all day' },
    'outageWindow',
  ],
] as const)('%s %o is refused at its field', (type, input, field) =>
  expect(world.try({ type, input } as never)).toMatchObject({ code: 'bad-value', field }),
);
