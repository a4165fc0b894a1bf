import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { groupSpread, mostOnOne, rankHosts, rankPools, type Placing } from './index.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
});
const placing = (more: Partial<Placing> = {}): Placing => ({
  vcpu: 2,
  memoryMiB: 2048,
  bytes: 50e9,
  networkIds: [world.id('network', 'shore')],
  processorMode: 'unknown',
  family: 'Linux',
  profileId: null,
  groupId: null,
  ruleIds: [],
  ...more,
});
const rank = (more: Partial<Placing> = {}) =>
  rankHosts(world.fleet, placing(more), world.context());
const misses = (name: string, more: Partial<Placing> = {}) =>
  rank(more)
    .find((found) => found.name === name)!
    .reasons.filter((reason) => !reason.fits)
    .map((reason) => reason.check);

describe('hosts for a guest', () => {
  it('the one that evens out memory comes first', () => {
    world.make(world.found('web', 'gannet', 8192, '192.0.2.10'));
    expect(rank().map((found) => [found.name, found.fits])).toEqual([
      ['tern', true],
      ['gannet', true],
    ]);
  });
  it('each says what does not fit', () => {
    expect(misses('gannet', { memoryMiB: 64 * 1024 })).toEqual(['memory']);
    // 8 cores of 2 threads; the policy allows 4 vCPU a core, but no guest is wider than the threads.
    expect(misses('gannet', { vcpu: 17 })).toEqual(['processors']);
    expect(misses('gannet', { bytes: 2e12 })).toEqual(['pool']);
    expect(misses('gannet', { processorMode: 'v3' })).toEqual(['level']);
    expect(misses('gannet', { profileId: world.id('profile', 'nested hypervisor') })).toEqual([
      'platform',
    ]);
  });
  it('a host that does not carry the network, or is not in service, does not fit', () => {
    world.make({ type: 'network.record', input: { name: 'inner' } });
    world.host('eider', 16, { networks: ['inner'] });
    expect(misses('eider')).toEqual(['networks']);
    world.make({
      type: 'host.edit',
      input: { id: world.id('host', 'tern'), state: 'maintenance' },
    });
    expect(misses('tern')).toEqual(['state']);
  });
  it('memory is asked with overhead: what fits to the byte fits, one more does not', () => {
    // 16 GiB less the larger of 2 GiB and 5 %: 14,336 MiB. Overhead of 2 vCPU: 128 + 16 + 16 + 1 %.
    const largest = Math.floor(((14_336 - 160) * 100) / 101);
    expect([
      misses('gannet', { memoryMiB: largest }),
      misses('gannet', { memoryMiB: largest + 1 }),
    ]).toEqual([[], ['memory']]);
  });
  it('likes of a role that stays apart, a spread group and joined rules are seen', () => {
    const role = world.id('profile', 'name server');
    world.make({ type: 'guest-group.record', input: { name: 'names' } });
    const group = world.id('guestGroup', 'names');
    world.make(world.found('names-1', 'gannet', 512, '192.0.2.53'));
    world.make({
      type: 'guest.edit',
      input: { id: world.id('guest', 'names-1'), profileId: role, groupId: group },
    });
    world.make(world.found('names-log', 'gannet', 512, '192.0.2.55'));
    world.make({
      type: 'rule.set',
      input: {
        name: 'with names',
        rule: 'together',
        guestIds: [world.id('guest', 'names-1'), world.id('guest', 'names-log')],
      },
    });
    expect([misses('gannet', { profileId: role }), misses('tern', { profileId: role })]).toEqual([
      ['rules'],
      [],
    ]);
    expect([misses('gannet', { groupId: group }), misses('tern', { groupId: group })]).toEqual([
      ['rules'],
      [],
    ]);
    const ruleIds = [world.id('placementRule', 'with names')];
    expect([misses('gannet', { ruleIds }), misses('tern', { ruleIds })]).toEqual([[], ['rules']]);
  });
  it('what keeps the group tolerant comes before what only evens it out', () => {
    world.make({ type: 'host-group.record', input: { name: 'pair' } });
    world.make({
      type: 'host.edit-many',
      input: {
        ids: [world.id('host', 'gannet'), world.id('host', 'tern')],
        groupId: world.id('hostGroup', 'pair'),
      },
    });
    world.make({
      type: 'pool.record',
      input: {
        name: 'shared',
        usableBytes: 5e12,
        remote: 'shelf',
        hostIds: [world.id('host', 'gannet'), world.id('host', 'tern')],
      },
    });
    const small = rank({ memoryMiB: 4096 });
    expect(small.map((found) => found.tolerance.answer)).toEqual(['kept', 'kept']);
    expect(small[0]!.tolerance.sentence).toContain('restarts on');
    // Ten GiB on tern in service on the shared pool: another ten GiB fit on either host, but not both on one.
    world.make({
      type: 'guest.record',
      input: {
        name: 'large',
        hostId: world.id('host', 'tern'),
        state: 'in service',
        family: 'Linux',
        vcpu: 2,
        memoryMiB: 10_240,
        volumes: [{ poolId: world.id('pool', 'shared'), bytes: 1e9 }],
        adapters: [],
      },
    });
    const full = rank({ memoryMiB: 10_240 });
    expect(
      full.filter((found) => found.fits).map((found) => [found.name, found.tolerance.answer]),
    ).toEqual([['gannet', 'lost']]);
  });
  it('of a group of 24 hosts it is asked still, of one more no longer', () => {
    world.make({ type: 'host-group.record', input: { name: 'fleet' } });
    const groupId = world.id('hostGroup', 'fleet');
    const join = (ids: string[]) => world.make({ type: 'host.edit-many', input: { ids, groupId } });
    const more = Array.from({ length: 23 }, (_, i) => world.host(`skua-${i}`, 16));
    const [last, ...others] = more;
    join([world.id('host', 'gannet'), world.id('host', 'tern'), ...others]);
    const answer = () => rank().find(({ name }) => name === 'gannet')!.tolerance;
    expect(answer().answer).not.toBe('not asked');
    join([last!]);
    expect(answer()).toEqual({
      ...{ answer: 'not asked', sentence: 'the group has more than 24 hosts' },
    });
  });
});

describe('pools for a guest', () => {
  it('one that outlives the host comes before a larger one that does not', () => {
    world.make({
      type: 'pool.record',
      input: {
        name: 'shared',
        usableBytes: 2e11,
        remote: 'shelf',
        hostIds: [world.id('host', 'gannet'), world.id('host', 'tern')],
      },
    });
    expect(
      rankPools(world.fleet, world.id('host', 'gannet'), 1e11).map((pool) => [
        pool.name,
        pool.fits,
        pool.outlives,
      ]),
    ).toEqual([
      ['shared', true, true],
      ['gannet-data', true, false],
    ]);
    expect(
      rankPools(world.fleet, world.id('host', 'gannet'), 3e11).map((pool) => [
        pool.name,
        pool.fits,
      ]),
    ).toEqual([
      ['gannet-data', true],
      ['shared', false],
    ]);
  });
});

describe('the spread of a group', () => {
  /** n replicas on d domains: the fullest holds ⌈n/d⌉, so many are left at worst; worked by hand. */
  it.each([
    [2, 2, 1, 1],
    [3, 2, 2, 1],
    [3, 3, 1, 2],
    [4, 2, 2, 2],
    [5, 3, 2, 3],
    [6, 4, 2, 4],
    [5, 2, 3, 2],
  ])('%i on %i: fullest %i, %i left', (n, d, most, left) => {
    expect([mostOnOne(n, d), n - mostOnOne(n, d)]).toEqual([most, left]);
  });
  it('counts members by host, rack or site', () => {
    world.make({
      type: 'guest-group.record',
      input: { name: 'readers', spread: 'host', needed: 2 },
    });
    const id = world.id('guestGroup', 'readers');
    for (const [name, host, ip] of [
      ['a', 'gannet', '192.0.2.11'],
      ['b', 'gannet', '192.0.2.12'],
      ['c', 'tern', '192.0.2.13'],
    ] as const) {
      world.make(world.found(name, host, 512, ip));
      world.make({ type: 'guest.edit', input: { id: world.id('guest', name), groupId: id } });
    }
    const spread = groupSpread(world.fleet, world.fleet.need('guestGroup', id))!;
    expect([
      spread.domains.map((domain) => [domain.name, domain.members]),
      spread.left,
      spread.enough,
      spread.best,
    ]).toEqual([
      [
        ['gannet', ['a', 'b']],
        ['tern', ['c']],
      ],
      1,
      false,
      2,
    ]);
    world.make({ type: 'guest-group.edit', input: { id, spread: 'none' } });
    expect(groupSpread(world.fleet, world.fleet.need('guestGroup', id))).toBeNull();
  });
});
