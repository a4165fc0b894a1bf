/** Times for planned moves: what their guests allow, what the links bear, who waits for whom. Worked by hand. */
import { beforeEach, describe, expect, it } from 'vitest';
import type { Input } from '../change/index.js';
import { smallWorld, type World } from '../change/testing.js';
import { findTimes, type TimesAsk } from './find-times.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
  for (const [i, name] of ['web', 'mail', 'names'].entries())
    world.make(world.found(name, 'gannet', 512, `192.0.2.1${i}`));
});

function plan(guest: string, more: Partial<Input<'migration.plan'>> = {}, override = ''): string {
  world.make({
    type: 'migration.plan',
    override,
    input: {
      guestId: world.id('guest', guest),
      targetHostId: world.id('host', 'tern'),
      targetPoolId: world.id('pool', 'tern-data'),
      running: false,
      linkBitsPerSecond: 1e9,
      ...more,
    },
  });
  return [...world.fleet.all('migration')].at(-1)!.id;
}
const look = (more: Partial<TimesAsk> = {}) =>
  findTimes(world.fleet, {
    from: '2026-11-20T08:00:00.000Z',
    days: 7,
    anew: false,
    hours: '',
    zone: 'UTC',
    mostAtOnce: null,
    ...more,
  });

it('none is planned: it says so', () =>
  expect(look()).toMatchObject({
    times: [],
    end: null,
    headline: 'No planned move is without a time.',
  }));

it('one link bears one at a time: they follow each other, and no order ends earlier', () => {
  for (const name of ['web', 'mail', 'names']) plan(name);
  const { times, proven, end, unfit } = look();
  expect(unfit).toEqual([]);
  expect(proven).toBe(true);
  expect(times[0]!.from).toBe('2026-11-20T08:00:00.000Z');
  expect(times[1]!.from).toBe(times[0]!.until);
  expect(times[2]!.from).toBe(times[1]!.until);
  expect(end).toBe(times[2]!.until);
});

it('ten Gbit/s bear four: all begin at once', () => {
  for (const name of ['web', 'mail', 'names']) plan(name, { linkBitsPerSecond: 1e10 });
  expect(new Set(look().times.map(({ from }) => from)).size).toBe(1);
  expect(new Set(look({ mostAtOnce: 1 }).times.map(({ from }) => from)).size).toBe(3);
});

it('who gives names to others goes last', () => {
  plan('names');
  plan('web');
  world.make({ type: 'service.record', input: { name: 'names of the houses', what: 'names' } });
  const serviceId = world.id('service', 'names of the houses');
  world.make({
    type: 'provider.record',
    input: { serviceId, guestId: world.id('guest', 'names') },
  });
  world.make({
    type: 'need.record',
    input: { serviceId, guestId: world.id('guest', 'web') },
  });
  expect(look().times.map(({ guest }) => guest)).toEqual(['web', 'names']);
});

it('members of a group never move at once', () => {
  world.make({ type: 'guest-group.record', input: { name: 'pair' } });
  const groupId = world.id('guestGroup', 'pair');
  for (const name of ['web', 'mail']) {
    world.make({ type: 'guest.edit', input: { id: world.id('guest', name), groupId } });
    plan(name, { linkBitsPerSecond: 1e10 });
  }
  const [one, other] = look().times;
  expect(other!.from).toBe(one!.until);
});

describe('windows', () => {
  const window = (name: string, outageWindow: string) =>
    world.make({ type: 'guest.edit', input: { id: world.id('guest', name), outageWindow } });

  it('are kept: 20 November 2026 is a Friday, its window a Saturday', () => {
    window('web', 'Sat 02:00-06:00');
    plan('web');
    expect(look().times[0]!.from).toBe('2026-11-21T02:00:00.000Z');
  });
  it('who moves while running is not down', () => {
    window('web', 'Sat 02:00-06:00');
    plan('web', { running: true });
    expect(look().times[0]!.from).toBe('2026-11-20T08:00:00.000Z');
  });
  it('somebody has to be there', () => {
    window('web', 'Sat, Sun 02:00-06:00');
    plan('web');
    expect(look({ hours: 'Sun 04:00-08:00' }).times[0]!.from).toBe('2026-11-22T04:00:00.000Z');
    expect(look({ hours: 'Mon 04:00-08:00' })).toMatchObject({
      times: [],
      headline: 'None of them finds a place.',
      unfit: [
        {
          guest: 'web',
          why: expect.stringMatching(
            /^in these 7 days there is no time at which web may be down Sat, Sun 02:00-06:00 \(UTC\), and somebody is there Mon 04:00-08:00 \(UTC\)$/,
          ) as string,
        },
      ],
    });
  });
  it('one that is too short is told with what is missing', () => {
    window('web', 'Sat 02:00-02:20');
    plan('web');
    expect(look().unfit).toMatchObject([
      {
        why: expect.stringMatching(
          /^it takes up to \d+ minutes, and no window is longer than 20: web may be down Sat 02:00-02:20 \(UTC\)$/,
        ) as string,
        mend: expect.stringMatching(/^A window longer by \d+ minutes/) as string,
      },
    ]);
  });
});

it('what has a time stays, and is gone round, unless all are looked at anew', () => {
  plan('web', {
    windowFrom: '2026-11-20T08:00:00.000Z',
    windowUntil: '2026-11-20T12:00:00.000Z',
  });
  plan('mail');
  const { times } = look();
  expect(times.map(({ guest, kept }) => [guest, kept])).toEqual([
    ['web', true],
    ['mail', false],
  ]);
  expect(times[1]!.from).toBe(times[0]!.until);
  expect(look({ anew: true }).times.every(({ kept }) => !kept)).toBe(true);
});

it('moves whose times clash already are both told as they stand', () => {
  const window = {
    windowFrom: '2026-11-20T08:00:00.000Z',
    windowUntil: '2026-11-20T12:00:00.000Z',
  };
  plan('web', window);
  plan('mail', window);
  plan('names');
  const { times } = look();
  expect(times.map(({ guest, kept }) => [guest, kept])).toEqual([
    ['mail', true],
    ['web', true],
    ['names', false],
  ]);
  expect(times[2]!.from >= times[0]!.until && times[2]!.from >= times[1]!.until).toBe(true);
});

describe('set as they were found', () => {
  it('each move has its window; the log says how many', () => {
    const id = plan('web');
    const { times } = look();
    const { title } = world.make({
      type: 'migration.set-times',
      input: { ids: [id], times: times.map(({ from, until }) => ({ from, until })) },
    });
    expect(title).toBe('set the times of 1 move');
    expect(world.fleet.need('migration', id)).toMatchObject({ windowFrom: times[0]!.from });
  });
  it.each([
    ['fewer times than moves', [], 'times-unlike-moves'],
    [
      'one that ends before it begins',
      [{ from: '2026-11-21T02:00:00.000Z', until: '2026-11-21T01:00:00.000Z' }],
      'window-backwards',
    ],
  ])('%s is refused', (_, times, code) => {
    const id = plan('web');
    expect(world.try({ type: 'migration.set-times', input: { ids: [id], times } })).toMatchObject({
      code,
    });
  });
});

describe('where there is no room yet', () => {
  // tern has 14,336 MiB for guests; tide takes 8,393 of it, and web asks as much.
  const crowd = () => {
    world.make(world.found('tide', 'tern', 8192, '192.0.2.50'));
    world.make({
      type: 'guest.edit',
      input: { id: world.id('guest', 'web'), memoryMiB: 8192 },
    });
  };
  const both = () => {
    const all = look().times;
    return ['tide', 'web'].map((name) => all.find(({ guest }) => guest === name)!);
  };
  it('who leaves from there moves before', () => {
    crowd();
    world.host('skua', 16);
    plan('web', { linkBitsPerSecond: 1e10 }, 'tide leaves first');
    const to = {
      targetHostId: world.id('host', 'skua'),
      targetPoolId: world.id('pool', 'skua-data'),
    };
    plan('tide', { ...to, linkBitsPerSecond: 1e10 });
    const [tide, web] = both();
    expect(web!.from >= tide!.until).toBe(true);
  });
  it('with the room there, both begin at once', () => {
    world.make(world.found('tide', 'tern', 512, '192.0.2.50'));
    world.host('skua', 16);
    plan('web', { linkBitsPerSecond: 1e10 });
    const to = {
      targetHostId: world.id('host', 'skua'),
      targetPoolId: world.id('pool', 'skua-data'),
    };
    plan('tide', { ...to, linkBitsPerSecond: 1e10 });
    const [tide, web] = both();
    expect(web!.from).toBe(tide!.from);
  });
  it('two that wait for each other are not made to wait for ever', () => {
    crowd();
    plan('web', { linkBitsPerSecond: 1e10 }, 'tide leaves first');
    const back = {
      targetHostId: world.id('host', 'gannet'),
      targetPoolId: world.id('pool', 'gannet-data'),
    };
    plan('tide', { ...back, linkBitsPerSecond: 1e10 }, 'web leaves first');
    expect(look().unfit).toEqual([]);
  });
});
