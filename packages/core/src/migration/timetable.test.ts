/** Moves along time: where each stands, what overruns its window, where more run at once than the link bears. */
import { beforeEach, describe, expect, it } from 'vitest';
import type { Change, Input } from '../change/index.js';
import { smallWorld, type World } from '../change/testing.js';
import { atOnce, timetable } from './index.js';

let world: World;
const plan = (guest: string, more: Partial<Input<'migration.plan'>> = {}): Change => ({
  type: 'migration.plan',
  input: {
    guestId: world.id('guest', guest),
    targetHostId: world.id('host', 'tern'),
    targetPoolId: world.id('pool', 'tern-data'),
    running: false,
    linkBitsPerSecond: 1e9,
    windowFrom: '2026-11-21T02:00:00.000Z',
    windowUntil: '2026-11-21T06:00:00.000Z',
    ...more,
  },
});
const seen = () => timetable(world.fleet, '2026-11-20T00:00:00.000Z', '2026-11-23T00:00:00.000Z');
const move = (guest: string) =>
  [...world.fleet.all('migration')].find(({ guestId }) => guestId === world.id('guest', guest))!;
const edit = (guest: string, fields: object) =>
  world.try({ type: 'migration.edit', input: { id: move(guest).id, ...fields } });

beforeEach(() => {
  world = smallWorld();
  for (const [name, ip] of [
    ['web', '192.0.2.10'],
    ['mail', '192.0.2.11'],
  ] as const)
    world.make(world.found(name, 'gannet', 512, ip));
});

describe('a bar', () => {
  it('of a planned move begins with its window and is as long as is expected', () => {
    world.make(plan('web'));
    const [bar] = seen().bars;
    // 50 GB at the habitual rate of 12 GiB in 9 minutes, and 5 minutes for the first start.
    const seconds = 50e9 / ((12 * 1024 ** 3) / 540) + 300;
    expect(bar!.from).toBe('2026-11-21T02:00:00.000Z');
    expect((Date.parse(bar!.to) - Date.parse(bar!.from)) / 1000).toBeCloseTo(seconds, 0);
    expect(bar).toMatchObject({ overruns: false, decideBy: '2026-11-21T05:05:00.000Z' });
  });
  it('that is longer than its window is told', () => {
    world.make(plan('web', { windowUntil: '2026-11-21T02:30:00.000Z' }));
    expect(seen().bars[0]!.overruns).toBe(true);
  });
  it('without a window has no place in time', () => {
    world.make(plan('web', { windowFrom: null, windowUntil: null }));
    expect(seen()).toMatchObject({ bars: [], loose: [{ guest: 'web' }] });
  });
  it('of one that has begun stands where it was', () => {
    world.make(plan('web'));
    world.make({ type: 'migration.step', input: { id: move('web').id, step: 'start' } });
    expect(seen().bars[0]).toMatchObject({ state: 'started', from: world.now });
  });
  it('outside of the stretch is not among them', () => {
    world.make(
      plan('web', {
        windowFrom: '2027-01-21T02:00:00.000Z',
        windowUntil: '2027-01-21T06:00:00.000Z',
      }),
    );
    expect(seen()).toMatchObject({ bars: [], loose: [] });
  });
});

describe('at once', () => {
  // Common practice, no source.
  it.each([
    [1e9, 1],
    [9.9e9, 1],
    [10e9, 4],
    [25e9, 8],
  ])('at %d bit/s %i', (link, wanted) => expect(atOnce(link)).toBe(wanted));
  it('two at a host of 1 Gbit/s are one too many, at 10 they are not', () => {
    world.make(plan('web'));
    world.make(plan('mail', { windowFrom: '2026-11-21T02:10:00.000Z' }));
    const crowds = seen().crowded;
    expect(crowds.map(({ at }) => world.fleet.need('host', at).name).sort()).toEqual([
      'gannet',
      'tern',
    ]);
    expect(crowds[0]).toMatchObject({
      from: '2026-11-21T02:10:00.000Z',
      guests: ['web', 'mail'],
      allowed: 1,
    });
    for (const guest of ['web', 'mail']) edit(guest, {});
    world.make({
      type: 'migration.edit',
      input: { id: move('web').id, linkBitsPerSecond: 10e9 },
    });
    world.make({
      type: 'migration.edit',
      input: { id: move('mail').id, linkBitsPerSecond: 10e9 },
    });
    expect(seen().crowded).toEqual([]);
  });
  it('one after the other is not at once', () => {
    world.make(plan('web'));
    world.make(
      plan('mail', {
        windowFrom: '2026-11-21T05:00:00.000Z',
        windowUntil: '2026-11-21T09:00:00.000Z',
      }),
    );
    expect(seen().crowded).toEqual([]);
  });
});

describe('a move is edited', () => {
  it('not so that its window ends before it begins, nor once it is settled', () => {
    world.make(plan('web'));
    expect(edit('web', { windowUntil: '2026-11-21T01:00:00.000Z' })).toMatchObject({
      code: 'window-backwards',
    });
    world.make({ type: 'migration.step', input: { id: move('web').id, step: 'roll back' } });
    expect(edit('web', { windowUntil: '2026-11-21T07:00:00.000Z' })).toMatchObject({
      code: 'state-cannot-follow',
    });
    expect(edit('web', { notes: 'it rained' })).not.toHaveProperty('code');
  });
});
