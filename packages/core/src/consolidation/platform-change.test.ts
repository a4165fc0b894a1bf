/** A change of platform: hosts emptied and rebuilt in turn, the windows it takes, the day it must have ended. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { headroom } from '../host/index.js';
import { platformChange, wavesOf, type PlatformAsk, type PlatformChange } from './index.js';

let world: World;
const OLD = 'Generic bare-metal 1';
const NEW = 'Generic bare-metal 2, lean';
beforeEach(() => {
  world = smallWorld();
  // Two more hosts of the old platform; tern is the first of the new one.
  world.host('skua', 64);
  world.host('eider', 64);
  world.make({
    type: 'host.edit',
    input: { id: world.id('host', 'tern'), platformId: world.id('platform', NEW) },
  });
});
const guest = (name: string, host: string, memoryMiB: number, last: number) =>
  world.make(world.found(name, host, memoryMiB, `192.0.2.${last}`));
const asked = (more: Partial<PlatformAsk> = {}): PlatformChange =>
  platformChange(
    world.fleet,
    {
      fromPlatformId: world.id('platform', OLD),
      toPlatformId: world.id('platform', NEW),
      ...{ windowHours: 24, everyDays: 7, linkBitsPerSecond: 1e9, until: null },
      ...more,
    },
    world.now,
  );
const order = (found: PlatformChange) => found.stages.map(({ host }) => host.name);

describe('a change of platform', () => {
  it('begins with what holds least, and what was rebuilt takes the guests of the next', () => {
    const room = headroom(world.fleet, world.id('host', 'tern')).memory.value;
    const half = Math.floor(room * 0.6);
    guest('a', 'gannet', half, 11);
    guest('b', 'skua', half, 12);
    const found = asked();
    // eider is empty: rebuilt at once. Then one of both fills tern, and the other finds room on a rebuilt host only.
    expect(order(found)[0]).toBe('eider');
    expect(found.stages).toHaveLength(3);
    expect(found.stuck).toEqual([]);
    const targets = found.stages.flatMap(({ moves }) => moves.map(({ target }) => target.name));
    expect(new Set(targets).size).toBe(2);
    expect(targets).toContain('tern');
  });
  it('no host is filled beyond its room at any stage', () => {
    for (const [i, host] of ['gannet', 'skua', 'eider', 'gannet', 'skua'].entries())
      guest(`g${i}`, host, 12_288, 20 + i);
    const found = asked();
    const at = new Map<string, number>();
    for (const { moves } of found.stages)
      for (const { target, guest: moved } of moves) {
        const { memoryMiB } = world.fleet.need('guest', moved.id);
        at.set(target.id, (at.get(target.id) ?? 0) + memoryMiB);
      }
    for (const [hostId, memoryMiB] of at)
      expect(memoryMiB).toBeLessThanOrEqual(world.fleet.need('host', hostId).installedMiB);
    const moved = found.stages.flatMap(({ moves }) => moves);
    expect(moved.length + found.stuck.length).toBeGreaterThan(0);
    expect(new Set(moved.map(({ guest: one }) => one.id)).size).toBe(moved.length);
  });
  it('a host that cannot be emptied is told with its guest and what the closest lacks', () => {
    guest('giant', 'gannet', 60_000, 13);
    world.make({
      type: 'host.edit',
      input: { id: world.id('host', 'gannet'), installedMiB: 131_072, visibleMiB: 131_072 },
    });
    for (const name of ['skua', 'eider'])
      world.make({
        type: 'host.edit',
        input: { id: world.id('host', name), state: 'maintenance' },
      });
    const { stuck } = asked();
    expect(stuck).toMatchObject([{ host: { name: 'gannet' }, guest: 'giant' }]);
    expect(stuck[0]!.why).toMatch(/^tern: .* left, .* asked$/);
  });
  it('a pool that the first guest of a stage fills takes no second one', () => {
    const disks = (name: string, last: number) => {
      const { input, ...rest } = world.found(name, 'gannet', 512, `192.0.2.${last}`);
      const poolId = world.id('pool', 'gannet-data');
      world.make({ ...rest, input: { ...input, volumes: [{ poolId, bytes: 6e11 }] } });
    };
    disks('a', 11);
    disks('b', 12);
    for (const name of ['skua', 'eider'])
      world.make({
        type: 'host.edit',
        input: { id: world.id('host', name), state: 'maintenance' },
      });
    expect(asked().stuck).toMatchObject([
      { host: { name: 'gannet' }, why: 'tern: no pool that it reaches has the room' },
    ]);
  });
  it('without a host of the new platform nothing moves', () => {
    guest('a', 'gannet', 1024, 11);
    world.make({ type: 'host.edit', input: { id: world.id('host', 'tern'), state: 'failed' } });
    for (const name of ['skua', 'eider'])
      world.make(
        world.found(`on-${name}`, name, 512, name === 'skua' ? '192.0.2.31' : '192.0.2.32'),
      );
    expect(asked().stuck.map(({ why }) => why)).toEqual(
      Array.from({ length: 3 }, () => 'no host of the new platform is in service'),
    );
  });
  it('ends a week for each window on, and says when that is after the licence ends', () => {
    guest('a', 'gannet', 1024, 11);
    world.make({
      type: 'host.edit',
      input: { id: world.id('host', 'gannet'), licenceUntil: '2026-11-25' },
    });
    const found = asked();
    expect(found).toMatchObject({
      ...{ windows: 1, ends: '2026-11-27', late: true },
      deadline: { day: '2026-11-25', of: 'licence of gannet' },
    });
    expect(asked({ everyDays: 1 })).toMatchObject({ ends: '2026-11-21', late: false });
    expect(asked({ until: '2026-12-31' })).toMatchObject({
      ...{ late: false, deadline: { day: '2026-12-31', of: 'as was asked' } },
    });
  });
  it('a guest that moves already is placed, and that is settled first', () => {
    guest('a', 'gannet', 1024, 11);
    world.make({
      type: 'migration.plan',
      input: {
        ...{ guestId: world.id('guest', 'a'), targetHostId: world.id('host', 'skua') },
        ...{ targetPoolId: world.id('pool', 'skua-data'), running: false, linkBitsPerSecond: 1e9 },
      },
    });
    const [move] = asked().stages.flatMap(({ moves }) => moves);
    expect(move!.first[0]!.sentence).toBe('a has a migration that is planned.');
  });
  it('the pilot is the first of all, not of each host', () => {
    expect(wavesOf([{ id: 'a', minutes: 1, critical: false }], 480, 2).windows).toHaveLength(1);
    const six = Array.from({ length: 6 }, (_, i) => ({
      ...{ id: String(i), minutes: 1, critical: false },
    }));
    expect(wavesOf(six, 480, 0).windows.map(({ ids }) => ids.length)).toEqual([2, 4]);
    expect(wavesOf(six, 480, 2).windows.map(({ ids }) => ids.length)).toEqual([6]);
  });
});
