import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { capacity } from '../host/capacity.js';
import { failureDomains } from './failure.js';
import { failureOutcome, tolerance } from './tolerance.js';

let world: World;
/** Two hosts of 16 GiB (14,336 MiB for guests) that share a pool; a guest of 4 GiB asks 4,297 MiB. */
beforeEach(() => {
  world = smallWorld();
  world.make({
    type: 'pool.record',
    fields: { name: 'quay', usableBytes: 1e13 },
    hostIds: [world.id('host', 'gannet'), world.id('host', 'tern')],
  });
});

function run(
  name: string,
  host: string,
  gib: number,
  pool = 'quay',
  more: { vcpu?: number; network?: string } = {},
): string {
  world.make({
    type: 'guest.record',
    fields: {
      name,
      hostId: world.id('host', host),
      state: 'in service',
      family: 'Linux',
      vcpu: more.vcpu ?? 1,
      memoryMiB: gib * 1024,
    },
    volumes: [{ poolId: world.id('pool', pool), bytes: 1e10 }],
    adapters: [
      { networkId: world.id('network', more.network ?? 'shore'), address: { take: 'none' } },
    ],
  });
  return world.id('guest', name);
}
const fails = (name: string, kind: 'host' | 'rack' | 'site' = 'host') =>
  failureOutcome(
    world.fleet,
    failureDomains(world.fleet).find((domain) => domain.kind === kind && domain.name === name)!,
    world.now,
  );
const fate = (name: string, host = 'gannet') =>
  fails(host).guests.find((guest) => guest.name === name)!;

describe('when a host fails, its guest', () => {
  it('restarts elsewhere where storage, network and room are', () => {
    run('tide', 'gannet', 4);
    expect(fails('gannet')).toMatchObject({
      answer: 'all restart',
      counts: { restart: 1, replica: 0, backup: 0, lost: 0 },
    });
    expect(fate('tide')).toMatchObject({
      way: 'restart',
      onHostId: world.id('host', 'tern'),
      sentence: 'restarts on tern',
    });
  });
  it('is lost with its own pool when nothing else holds a copy', () => {
    run('log', 'gannet', 1, 'gannet-data');
    expect(fate('log')).toMatchObject({
      way: 'lost',
      sentence: 'its pool gannet-data is gone with the host; no backup survives',
    });
  });
  it('comes from a backup, with its age and hours; a backup on the same host does not count', () => {
    const guestId = run('log', 'gannet', 1, 'gannet-data');
    const copy = { kind: 'backup' as const, type: 'one.record' as const };
    world.make({
      ...copy,
      fields: {
        guestId,
        way: 'backup',
        poolId: world.id('pool', 'gannet-data'),
        everyMinutes: 1440,
        takesMinutes: 60,
        restoreMinutes: 30,
        lastSuccessAt: '2026-11-20T06:00:00.000Z',
      },
    });
    expect(fate('log').way).toBe('lost');
    world.make({
      ...copy,
      fields: {
        guestId,
        way: 'backup',
        poolId: world.id('pool', 'tern-data'),
        everyMinutes: 1440,
        takesMinutes: 60,
        restoreMinutes: 120,
        lastSuccessAt: '2026-11-19T22:00:00.000Z',
      },
    });
    expect(fate('log')).toMatchObject({
      way: 'backup',
      sentence: 'its pool gannet-data is gone with the host; backup 10 h old, about 2 h to restore',
    });
  });
  it('comes from a replica where one is, and takes room there', () => {
    const guestId = run('log', 'gannet', 12, 'gannet-data');
    world.make({
      type: 'one.record',
      kind: 'backup',
      fields: {
        guestId,
        way: 'replica',
        poolId: world.id('pool', 'tern-data'),
        everyMinutes: 15,
        takesMinutes: 4,
        lastSuccessAt: '2026-11-20T07:45:00.000Z',
      },
    });
    expect(fate('log')).toMatchObject({
      way: 'replica',
      sentence: 'from its replica on tern, 15 min old',
    });
    run('wide', 'tern', 4, 'tern-data');
    expect(fate('log')).toMatchObject({
      way: 'lost',
      sentence: expect.stringContaining('no room on the hosts within reach') as string,
    });
  });
  it('needs the level it sees: an unknown host is not one that has it', () => {
    const guestId = run('tide', 'gannet', 1);
    world.make({ type: 'guest.edit', id: guestId, fields: { processorMode: 'v3' } });
    expect(fate('tide').sentence).toContain('no host within reach has level v3');
    world.make({ type: 'host.edit', id: world.id('host', 'tern'), fields: { statedLevel: 3 } });
    expect(fate('tide').way).toBe('restart');
  });
  it('needs its networks', () => {
    world.make({ type: 'network.record', fields: { name: 'pen' } });
    run('tide', 'gannet', 1, 'quay', { network: 'pen' });
    expect(fate('tide').sentence).toContain('no host within reach carries pen');
  });
  it('keeps to rules: apart from a neighbour, or pinned to a host', () => {
    const [one, two] = [run('names-1', 'gannet', 1), run('names-2', 'tern', 1)];
    world.make({ type: 'rule.set', name: 'names', rule: 'apart', guestIds: [one, two] });
    expect(fate('names-1')).toMatchObject({ way: 'lost' });
    world.host('fulmar', 16);
    world.make({
      type: 'pool.edit',
      id: world.id('pool', 'quay'),
      fields: {},
      hostIds: ['gannet', 'tern', 'fulmar'].map((name) => world.id('host', name)),
    });
    expect(fate('names-1').onHostId).toBe(world.id('host', 'fulmar'));
    world.make({
      type: 'rule.set',
      name: 'stays',
      rule: 'pinned',
      hostId: world.id('host', 'gannet'),
      guestIds: [one],
    });
    expect(fate('names-1').sentence).toContain('a rule keeps it');
  });
});

describe('a group', () => {
  const group = (fields: object) => {
    world.make({ type: 'one.record', kind: 'hostGroup', fields: { name: 'harbour', ...fields } });
    const [{ id }] = [...world.fleet.all('hostGroup')] as [{ id: string }];
    world.make({
      type: 'host.edit-many',
      ids: [world.id('host', 'gannet'), world.id('host', 'tern')],
      fields: { groupId: id },
    });
    return id;
  };
  it('backs its own hosts only', () => {
    run('tide', 'gannet', 1);
    const id = group({});
    world.make({ type: 'host.edit', id: world.id('host', 'tern'), fields: { groupId: null } });
    expect(fate('tide').way).toBe('lost');
    world.make({ type: 'host.edit', id: world.id('host', 'tern'), fields: { groupId: id } });
    expect(fate('tide').way).toBe('restart');
  });
  it('of two hosts without a witness loses its quorum of two; with one it does not', () => {
    run('tide', 'gannet', 1);
    const id = group({ quorum: 2 });
    expect(fate('tide').sentence).toContain('harbour keeps 1 of the 2 votes it needs');
    world.make({ type: 'one.edit', kind: 'hostGroup', id, fields: { witness: 'the router' } });
    expect(fate('tide').way).toBe('restart');
  });
  it('sets the ratio of vCPU and keeps a reserve free; the reserve is room after a failure', () => {
    group({ vcpuPerCore: 2, reservePercent: 50 });
    const id = world.id('host', 'tern');
    expect(capacity(world.fleet, id).vcpu.value).toBe(8 * 2);
    // Half of 14,336 MiB for guests.
    expect(capacity(world.fleet, id).reserve.memory.value).toBe(7168);
    run('tide', 'gannet', 12);
    expect(fate('tide').way).toBe('restart');
  });
});

it('N + 1 is a matter of whole guests: three of 6 GiB restart on two hosts only if each finds its place', () => {
  world.host('fulmar', 16);
  world.make({
    type: 'pool.edit',
    id: world.id('pool', 'quay'),
    fields: {},
    hostIds: ['gannet', 'tern', 'fulmar'].map((name) => world.id('host', name)),
  });
  for (const host of ['gannet', 'tern', 'fulmar']) run(`big-${host}`, host, 8);
  run('small', 'gannet', 5);
  // 8 GiB ask 8,418 MiB of 14,336: 5,918 are left on each, too little for another one; 5 GiB ask 5,325 and find room.
  expect(fails('gannet')).toMatchObject({ answer: 'some do not', counts: { restart: 1, lost: 1 } });
});

it('a pool on disks of the failed host takes down guests that run elsewhere', () => {
  const gannet = world.id('host', 'gannet');
  world.make({
    type: 'host.set-hardware',
    hostId: gannet,
    hardware: { disks: [{ bay: '1', bytes: 1e12, class: 'enterprise disk' }] },
  });
  world.make({
    type: 'pool.edit',
    id: world.id('pool', 'quay'),
    fields: { diskId: world.fleet.referring('disk', 'hostId', gannet)[0]!.id },
  });
  run('tide', 'tern', 1);
  expect(fails('gannet').guests.map((guest) => guest.name)).toEqual(['tide']);
});

it('sites and racks fall as one, and every answer is given', async () => {
  world.make({ type: 'site.record', name: 'Harbour' });
  const [site] = world.fleet.all('site');
  world.make({
    type: 'host.edit-many',
    ids: [world.id('host', 'gannet'), world.id('host', 'tern')],
    fields: { siteId: site!.id },
  });
  run('tide', 'gannet', 1);
  const all = (await tolerance(world.fleet, world.now))!;
  expect(all.hosts.map(({ failed, answer }) => [failed.name, answer])).toEqual([
    ['gannet', 'all restart'],
    ['tern', 'all restart'],
  ]);
  expect(all.sites).toMatchObject([
    { failed: { name: 'Harbour' }, answer: 'some do not', counts: { lost: 1 } },
  ]);
  expect(await tolerance(world.fleet, world.now, () => Promise.resolve(false))).toBeNull();
});

it('a nested host falls with the guest it is', () => {
  const outer = run('lab', 'gannet', 4);
  world.host('inner', 8);
  world.make({ type: 'host.edit', id: world.id('host', 'inner'), fields: { outerGuestId: outer } });
  run('practice', 'inner', 1, 'inner-data');
  expect(
    fails('gannet')
      .guests.map((guest) => guest.name)
      .sort(),
  ).toEqual(['lab', 'practice']);
});
