/** Computers seen together as guests: where they go, what is freed, what comes first, how many windows. */
import { beforeEach, describe, expect, it } from 'vitest';
import { decide, type Input } from '../change/index.js';
import { smallWorld, type World } from '../change/testing.js';
import { headroom } from '../host/index.js';
import { GIB } from '../quantity/index.js';
import { consolidate, wavesOf, type ConsolidationAsk, type Timed } from './index.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
});
const computer = (name: string, more: Partial<Input<'computer.set'>> = {}): string => {
  world.make({
    type: 'device.record',
    input: {
      ...{ name, kind: 'computer' },
      ports: [{ name: 'eth0', networkId: world.id('network', 'shore'), bitsPerSecond: 1e9 }],
    },
  });
  const id = world.id('device', name);
  world.make({
    type: 'computer.set',
    input: {
      ...{ id, family: 'Linux', architecture: 'x86-64', work: 'ordinary', encryption: 'none' },
      ...{ sockets: 1, coresPerSocket: 2, memoryMiB: 2048, bootMode: 'legacy' },
      ...{ rackHeight: 1, drawWatts: 100 },
      disks: [
        {
          ...{ bay: 'sda', bytes: 20 * GIB, sectorBytes: 512, boot: true },
          ...{ health: 'good', layout: 'plain' },
        },
      ],
      ...more,
    },
  });
  return id;
};
const seen = (deviceIds: readonly string[], more: Partial<ConsolidationAsk> = {}) =>
  consolidate(
    world.fleet,
    { deviceIds, groupId: null, windowHours: 8, linkBitsPerSecond: 1e9, ...more },
    world.context(),
    decide,
  );
const by = (found: ReturnType<typeof seen>, name: string) =>
  found.moves.find(({ device }) => device.name === name)!;

describe('computers seen together', () => {
  it('each has the room that those before it leave: what is answered can be planned, one after another', () => {
    const ids = Array.from({ length: 6 }, (_, i) => computer(`box-${i}`, { memoryMiB: 4096 }));
    const { moves } = seen(ids);
    expect(moves.every(({ target }) => target !== null)).toBe(true);
    for (const { input } of moves)
      world.make({ type: 'migration.plan-from-physical', input: input!, override: 'a programme' });
    for (const name of ['gannet', 'tern'])
      expect(headroom(world.fleet, world.id('host', name)).memory.value).toBeGreaterThanOrEqual(0);
  });
  it('what no host has the room for is told with what the closest lacks', () => {
    const { moves } = seen([computer('giant', { memoryMiB: 1_048_576 })]);
    expect(moves[0]).toMatchObject({ target: null, input: null });
    expect(moves[0]!.why).toMatch(/^no host takes it; \w+ comes closest: .*1 TiB/);
  });
  it('of whom nothing is known nothing is said: it goes nowhere, and is counted nowhere as none', () => {
    world.make({ type: 'device.record', input: { name: 'riddle', kind: 'computer', ports: [] } });
    const found = seen([world.id('device', 'riddle'), computer('box')]);
    expect(by(found, 'riddle')).toMatchObject({
      target: null,
      why: 'its cores and its memory and its disks are not recorded',
    });
    expect(found.freed.watts).toEqual({ known: 100, unknown: ['riddle'] });
    expect(found.freed.sockets).toEqual({ known: 1, unknown: ['riddle'] });
  });
  it('what no image can be made of goes by its files, and that is told first', () => {
    const id = computer('odd', { disks: [{ bay: 'sda', bytes: 20 * GIB, sectorBytes: 4096 }] });
    const { moves } = seen([id]);
    expect(moves[0]!.input).toMatchObject({ method: 'files only' });
    expect(moves[0]!.first[0]!.sentence).toContain('logical sectors of 4096 bytes');
  });
  it('what stands against one is told, and it has a place all the same', () => {
    const { moves } = seen([computer('dongled', { attached: ['dongle'] })]);
    expect(moves[0]!.target).not.toBeNull();
    expect(moves[0]!.first.map(({ sentence }) => sentence).join()).toContain('dongle');
  });
  it('what others need, and files and finance, are critical', () => {
    const needed = computer('needed');
    world.make({ type: 'service.record', input: { name: 'clock', what: 'time' } });
    const serviceId = world.id('service', 'clock');
    world.make({ type: 'provider.record', input: { serviceId, deviceId: needed } });
    const hostId = world.id('host', 'gannet');
    const ids = [computer('books', { work: 'files or finance' }), computer('box'), needed];
    expect(by(seen(ids), 'needed').critical).toBe(false);
    world.make({ type: 'need.record', input: { hostId, serviceId } });
    const found = seen(ids);
    expect(['books', 'box', 'needed'].map((name) => by(found, name).critical)).toEqual([
      ...[true, false, true],
    ]);
  });
  it('says what tolerance becomes: more guests than the other host can take', () => {
    const ids = Array.from({ length: 3 }, (_, i) => computer(`box-${i}`));
    const { tolerance } = seen(ids);
    expect(tolerance).toMatchObject({ of: 2 });
  });
  it('one that moves already is told with its move, and has no second', () => {
    const id = computer('box');
    const [first] = seen([id]).moves;
    world.make({ type: 'migration.plan-from-physical', input: first!.input!, override: 'now' });
    const [move] = world.fleet.referring('migration', 'sourceDeviceId', id);
    expect(seen([id]).moves[0]).toMatchObject({
      ...{ target: null, input: null, why: '' },
      moving: { id: move!.id, state: 'planned' },
    });
  });
  it('hosts of a group only', () => {
    world.make({ type: 'host-group.record', input: { name: 'pair' } });
    const groupId = world.id('hostGroup', 'pair');
    const id = computer('box');
    expect(seen([id], { groupId }).moves[0]!.why).toBe('no host is in that group');
    world.make({ type: 'host.edit', input: { id: world.id('host', 'tern'), groupId } });
    expect(seen([id], { groupId }).moves[0]!.target!.host).toBe('tern');
  });
  it('is drawn as a plan, each computer a step with its window', () => {
    const id = computer('box');
    const { moves } = seen([id]);
    world.make({
      type: 'plan.draw-programme',
      input: { name: 'attic', moves: [{ ...moves[0]!.input!, remark: 'window 1' }] },
    });
    const [step] = world.fleet.referring('planStep', 'planId', world.id('plan', 'attic'));
    expect(step).toMatchObject({ type: 'migration.plan-from-physical', remark: 'window 1' });
    expect(
      world.try({ type: 'plan.draw-programme', input: { name: 'none', moves: [] } }),
    ).toMatchObject({ code: 'no-moves' });
    const again = { name: 'Attic ', moves: [moves[0]!.input!] };
    expect(world.try({ type: 'plan.draw-programme', input: again })).toMatchObject({
      code: 'name-taken',
    });
  });
});

/** 8-moving: windows planned to 60 %; pilot 1–2, then 5; six stopped moves a night; one critical a window. Common practice, no source. */
describe('windows of a programme', () => {
  const move = (id: string, minutes: number, critical = false): Timed => ({
    id,
    minutes,
    critical,
  });
  it('begins with two, then five, then six', () => {
    const moves = Array.from({ length: 14 }, (_, i) => move(String(i), 10));
    const { windows, fewest } = wavesOf(moves, 480);
    expect(windows.map(({ ids }) => ids.length)).toEqual([2, 5, 6, 1]);
    expect(fewest).toBe(4);
  });
  it('plans no window beyond six tenths', () => {
    const { windows, most } = wavesOf([move('a', 200), move('b', 200)], 480);
    expect(most).toBe(288);
    expect(windows.map(({ minutes }) => minutes)).toEqual([200, 200]);
  });
  it('one critical in a window, the ordinary ones first', () => {
    const { windows } = wavesOf([move('x', 30, true), move('y', 30, true), move('a', 60)], 480);
    expect(windows.map(({ ids }) => ids)).toEqual([['a', 'x'], ['y']]);
  });
  it('what is longer than may be planned is named, and stands in none', () => {
    const { windows, tooLong } = wavesOf([move('tower', 289), move('a', 288)], 480);
    expect([windows.length, tooLong]).toEqual([1, ['tower']]);
  });
  it('nothing takes no window', () =>
    expect(wavesOf([], 480)).toMatchObject({ windows: [], fewest: 0 }));

  /** Every way of dealing out up to five moves, by hand. */
  it('is never below its bound, and the bound never above the best there is', () => {
    let seed = 7;
    const next = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647;
    for (let round = 0; round < 60; round += 1) {
      const moves = Array.from({ length: 1 + Math.floor(next() * 5) }, (_, i) =>
        move(String(i), 20 + Math.floor(next() * 260), next() < 0.3),
      );
      const { windows, fewest, most } = wavesOf(moves, 480);
      const best = fewestByHand(moves, most);
      expect(fewest).toBeLessThanOrEqual(best);
      expect(windows.length).toBeGreaterThanOrEqual(best);
      for (const [i, { ids, minutes }] of windows.entries()) {
        expect(minutes).toBeLessThanOrEqual(most);
        expect(ids.length).toBeLessThanOrEqual([2, 5][i] ?? 6);
      }
    }
  });
});

function fewestByHand(moves: readonly Timed[], most: number): number {
  for (let count = 1; ; count += 1) {
    const total = count ** moves.length;
    for (let code = 0; code < total; code += 1) {
      const windows = Array.from({ length: count }, (): Timed[] => []);
      for (const [i, move] of moves.entries())
        windows[Math.floor(code / count ** i) % count]!.push(move);
      const legal = windows.every(
        (inside, i) =>
          inside.length <= ([2, 5][i] ?? 6) &&
          inside.filter(({ critical }) => critical).length <= 1 &&
          inside.reduce((sum, { minutes }) => sum + minutes, 0) <= most,
      );
      if (legal) return count;
    }
  }
}
