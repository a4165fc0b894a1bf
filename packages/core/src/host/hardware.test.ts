import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { isRefusal, type Values } from '../record/index.js';
import { suitability } from './suitability.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
});
const gannet = () => world.id('host', 'gannet');
const refused = (change: Parameters<World['try']>[0]) => {
  const decision = world.try(change);
  return isRefusal(decision) ? decision : undefined;
};
const disk = (bay: string, more: object = {}) => ({
  bay,
  bytes: 4e12,
  class: 'enterprise disk' as const,
  ...more,
});
const set = (hardware: object) => ({
  type: 'host.set-hardware' as const,
  input: { hostId: gannet(), hardware },
});

describe('the parts of a host', () => {
  it('are lists that replace each other; a part keeps its row', () => {
    world.make(
      set({
        arrays: [{ name: 'a', level: '1', purpose: 'boot' }],
        disks: [disk('1', { array: 'a', serial: 'X1' }), disk('2', { array: 'a' }), disk('3')],
      }),
    );
    const disks = () =>
      world.fleet.referring('disk', 'hostId', gannet()).sort((a, b) => a.bay.localeCompare(b.bay));
    const before = disks();
    world.make(
      set({ disks: [disk('1', { array: 'a', serial: 'X9' }), disk('2', { array: 'a' })] }),
    );
    expect(disks().map(({ id, bay, serial }) => [id, bay, serial])).toEqual([
      [before[0]!.id, '1', 'X9'],
      [before[1]!.id, '2', ''],
    ]);
    expect(world.fleet.need('host', gannet()).revision).toBe(world.fleet.revision);
  });
  it('cannot stand in one place twice, nor belong to an array that is not there', () => {
    expect(refused(set({ disks: [disk('1'), disk('1')] }))).toMatchObject({
      code: 'twice',
      field: 'disks.1.bay',
      overridable: false,
    });
    expect(refused(set({ ports: [{ name: 'p1' }, { name: 'p1 ' }] }))).toMatchObject({
      field: 'ports.1.name',
    });
    expect(refused(set({ disks: [disk('1', { array: 'ghost' })] }))).toMatchObject({
      code: 'no-such-array',
      field: 'disks.0.array',
    });
  });
  it('form only arrays that can be built', () =>
    expect(
      refused(
        set({
          arrays: [{ name: 'a', level: '5', purpose: 'guests' }],
          disks: [disk('1', { array: 'a' }), disk('2', { array: 'a' })],
        }),
      ),
    ).toMatchObject({
      code: 'array-impossible',
      sentence: expect.stringContaining('at least 3 disks, not 2') as string,
    }));
  it('an array that a pool lies on cannot vanish', () => {
    world.make(
      set({
        arrays: [{ name: 'a', level: '1', purpose: 'guests' }],
        disks: [disk('1', { array: 'a' }), disk('2', { array: 'a' })],
      }),
    );
    world.make({
      type: 'pool.edit',
      input: {
        id: world.id('pool', 'gannet-data'),
        arrayId: world.fleet.referring('array', 'hostId', gannet())[0]!.id,
      },
    });
    expect(refused(set({ arrays: [], disks: [] }))).toBeDefined();
  });
});

describe('a place in a rack', () => {
  beforeEach(() => {
    world.make({ type: 'rack.record', input: { name: 'rack 1', units: 12 } });
    world.make({
      type: 'host.edit',
      input: { id: gannet(), rackId: rack(), rackUnit: 4, rackHeight: 2 },
    });
  });
  const rack = () => [...world.fleet.all('rack')][0]!.id;
  const put = (fields: Values) =>
    refused({
      type: 'host.edit',
      input: { id: world.id('host', 'tern'), rackId: rack(), ...fields },
    });
  it('is taken once: units u … u + height − 1', () => {
    expect(put({ rackUnit: 5 })).toMatchObject({
      code: 'rack-place-taken',
      sentence: 'gannet stands in units 4 to 5 of rack 1.',
    });
    expect(put({ rackUnit: 3, rackHeight: 2 })).toMatchObject({ code: 'rack-place-taken' });
    expect(put({ rackUnit: 6 })).toBeUndefined();
  });
  it('lies in the rack', () =>
    expect(put({ rackUnit: 12, rackHeight: 2 })).toMatchObject({ code: 'above-the-rack' }));
});

describe('many hosts at once', () => {
  const input = (name: string, ip?: string) => ({
    name,
    state: 'planned' as const,
    platformId: world.id('platform', 'Generic bare-metal 1'),
    sockets: 1,
    coresPerSocket: 4,
    threadsPerCore: 2,
    installedMiB: 8192,
    pools: [],
    management: { networkId: world.id('network', 'shore'), ip },
  });
  it('take consecutive addresses of their own', () => {
    world.make({
      type: 'host.record-many',
      input: { hosts: [input('a'), input('b'), input('c')] },
    });
    expect(
      ['a', 'b', 'c'].map(
        (name) => world.fleet.referring('address', 'hostId', world.id('host', name))[0]!.ip,
      ),
    ).toEqual(['192.0.2.2', '192.0.2.3', '192.0.2.4']);
  });
  it('are recorded all or none, and a fault names its row', () => {
    expect(
      refused({ type: 'host.record-many', input: { hosts: [input('a'), input('not a name')] } }),
    ).toMatchObject({ field: 'hosts.1.name' });
    expect(
      refused({ type: 'host.record-many', input: { hosts: [input('a'), input('A')] } }),
    ).toMatchObject({
      code: 'name-taken',
      field: 'hosts.1.name',
    });
    expect(
      refused({
        type: 'host.record-many',
        input: { hosts: [input('a', '192.0.2.9'), input('b', '192.0.2.150')] },
      }),
    ).toMatchObject({ field: 'hosts.1.management.ip', overridable: true });
    expect([...world.fleet.all('host')].map((host) => host.name)).toEqual(['gannet', 'tern']);
  });
  it('are edited alike, but not named alike', () => {
    const ids = [gannet(), world.id('host', 'tern')];
    world.make({
      type: 'host.edit-many',
      input: { ids, purpose: 'shore', licenceUntil: '2027-01-31' },
    });
    expect(ids.map((id) => world.fleet.need('host', id).licenceUntil)).toEqual([
      '2027-01-31',
      '2027-01-31',
    ]);
    expect(refused({ type: 'host.edit-many', input: { ids, name: 'same' } })).toMatchObject({
      code: 'name-taken',
    });
  });
});

it('a fingerprint is kept in one notation and refused when it is none', () => {
  world.make({
    type: 'host.edit',
    input: {
      id: gannet(),
      certificateSha256: 'SHA256:ungWv48Bz+pBQUDeXa4iI7ADYaOWF3qctBD/YfIAFa0',
    },
  });
  expect(world.fleet.need('host', gannet()).certificateSha256).toMatch(/^ba7816bf/);
  expect(
    refused({ type: 'host.edit', input: { id: gannet(), certificateSha256: '15ad' } }),
  ).toMatchObject({ code: 'bad-fingerprint', field: 'certificateSha256' });
});

describe('a build', () => {
  beforeEach(() => {
    world.make({ type: 'host.edit', input: { id: gannet(), state: 'maintenance' } });
  });
  const built = (passed: boolean, more: object = {}) => ({
    type: 'host.built' as const,
    input: {
      hostId: world.id('host', 'new'),
      startedAt: '2026-11-20T07:00:00Z',
      endedAt: '2026-11-20T07:25:00Z',
      differences: 'port p2 is dead',
      tests: [{ test: 'gateway answers', passed }],
      ...more,
    },
  });
  it('puts the host into service with its time, differences and tests; a failed test needs a written reason', () => {
    world.host('new', 8, { state: 'building' as never });
    expect(refused(built(false))).toMatchObject({ code: 'tests-failed', overridable: true });
    world.make({ ...built(false), override: 'gateway comes tomorrow' });
    expect(world.fleet.need('host', world.id('host', 'new')).state).toBe('in service');
    expect(world.fleet.referring('hostBuild', 'hostId', world.id('host', 'new'))[0]).toMatchObject({
      differences: 'port p2 is dead',
      endedAt: '2026-11-20T07:25:00.000Z',
    });
    expect(refused(built(true))).toMatchObject({ code: 'state-cannot-follow' });
  });
  it('ends after it began', () => {
    world.host('new', 8, { state: 'planned' as never });
    expect(refused(built(true, { endedAt: '2026-11-20T06:00:00Z' }))).toMatchObject({
      field: 'endedAt',
    });
  });
});

describe('whether a machine can be a host', () => {
  const points = () =>
    Object.fromEntries(
      suitability(world.fleet, gannet()).map(({ point, passes }) => [point, passes]),
    );
  it('is open where nobody has looked', () =>
    expect(points()).toEqual({
      architecture: true,
      level: null,
      virtualisation: null,
      memory: true,
      disk: null,
      'wired port': null,
      'secure boot': true,
    }));
  it('is answered point by point, with what would make it pass', () => {
    world.make({
      type: 'host.edit',
      input: {
        id: gannet(),
        statedLevel: 1,
        virtualisation: 'absent',
        installedMiB: 2048,
        secureBoot: 'on',
      },
    });
    world.make({
      type: 'platform.edit',
      input: {
        id: world.id('platform', 'Generic bare-metal 1'),
        minimumLevel: 3,
        secureBoot: 'must be off',
      },
    });
    world.make(
      set({
        disks: [{ bay: '1', bytes: 8e9, class: 'consumer flash' }],
        ports: [{ name: 'w0', wired: false }],
      }),
    );
    expect(points()).toEqual({
      architecture: true,
      level: false,
      virtualisation: false,
      memory: false,
      disk: false,
      'wired port': false,
      'secure boot': false,
    });
    for (const point of suitability(world.fleet, gannet()))
      if (point.passes === false) expect(point.remedy).toMatch(/[.]$/);
  });
  it('of a nested host asks for virtualisation passed through', () => {
    world.make(world.found('lab', 'tern', 2048, '192.0.2.9'));
    world.make({
      type: 'host.edit',
      input: { id: gannet(), outerGuestId: world.id('guest', 'lab') },
    });
    expect(points()['outer guest']).toBe(false);
    world.make({
      type: 'guest.edit',
      input: { id: world.id('guest', 'lab'), nestedVirtualisation: true },
    });
    expect(points()['outer guest']).toBe(true);
    expect(
      refused({
        type: 'host.edit',
        input: { id: world.id('host', 'tern'), outerGuestId: world.id('guest', 'lab') },
      }),
    ).toMatchObject({ code: 'in-itself' });
  });
});
