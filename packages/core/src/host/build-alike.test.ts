/** The next hosts like one: what goes on, what is the machine's own, and where they would stand. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { alike } from './index.js';
import { nextName } from './build-alike.js';

let world: World;
let gannet: string;
beforeEach(() => {
  world = smallWorld();
  gannet = world.id('host', 'gannet');
});
const edit = (fields: object) =>
  world.make({ type: 'host.edit', input: { id: gannet, ...fields } });
const names = (n: number) => alike(world.fleet, gannet, n).map(({ input }) => input.name);

describe('the next name', () => {
  it.each([
    ['rock-09', 'rock-10'],
    ['rock-9', 'rock-10'],
    ['rock-099', 'rock-100'],
    ['node3b', 'node4b'],
    ['gannet', 'gannet-2'],
    ['7', '8'],
  ])('after %s comes %s', (name, next) => expect(nextName(name, () => false)).toBe(next));
  it('passes over what is taken', () =>
    expect(nextName('rock-1', (name) => name === 'rock-2' || name === 'rock-3')).toBe('rock-4'));
  it('passes over names of the record, and those of the hosts before', () => {
    expect(names(2)).toEqual(['gannet-2', 'gannet-3']);
    world.make(world.found('gannet-2', 'tern', 512, '192.0.2.40'));
    expect(names(2)).toEqual(['gannet-3', 'gannet-4']);
  });
});

describe('what goes on', () => {
  it('is what it was bought as; not what was found on the machine itself', () => {
    edit({
      serial: 'S-1',
      machineModel: 'Skerry 1',
      notes: 'fan is loud',
      visibleMiB: 16_000,
      warrantyUntil: '2028-01-01',
      nextMaintenanceOn: '2027-01-01',
      certificateSha256: 'ab'.repeat(32),
    });
    const [{ input } = { input: undefined }] = alike(world.fleet, gannet, 1);
    expect(input).toMatchObject({
      state: 'planned',
      machineModel: 'Skerry 1',
      warrantyUntil: '2028-01-01',
    });
    for (const field of ['serial', 'notes', 'visibleMiB', 'nextMaintenanceOn', 'certificateSha256'])
      expect([field, Object.hasOwn(input!, field)]).toEqual([field, false]);
  });
  it('its own pools are made anew under its name, shared ones are reached', () => {
    const shared = world.make({
      type: 'pool.record',
      input: {
        name: 'quay',
        usableBytes: 1e12,
        hostIds: [gannet, world.id('host', 'tern')],
      },
    }).patches[0]!.id;
    const served = world.make({
      type: 'pool.record',
      input: { name: 'shelf', usableBytes: 1e12, remote: 'a box of its own', hostIds: [gannet] },
    }).patches[0]!.id;
    const [{ input } = { input: undefined }] = alike(world.fleet, gannet, 1);
    expect(input!.pools!.map(({ name }) => name)).toEqual(['gannet-2-data']);
    expect([...input!.reaches!].sort()).toEqual([shared, served].sort());
  });
  it('its parts come without serial numbers and MACs, disks in their arrays', () => {
    world.make({
      type: 'host.set-hardware',
      input: {
        hostId: gannet,
        hardware: {
          arrays: [{ name: 'guests', level: '1', purpose: 'guests' }],
          disks: [
            { bay: '1', bytes: 1e12, class: 'enterprise disk', array: 'guests', serial: 'D1' },
            { bay: '2', bytes: 1e12, class: 'enterprise disk', array: 'guests', serial: 'D2' },
            { bay: '3', bytes: 2e11, class: 'consumer flash', array: null },
          ],
          ports: [{ name: 'p1', bitsPerSecond: 1e9, mac: '02:00:00:00:00:09' }],
        },
      },
    });
    const { hardware } = alike(world.fleet, gannet, 1)[0]!.input;
    expect(hardware!.disks!.map(({ bay, array }) => [bay, array])).toEqual([
      ['1', 'guests'],
      ['2', 'guests'],
      ['3', null],
    ]);
    expect(JSON.stringify(hardware)).not.toMatch(/"D1"|02:00:00/);
  });
  it('they are recorded as they are', () => {
    world.make({
      type: 'host.record-many',
      input: { hosts: alike(world.fleet, gannet, 2).map(({ input }) => input) },
    });
    expect(world.fleet.need('host', world.id('host', 'gannet-3')).sockets).toBe(
      world.fleet.need('host', gannet).sockets,
    );
  });
});

describe('where they would stand', () => {
  const rack = (units: number) =>
    world.make({ type: 'rack.record', input: { name: 'rack 1', units } }).patches[0]!.id;
  const units = (n: number) => alike(world.fleet, gannet, n).map(({ input }) => input.rackUnit);
  it('in free places of its height, from the floor; nowhere once the rack is full', () => {
    const rackId = rack(9);
    edit({ rackId, rackUnit: 3, rackHeight: 2 });
    world.make({
      type: 'host.edit',
      input: { id: world.id('host', 'tern'), rackId, rackUnit: 6, rackHeight: 1 },
    });
    // Taken: 3, 4 and 6. Two units are free at 1 and at 7; 5 stands alone, and 9 as well.
    expect(units(3)).toEqual([1, 7, null]);
  });
  it('what a retired host stood in is free again', () => {
    const rackId = rack(4);
    edit({ rackId, rackUnit: 3, rackHeight: 2 });
    const tern = world.id('host', 'tern');
    world.make({ type: 'host.edit', input: { id: tern, rackId, rackUnit: 1, rackHeight: 2 } });
    expect(units(1)).toEqual([null]);
    world.make({ type: 'host.edit', input: { id: tern, state: 'retired' } });
    expect(units(1)).toEqual([1]);
  });
  it('nobody knows where, while its own place is not recorded', () => {
    edit({ rackId: rack(9) });
    expect(units(1)).toEqual([null]);
  });
});

describe('its address', () => {
  it('is the next free one of the network it is managed on', () => {
    world.make({
      type: 'address.set',
      input: { hostId: gannet, ip: '192.0.2.20', assigned: true },
    });
    expect(alike(world.fleet, gannet, 2).map(({ ip }) => ip)).toEqual(['192.0.2.2', '192.0.2.3']);
  });
  it('is none where it has none', () => expect(alike(world.fleet, gannet, 1)[0]!.ip).toBeNull());
});
