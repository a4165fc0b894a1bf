/** How places fill, from the record's history; worked by hand. */
import { beforeEach, describe, expect, it } from 'vitest';
import type { Input } from '../change/index.js';
import { everyChange } from '../change/every-change.js';
import { smallWorld, World } from '../change/testing.js';
import { growth, runsOut } from './growth.js';
import { growthInUse, memoryInUse } from './in-use.js';
import { placeLevels } from './levels.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
});
const DAY = 86_400_000;
const START = Date.parse('2026-06-01T08:00:00.000Z');
const day = (n: number): string => new Date(START + n * DAY).toISOString();

/** A guest of 2 vCPU and 1 GiB asks 1,024 + 171 of overhead (128 + 2 · 8 + 16 + 10.24, rounded up) = 1,195 MiB. */
const EACH = 1195;
const memory = (found: { resource: string; place: { name: string } }[]) =>
  found.find(({ resource }) => resource === 'memory')! as never;

/** Looked at every ten days of the last sixty, the newest first. */
const look = (now: string) =>
  growth(
    world.fleet,
    [...world.log].reverse(),
    [50, 40, 30, 20, 10, 0].map((n) => day(n)),
    now,
  );

function planned(name: string, at: number): void {
  world.now = day(at);
  const { input } = world.plan(name, 'gannet', 1024);
  world.make({ type: 'guest.plan', input });
}

it('what was planned over time is growth: one guest in ten days', async () => {
  for (let n = 0; n < 6; n += 1) planned(`g${n}`, n * 10 + 1);
  const found = memory((await look(day(60)))!) as Awaited<ReturnType<typeof growth>> extends
    (infer G)[] | null
    ? G
    : never;
  const levels = found.points.map(({ taken }) => taken);
  // On day 0 none, on day 10 one, …; today six.
  const base = levels[0]!;
  expect(levels.map((level) => level - base)).toEqual([0, 1, 2, 3, 4, 5, 6].map((n) => n * EACH));
  expect(found.runway).toMatchObject({ state: 'filling' });
  const slope = EACH / 10;
  const left = found.limit - found.taken;
  expect((found.runway as { days: number }).days).toBe(Math.floor(left / slope + 1e-9));
});

it('what is recorded as found was there before: it is no growth', async () => {
  world.now = day(25);
  world.make(world.found('old', 'gannet', 1024, '192.0.2.40'));
  const found = (await look(day(60)))!;
  const level = found.find(({ resource }) => resource === 'memory')!;
  expect(new Set(level.points.map(({ taken }) => taken)).size).toBe(1);
  expect(level.runway).toBeNull();
});

it('what was retired stood there before; what was altered was what it was', async () => {
  world.now = day(1);
  world.make(world.found('old', 'gannet', 1024, '192.0.2.40'));
  world.now = day(15);
  world.make({ type: 'guest.edit', input: { id: world.id('guest', 'old'), vcpu: 4 } });
  const level = (await look(day(60)))!.find(({ resource }) => resource === 'processors')!;
  const taken = level.points.map((point) => point.taken);
  expect(taken[0]).toBe(taken[1]);
  expect(taken[2]! - taken[1]!).toBe(4 - 2);
});

describe('what may be taken', () => {
  it('of a subnet that is full is told as well', () => {
    world.make({
      type: 'network.record',
      input: { name: 'berth', subnet: { prefix: '198.51.100.0/30', gateway: '198.51.100.1' } },
    });
    const input = world.found('only', 'gannet', 512, '198.51.100.2').input as Input<'guest.record'>;
    const networkId = world.id('network', 'berth');
    world.make({
      type: 'guest.record',
      input: { ...input, adapters: [{ ...input.adapters[0]!, networkId }] },
    });
    // A /30 has two usable addresses (RFC 1122, section 3.2.1.3); one is the gateway's.
    expect(
      placeLevels(world.fleet).find(({ place }) => place.name.startsWith('berth')),
    ).toMatchObject({ taken: 1, limit: 1 });
  });
  it('is what hosts in service have less their reserve; nested hosts and planned ones have none of it', () => {
    const level = placeLevels(world.fleet).find(({ resource }) => resource === 'memory')!;
    // Two hosts of 16 GiB with 14,336 MiB for guests each.
    expect(level).toMatchObject({ limit: 2 * 14_336, unit: 'MiB' });
  });
  it('with more of it, it runs out later: by what comes beside it over the slope', () => {
    const points = [0, 10, 20].map((n) => ({ at: day(n), taken: n * 100, limit: 10_000 }));
    const of = {
      unit: 'MiB' as const,
      limit: 10_000,
      place: { kind: 'hostGroup' as const, id: '', name: 'x' },
    };
    const days = (more: number) => (runsOut(of, points, day(20), more) as { days: number }).days;
    // (10,000 − 2,000) ÷ 100 a day.
    expect([days(0), days(5_000)]).toEqual([80, 130]);
  });
});

it('stops where it is told to', async () =>
  expect(await growth(world.fleet, [], [day(0)], day(1), () => Promise.resolve(false))).toBeNull());

it('the whole history of every change is walked back, and looked at before it began', async () => {
  const all = new World();
  for (const change of everyChange(all.fleet)) all.make(change);
  const found = await growth(
    all.fleet,
    [...all.log].reverse(),
    ['2000-01-01T00:00:00.000Z'],
    '2027-02-01T00:00:00.000Z',
  );
  expect(found!.length).toBeGreaterThan(5);
  for (const { points } of found!)
    for (const { taken } of points) expect(taken).toBeGreaterThanOrEqual(0);
});

describe('storage in use', () => {
  /** 500 GB, and 10 GB more each day. */
  const samples = (poolId: string) =>
    [0, 3, 6, 9].map((n) => ({ poolId, at: day(n), bytes: 5e11 + n * 1e10 }));

  it('fills as it was measured, until the pool is full', async () => {
    const [pool] = [...world.fleet.all('pool')];
    const [found, ...others] = (await growthInUse(world.fleet, samples(pool!.id), day(9)))!;
    expect(others).toEqual([]);
    expect(found).toMatchObject({
      resource: 'storage in use',
      place: { kind: 'pool', id: pool!.id, name: pool!.name },
      taken: 5.9e11,
      limit: pool!.usableBytes,
    });
    const left = (pool!.usableBytes - 5.9e11) / 1e10;
    expect(found!.runway).toMatchObject({ state: 'filling', days: Math.floor(left + 1e-9) });
  });

  it('of one look nothing is said but what is in use; of what is no pool nothing', async () => {
    const [pool] = [...world.fleet.all('pool')];
    const one = samples(pool!.id).slice(0, 1);
    expect((await growthInUse(world.fleet, one, day(9)))![0]).toMatchObject({
      taken: 5e11,
      runway: null,
    });
    expect(await growthInUse(world.fleet, samples('gone'), day(9))).toEqual([]);
  });
});

describe('memory in use', () => {
  it('is the sum over those who were measured at the last look, where all of them were', () => {
    for (const name of ['a', 'b', 'c']) {
      const { input } = world.plan(name, 'gannet', 1024);
      world.make({ type: 'guest.plan', input });
    }
    const [a, b, c] = ['a', 'b', 'c'].map((name) => world.id('guest', name));
    const at = (guestId: string, look: number, memoryMiB: number) => ({
      ...{ guestId, look, memoryMiB, at: day(look) },
    });
    // c was measured once, and is no more; b was not from the beginning.
    const samples = [
      ...[at(a!, 1, 100), at(c!, 1, 900), at(a!, 2, 110), at(b!, 2, 400)],
      ...[at(a!, 3, 120), at(b!, 3, 420)],
    ];
    const [found, ...others] = memoryInUse(world.fleet, samples, day(3));
    expect(others).toEqual([]);
    expect(found).toMatchObject({ resource: 'memory in use', taken: 540, limit: 2 * 14_336 });
    expect(found!.points.map(({ taken }) => taken)).toEqual([510, 540]);
    expect(found!.measured!.guests).toBe(2);
    // (28,672 − 540) ÷ 30 a day.
    expect(found!.runway).toMatchObject({ state: 'filling', days: 937 });
  });
});
