/** What can be said of a batch and of each clone in it, where it goes by rule, and how long it takes. */
import { beforeEach, describe, expect, it } from 'vitest';
import { decide, type Change, type Input } from '../change/index.js';
import { smallWorld, type World } from '../change/testing.js';
import { poolFigures } from '../host/index.js';
import { isRefusal } from '../record/index.js';
import { diskName, diskNames } from './disk-name.js';
import { batchTime, pastRates, speedOfPool } from './clone-time.js';

let world: World;
const guest = (name: string) => world.fleet.need('guest', world.id('guest', name));
const make = (more: Partial<Input<'clone.make'>> = {}, override?: string): Change => ({
  type: 'clone.make',
  input: {
    originId: world.id('guest', 'master'),
    copy: 'full',
    pattern: 'reader-{n}',
    start: 1,
    taking: 'run',
    clones: [{}, {}],
    ...more,
  },
  override,
});
const hostOf = (name: string) => world.fleet.need('host', guest(name).hostId).name;
const adapterOf = (name: string) => world.fleet.referring('adapter', 'guestId', guest(name).id)[0]!;

beforeEach(() => {
  world = smallWorld();
  world.make(world.found('master', 'gannet', 512, '192.0.2.10', 'stopped'));
});

describe('of a batch is said', () => {
  it('size, group, owner, end and service; a cell goes before it', () => {
    world.make({ type: 'guest-group.record', input: { name: 'readers', spread: 'none' } });
    world.make({ type: 'service.record', input: { name: 'readings', what: 'other' } });
    const groupId = world.id('guestGroup', 'readers');
    world.make(
      make({
        vcpu: 1,
        memoryMiB: 1024,
        groupId,
        owner: 'tides',
        endDate: '2027-01-31',
        serviceId: world.id('service', 'readings'),
        clones: [{}, { memoryMiB: 2048 }],
      }),
    );
    expect(guest('reader-1')).toMatchObject({
      vcpu: 1,
      memoryMiB: 1024,
      groupId,
      owner: 'tides',
      endDate: '2027-01-31',
    });
    expect(guest('reader-2').memoryMiB).toBe(2048);
    expect(world.fleet.referringCount('provider', 'guestId', guest('reader-1').id)).toBe(1);
  });
  it('a MAC that was typed, pool and reservations', () => {
    world.make(
      make({
        addressUse: 'reservation',
        clones: [{ mac: '02-00-00-00-00-aa' }, {}],
      }),
    );
    expect(adapterOf('reader-1').mac).toBe('02:00:00:00:00:aa');
    const [address] = world.fleet.referring('address', 'adapterId', adapterOf('reader-2').id);
    expect(address!.use).toBe('reservation');
    expect(world.try(make({ clones: [{ mac: '01:00:00:00:00:aa' }] }))).toMatchObject({
      code: 'bad-mac',
      field: 'clones.0.adapters.0.mac',
    });
  });
  it('no address at all', () => {
    world.make(make({ taking: 'none' }));
    expect(world.fleet.referring('address', 'adapterId', adapterOf('reader-1').id)).toEqual([]);
  });
  it('500 of them in one change', () => {
    const clones = Array.from({ length: 500 }, () => ({}));
    const made = decide(
      world.fleet,
      make({ clones, taking: 'none', pattern: 'c-{n}' }, 'a test of many'),
      { ...world.context(), randomByte: () => Math.floor(Math.random() * 256) },
    );
    if (isRefusal(made)) throw new Error(made.sentence);
    expect(made.patches.filter(({ kind }) => kind === 'clone')).toHaveLength(500);
  });
});

it.each([['999.1.1.1'], ['%'], ['00000000-0000-0000-0000-000000000000']])(
  'an address that is none, %s, is refused at its cell, beside ones that take the next free',
  (ip) => {
    for (const taking of ['run', 'single', 'none'] as const)
      expect(world.try(make({ taking, clones: [{}, { ip }, {}] }))).toMatchObject({
        code: 'bad-address',
        field: 'clones.1.ip',
      });
  },
);

describe('storage', () => {
  // By hand: a pool of 1,000 GB with the master of 50 GB; copies of 50 GB each.
  it.each([
    ['full', 3, 'thick', 1000 - 50 - 150, 1000 - 50 - 150],
    ['by hand', 3, 'thick', 1000 - 50 - 150, 1000 - 50 - 150],
    // Dependent ones are thin: promised in full, written not at all.
    ['dependent', 3, 'thick', 1000 - 50 - 150, 1000 - 50],
    // A thin master of which 20 GB are written: copies promise, nothing is known to be written.
    ['full', 4, 'thin', 1000 - 50 - 200, 1000 - 20],
  ] as const)('%s copies, %i of them, master %s', (copy, count, kind, left, free) => {
    const [disk] = world.fleet.referring('volume', 'guestId', world.id('guest', 'master'));
    if (kind === 'thin')
      world.make({ type: 'volume.edit', input: { id: disk!.id, thin: true, usedBytes: 20e9 } });
    world.make(make({ copy, clones: Array.from({ length: count }, () => ({})) }));
    const figures = poolFigures(world.fleet, world.id('pool', 'gannet-data'));
    expect([figures.left.value / 1e9, figures.free.value / 1e9]).toEqual([left, free]);
  });
  it('one file, one guest, under its own name', () => {
    world.make(make());
    const names = ['master', 'reader-1', 'reader-2'].flatMap((name) =>
      diskNames(world.fleet, guest(name)),
    );
    expect(names).toEqual(['master-disk-1', 'reader-1-disk-1', 'reader-2-disk-1']);
    expect(diskName('Tide_1', 'C: system')).toBe('tide-1-c-system');
  });
});

describe('a role adds items of identity', () => {
  it('that are open until they are ticked, and block its service', () => {
    const profile = [...world.fleet.all('profile')][0]!;
    world.make({
      type: 'profile.edit',
      input: { id: profile.id, moreIdentity: ['number of the radio'] },
    });
    world.make({
      type: 'guest.edit',
      input: { id: guest('master').id, profileId: profile.id },
    });
    world.make(make({ clones: [{}] }));
    const items = world.fleet
      .referring('clone', 'guestId', guest('reader-1').id)
      .flatMap(({ id }) => world.fleet.referring('identityItem', 'cloneId', id));
    const more = items.find(({ item }) => item === 'number of the radio')!;
    const others = items.filter((item) => item !== more).map(({ id }) => id);
    world.make({ type: 'clone.tick', input: { itemIds: others, done: true } });
    const serve: Change = {
      type: 'guest.set-state',
      input: { id: guest('reader-1').id, state: 'in service' },
    };
    expect(world.try(serve)).toMatchObject({
      sentence: expect.stringMatching(/number of the radio/),
    });
    world.make({ type: 'clone.tick', input: { itemIds: [more.id], done: true } });
    world.make(serve);
  });
});

describe('a batch is ticked once a step', () => {
  const set = (state: 'building' | 'in service' | 'stopped', override?: string): Change => ({
    type: 'guest.set-state-many',
    input: { ids: ['reader-1', 'reader-2'].map((name) => guest(name).id), state },
    override,
  });
  beforeEach(() => void world.make(make()));
  it('all of them, in one entry of the log', () => {
    world.make(set('building'));
    expect(world.log.at(-1)!.title).toBe('set 2 guests to building: reader-1, reader-2');
    expect(guest('reader-2').state).toBe('building');
  });
  it('with the identity of their origin they do not serve', () =>
    expect(world.try(set('in service'))).toMatchObject({ code: 'identity-open-before-service' }));
  it('a state that cannot follow names whose it is; one that is so already stays', () => {
    expect(world.try(set('stopped'))).toMatchObject({
      code: 'state-cannot-follow',
      sentence: 'reader-1: A guest that is planned does not become stopped.',
    });
    world.make({
      type: 'guest.set-state',
      input: { id: guest('reader-1').id, state: 'building' },
    });
    world.make(set('building'));
    expect(guest('reader-1').state).toBe('building');
  });
});

describe('places', () => {
  it('a written host that does not reach the pool of the origin has one of its own', () => {
    world.make(make({ clones: [{ hostId: world.id('host', 'tern') }] }));
    const [volume] = world.fleet.referring('volume', 'guestId', guest('reader-1').id);
    expect(world.fleet.need('pool', volume!.poolId).name).toBe('tern-data');
  });
  it('members of a group go where the group has fewest', () => {
    world.make({ type: 'guest-group.record', input: { name: 'readers', spread: 'host' } });
    const groupId = world.id('guestGroup', 'readers');
    world.make(make({ spread: 'fill', groupId, clones: [{}, {}, {}, {}] }));
    const hosts = ['reader-1', 'reader-2', 'reader-3', 'reader-4'].map(hostOf);
    expect(hosts.filter((name) => name === 'gannet')).toHaveLength(2);
    expect(hosts.filter((name) => name === 'tern')).toHaveLength(2);
  });
  it('two of a role that is kept apart never share a host', () => {
    const profile = [...world.fleet.all('profile')][0]!;
    world.make({ type: 'profile.edit', input: { id: profile.id, apart: true } });
    world.make({
      type: 'guest.edit',
      input: { id: guest('master').id, profileId: profile.id, template: true },
    });
    world.make(make({ spread: 'room' }));
    expect(new Set(['reader-1', 'reader-2'].map(hostOf)).size).toBe(2);
    expect(world.try(make({ spread: 'room', pattern: 'more-{n}' }))).toMatchObject({
      code: 'no-seat',
      sentence: expect.stringMatching(/and no two of its role on one host\.$/),
    });
  });
  it('those with a written host take their room there first', () => {
    world.make({ type: 'guest.edit', input: { id: guest('master').id, memoryMiB: 6144 } });
    const gannet = world.id('host', 'gannet');
    world.make(make({ spread: 'fill', clones: [{ hostId: gannet }, {}] }, 'close to the edge'));
    expect(hostOf('reader-2')).toBe('tern');
  });
});

describe('time', () => {
  const pool = () => world.id('pool', 'gannet-data');
  const five = (bytes: number) =>
    Array.from({ length: 5 }, () => ({ bytes, fromPoolId: pool(), toPoolId: pool() }));
  const past = (seconds: readonly number[]) => {
    world.make(make({ clones: seconds.map(() => ({})), pattern: 'past-{n}' }));
    for (const [i, copySeconds] of seconds.entries())
      world.make({
        type: 'clone.record-times',
        input: { guestIds: [guest(`past-${i + 1}`).id], copySeconds },
      });
  };
  it('without history is what is usual, with a wide range', () => {
    expect(speedOfPool(world.fleet, pool())).toBe('unknown');
    const { made, ready, range } = batchTime(world.fleet, five(8e9), true);
    expect(made.value).toBe(500);
    expect(range.made.map(Math.round)).toEqual([250, 1500]);
    expect(ready.value).toBe(500 + 5 * 60);
  });
  it('a person gives identity to one after the other, where it was not generalised', () =>
    expect(batchTime(world.fleet, five(8e9), false).ready.value).toBe(500 + 5 * 12 * 60));
  // Common practice, no source: five disk copies, and guests around them, in five to six minutes.
  it('five copies that took a minute each before take five minutes again', () => {
    past([60, 62, 58, 66, 60]);
    expect(pastRates(world.fleet)).toHaveLength(5);
    const { made, range } = batchTime(world.fleet, five(50e9), true);
    expect(made.value! / 60).toBeGreaterThanOrEqual(5);
    expect(made.value! / 60).toBeLessThanOrEqual(6);
    expect(range.made[0]).toBeLessThan(made.value!);
    expect(range.made[1]).toBeGreaterThan(made.value!);
  });
  it('one run narrows it, by the interval that moves have too', () => {
    past([100]);
    const { made, range } = batchTime(world.fleet, five(50e9), true);
    expect(made.value).toBeCloseTo(500, 6);
    expect([range.made[0], range.made[1]].map(Math.round)).toEqual([281, 1090]);
  });
  it('dependent copies move nothing; pools work side by side', () => {
    expect(batchTime(world.fleet, five(0), true).made.value).toBe(0);
    const tern = world.id('pool', 'tern-data');
    const both = [...five(8e9), { bytes: 8e9, fromPoolId: tern, toPoolId: tern }];
    expect(batchTime(world.fleet, both, true).made.value).toBe(500);
  });
  it('it was not ready before it was made', () => {
    world.make(make({ clones: [{}] }));
    expect(
      world.try({
        type: 'clone.record-times',
        input: { guestIds: [guest('reader-1').id], readyAt: '2026-01-01T00:00:00.000Z' },
      }),
    ).toMatchObject({ code: 'ready-before-made' });
  });
});
