/** Pools: what is set apart at once, what is promised, what is really free. Sums by hand. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { allFindings } from '../finding/index.js';
import { rankPools } from '../guest/rank-pools.js';
import { GIB } from '../quantity/index.js';
import { poolFigures } from './pool.js';

let world: World;
let poolId: string;
beforeEach(() => {
  world = smallWorld();
  poolId = world.id('pool', 'gannet-data');
  // 500 GiB, of which half as much again may be promised.
  world.make({
    type: 'pool.edit',
    input: { id: poolId, usableBytes: 500 * GIB, promiseLimitPercent: 150 },
  });
});
const plan = (name: string, gib: number, thin = false, more: object = {}) => {
  const { input, ...rest } = world.plan(name, 'gannet', 512);
  const volumes = [{ poolId, bytes: gib * GIB, thin }];
  return world.try({ ...rest, input: { ...input, volumes }, ...more });
};
const put = (name: string, gib: number, thin = false) => {
  const { input, ...rest } = world.plan(name, 'gannet', 512);
  world.make({ ...rest, input: { ...input, volumes: [{ poolId, bytes: gib * GIB, thin }] } });
};
const figures = () => {
  const { free, left, fill, allocatedBytes, thinBytes } = poolFigures(world.fleet, poolId);
  return {
    free: free.value / GIB,
    left: left.value / GIB,
    fill: fill.value,
    allocated: allocatedBytes / GIB,
    thin: thinBytes / GIB,
  };
};

describe('a pool of 500 GiB with a limit of 150 %', () => {
  it('holds no 520 GiB of thick volumes, whatever the limit says', () => {
    expect(plan('whale', 520)).toMatchObject({ code: 'no-storage', overridable: true });
    put('one', 260);
    expect(plan('two', 260)).toMatchObject({
      code: 'no-storage',
      sentence:
        'Pool gannet-data would be short of 20 GiB: what is allocated at once needs real room.',
    });
    expect(plan('two', 240)).not.toHaveProperty('code');
  });
  it('promises thin ones up to the limit', () => {
    put('one', 520, true);
    expect(figures()).toEqual({ free: 500, left: 230, fill: 0, allocated: 0, thin: 520 });
    expect(plan('two', 231, true)).toMatchObject({ code: 'over-promised' });
    expect(plan('two', 230, true)).not.toHaveProperty('code');
  });
  it('counts what thin volumes have written, and what was measured where that is more', () => {
    put('thick', 100);
    put('thin', 400, true);
    const volume = [...world.fleet.all('volume')].find((row) => row.thin)!;
    expect(figures()).toEqual({ free: 400, left: 250, fill: 20, allocated: 100, thin: 400 });
    expect(poolFigures(world.fleet, poolId).free.lines.at(-1)!.note).toBe(
      'what 1 thin volume has written is not known: less may be free',
    );
    world.make({ type: 'volume.edit', input: { id: volume.id, usedBytes: 150 * GIB } });
    expect(figures()).toMatchObject({ free: 250, fill: 50 });
    world.make({ type: 'pool.edit', input: { id: poolId, usedBytes: 300 * GIB } });
    // The thick volume is planned: no measurement has seen it.
    expect(figures()).toMatchObject({ free: 100, fill: 80 });
    expect(plan('more', 101)).toMatchObject({ code: 'no-storage' });
  });
  it('snapshots take what they have grown to', () => {
    put('one', 100);
    const guestId = world.id('guest', 'one');
    world.make({
      type: 'snapshot.record',
      input: { guestId, poolId, name: 'before', takenAt: world.now, bytes: 50 * GIB },
    });
    expect(figures()).toMatchObject({ free: 350, allocated: 150, fill: 30 });
  });
  it('room held for a thin volume is a promise as well', () => {
    world.make({
      type: 'guest.record',
      input: {
        name: 'far',
        hostId: world.id('host', 'tern'),
        family: 'Linux',
        vcpu: 1,
        memoryMiB: 512,
        state: 'stopped',
        volumes: [{ poolId: world.id('pool', 'tern-data'), bytes: 300 * GIB, thin: true }],
        adapters: [],
      },
    });
    world.make({
      type: 'migration.plan',
      input: {
        guestId: world.id('guest', 'far'),
        targetHostId: world.id('host', 'gannet'),
        targetPoolId: poolId,
        running: false,
        linkBitsPerSecond: 1e9,
      },
    });
    const [migration] = [...world.fleet.all('migration')];
    world.make({ type: 'migration.step', input: { id: migration!.id, step: 'start' } });
    expect(figures()).toEqual({ free: 500, left: 450, fill: 0, allocated: 0, thin: 300 });
  });
  it('room held for the thick volume of the same move is taken at once', () => {
    world.make({
      type: 'guest.record',
      input: {
        ...{ name: 'far', hostId: world.id('host', 'tern'), family: 'Linux', state: 'stopped' },
        ...{ vcpu: 1, memoryMiB: 512, adapters: [] },
        volumes: [300, 100, 50].map((gib, i) => ({
          ...{ poolId: world.id('pool', 'tern-data'), bytes: gib * GIB, thin: i === 0 },
        })),
      },
    });
    world.make({
      type: 'migration.plan',
      input: {
        ...{ guestId: world.id('guest', 'far'), targetHostId: world.id('host', 'gannet') },
        ...{ targetPoolId: poolId, running: false, linkBitsPerSecond: 1e9 },
      },
    });
    const [migration] = [...world.fleet.all('migration')];
    world.make({ type: 'migration.step', input: { id: migration!.id, step: 'start' } });
    expect(figures()).toMatchObject({ free: 350, left: 300, thin: 300 });
  });
  it('is ranked by real room for a thick volume, by the promise for a thin one', () => {
    put('one', 400);
    const fits = (gib: number, how: 'thick' | 'thin') =>
      rankPools(world.fleet, world.id('host', 'gannet'), gib * GIB, how)[0];
    expect(fits(101, 'thick')).toMatchObject({ fits: false });
    expect(fits(101, 'thin')).toMatchObject({ fits: true, leftAfterBytes: 249 * GIB });
    expect(fits(50, 'thick')).toMatchObject({
      fits: true,
      sentence: '50 GiB left afterwards; 90 % full then, its alarm stands at 85 %',
    });
  });
  it('allocated beyond its bytes it is a finding', () => {
    world.make({
      type: 'guest.record',
      input: {
        name: 'big',
        hostId: world.id('host', 'gannet'),
        family: 'Linux',
        vcpu: 1,
        memoryMiB: 512,
        state: 'in service',
        volumes: [{ poolId, bytes: 520 * GIB }],
        adapters: [],
      },
    });
    const told = allFindings(world.fleet, world.now).filter(({ about }) => about.id === poolId);
    expect(told.map(({ rule, evidence }) => [rule, evidence])).toEqual([
      ['pool-overfull', 'Pool gannet-data has allocated 20 GiB more than it holds.'],
    ]);
  });
});

describe('what shares blocks', () => {
  const clones = (copy: 'full' | 'dependent', poolId?: string) =>
    world.try({
      type: 'clone.make',
      input: {
        originId: world.id('guest', 'master'),
        copy,
        pattern: 'gauge-#',
        start: 1,
        taking: 'run',
        clones: [{ hostId: world.id('host', 'tern'), poolId }],
      },
      override: 'we must',
    });
  beforeEach(() => {
    world.make(world.found('master', 'gannet', 512, '192.0.2.10', 'stopped'));
  });
  it('lies in one pool: a dependent clone elsewhere is refused', () => {
    expect(clones('dependent', world.id('pool', 'tern-data'))).toMatchObject({
      code: 'away-from-base',
      field: 'clones.0.poolId',
      overridable: false,
    });
    expect(clones('full', world.id('pool', 'tern-data'))).not.toHaveProperty('code');
  });
  it('moves neither by itself nor from under what hangs on it', () => {
    const decision = clones('dependent');
    if ('code' in decision) throw new Error(decision.sentence);
    world.fleet.apply(decision.patches, world.fleet.revision + 1);
    const clone = world.id('guest', 'gauge-1');
    world.make({
      type: 'guest.set-state',
      input: { id: clone, state: 'in service' },
      override: 'only its disk matters here',
    });
    const move = (guestId: string, to: string) =>
      world.try({
        type: 'migration.plan',
        input: {
          guestId,
          targetHostId: world.id('host', to),
          targetPoolId: world.id('pool', `${to}-data`),
          running: false,
          linkBitsPerSecond: 1e9,
        },
      });
    world.make({ type: 'guest.edit', input: { id: clone, hostId: world.id('host', 'gannet') } });
    expect(move(clone, 'tern')).toMatchObject({ code: 'check-shared-blocks', overridable: false });
    expect(move(world.id('guest', 'master'), 'tern')).toMatchObject({
      code: 'check-shared-blocks',
      overridable: true,
    });
    const [volume] = world.fleet.referring('volume', 'guestId', clone);
    expect(
      world.try({
        type: 'volume.edit',
        input: { id: volume!.id, poolId: world.id('pool', 'tern-data') },
      }),
    ).toMatchObject({ code: 'away-from-base', overridable: true });
  });
});
