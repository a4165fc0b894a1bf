import { describe, expect, it, test } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import type { HardwareInput } from '../host/host-input.js';
import { LEVEL_FLAGS } from '../host/level.js';
import { HOST_TESTS } from '../host/management.js';
import type { Values } from '../record/index.js';
import { allFindings, allFindingsAt, placesOf } from './index.js';

const rules = (world: World): string[] =>
  allFindings(world.fleet, world.now).map((finding) => finding.rule);
const told = (world: World, rule: string) =>
  allFindings(world.fleet, world.now).find((finding) => finding.rule === rule);
const gannet = (world: World) => world.id('host', 'gannet');
const edit = (world: World, fields: Values) =>
  world.make({ type: 'host.edit', input: { id: gannet(world), ...fields } });
const hardware = (world: World, input: HardwareInput) =>
  world.make({ type: 'host.set-hardware', input: { hostId: gannet(world), hardware: input } });
const disks = (
  n: number,
  tb: number,
  array: string | null,
  more: object = {},
): HardwareInput['disks'] =>
  Array.from({ length: n }, (_, i) => ({
    bay: `${array ?? 'x'}${i}`,
    bytes: tb * 1e12,
    class: 'enterprise disk' as const,
    array,
    ...more,
  }));
const address = (
  world: World,
  ip: string,
  use: 'static' | 'lease' = 'static',
  prefixLength?: number,
): void => {
  const made = world.make({
    type: 'address.set',
    input: { hostId: gannet(world), ip, assigned: false, prefixLength },
  });
  const [row] = made.patches.filter((patch) => patch.kind === 'address');
  if (use === 'lease') world.make({ type: 'address.edit', input: { id: row!.id, use } });
};
const verify = (world: World, failed: string[] = []) =>
  world.make({
    type: 'host.verify',
    input: {
      hostId: gannet(world),
      tests: HOST_TESTS.map((name) => ({ test: name, passed: !failed.includes(name) })),
    },
  });
const guestOn = (world: World, pool: string) =>
  world.make({
    type: 'guest.record',
    input: {
      name: 'tide',
      hostId: gannet(world),
      state: 'in service',
      family: 'Linux',
      vcpu: 1,
      memoryMiB: 512,
      volumes: [{ poolId: world.id('pool', pool), bytes: 1e9 }],
      adapters: [],
    },
  });
const backup = (world: World, fields: Values) =>
  world.make({
    type: 'backup.record',
    input: {
      guestId: world.id('guest', 'tide'),
      way: 'backup',
      everyMinutes: 1440,
      takesMinutes: 60,
      lastSuccessAt: '2026-11-20T02:00:00.000Z',
      lastRestoreTestAt: '2026-10-01T00:00:00.000Z',
      ...fields,
    },
  });

/** Each case: what is wrong, the rule that says so, and what mends it. */
const CASES: [string, (world: World) => void, (world: World) => void][] = [
  [
    'parity-without-spare',
    (world) =>
      hardware(world, {
        arrays: [{ name: 'a', level: '5', purpose: 'guests' }],
        disks: disks(4, 4, 'a'),
      }),
    (world) =>
      hardware(world, {
        disks: [
          ...disks(4, 4, 'a')!,
          { bay: 'spare', bytes: 4e12, class: 'enterprise disk', array: 'a', spare: true },
        ],
      }),
  ],
  [
    'mixed-disk-sizes',
    (world) =>
      hardware(world, {
        arrays: [{ name: 'a', level: '6', purpose: 'guests' }],
        disks: [
          ...disks(3, 1, 'a')!,
          { bay: 'big', bytes: 2e12, class: 'enterprise disk', array: 'a' },
        ],
      }),
    (world) => hardware(world, { disks: disks(4, 1, 'a') }),
  ],
  [
    'boot-with-guests',
    (world) => hardware(world, { disks: disks(1, 1, null, { purpose: 'boot and guests' }) }),
    (world) => hardware(world, { disks: disks(1, 1, null, { purpose: 'boot' }) }),
  ],
  [
    'host-gateway-outside',
    (world) => {
      address(world, '192.0.2.7');
      verify(world);
      edit(world, { gateway: '192.0.3.1' });
    },
    (world) => edit(world, { gateway: '192.0.2.1' }),
  ],
  [
    'automatic-address-failed',
    (world) => address(world, '169.254.9.9'),
    (world) =>
      world.make({
        type: 'address.release',
        input: { id: world.fleet.referring('address', 'hostId', gannet(world))[0]!.id },
      }),
  ],
  [
    'automatic-address-failed',
    (world) => edit(world, { nameServers: ['127.0.0.1'] }),
    (world) => edit(world, { nameServers: ['192.0.2.53'] }),
  ],
  [
    'automatic-address-failed',
    (world) => edit(world, { gateway: '203.0.113.1' }),
    (world) => edit(world, { gateway: '192.0.2.1' }),
  ],
  [
    'lease-only',
    (world) => address(world, '192.0.2.7', 'lease'),
    (world) => address(world, '192.0.2.8'),
  ],
  [
    'single-management-port',
    (world) => hardware(world, { ports: [{ name: 'p1', management: true }] }),
    (world) =>
      hardware(world, {
        ports: [
          { name: 'p1', management: true, card: 'a' },
          { name: 'p2', management: true, card: 'b' },
        ],
      }),
  ],
  [
    'single-management-port',
    (world) =>
      hardware(world, {
        ports: [
          { name: 'p1', management: true, card: 'a' },
          { name: 'p2', management: true, card: 'a' },
        ],
      }),
    (world) =>
      hardware(world, {
        ports: [
          { name: 'p1', management: true, card: 'a' },
          { name: 'p2', management: true, card: '' },
        ],
      }),
  ],
  [
    'name-not-resolving',
    (world) => {
      address(world, '192.0.2.7');
      verify(world, ['own name, reverse']);
    },
    (world) => {
      world.now = '2026-11-20T09:00:00.000Z';
      verify(world);
    },
  ],
  [
    'ending-soon',
    (world) => edit(world, { certificateUntil: '2026-12-01' }),
    (world) => edit(world, { certificateUntil: '2027-12-01' }),
  ],
  [
    'ending-soon',
    (world) => edit(world, { licenceUntil: '2026-11-01' }),
    (world) => edit(world, { licenceUntil: null }),
  ],
  [
    'maintenance-due',
    (world) => edit(world, { nextMaintenanceOn: '2026-11-01' }),
    (world) => edit(world, { nextMaintenanceOn: '2027-05-01' }),
  ],
  ['not-verified', (world) => address(world, '192.0.2.7'), (world) => verify(world)],
  [
    'not-verified',
    (world) => {
      address(world, '192.0.2.7');
      verify(world);
      world.now = '2026-11-20T09:00:00.000Z';
      edit(world, { gateway: '192.0.2.1' });
    },
    (world) => verify(world),
  ],
  [
    'host-unsuitable',
    (world) => edit(world, { virtualisation: 'switched off' }),
    (world) => edit(world, { virtualisation: 'on' }),
  ],
  [
    'pool-fill-alarm',
    (world) =>
      world.make({
        type: 'pool.edit',
        input: { id: world.id('pool', 'gannet-data'), usedBytes: 9e11 },
      }),
    (world) =>
      world.make({
        type: 'pool.edit',
        input: { id: world.id('pool', 'gannet-data'), fillAlarmPercent: 95 },
      }),
  ],
  [
    'backup-late',
    (world) => {
      guestOn(world, 'gannet-data');
      backup(world, {
        poolId: world.id('pool', 'tern-data'),
        lastSuccessAt: '2026-11-18T19:00:00.000Z',
      });
    },
    (world) =>
      world.make({
        type: 'backup.edit',
        input: {
          id: [...world.fleet.all('backup')][0]!.id,
          lastSuccessAt: '2026-11-20T02:00:00.000Z',
        },
      }),
  ],
  [
    'backup-never-restored',
    (world) => {
      guestOn(world, 'gannet-data');
      backup(world, { poolId: world.id('pool', 'tern-data'), lastRestoreTestAt: null });
    },
    (world) =>
      world.make({
        type: 'backup.edit',
        input: {
          id: [...world.fleet.all('backup')][0]!.id,
          lastRestoreTestAt: '2026-11-20T02:00:00.000Z',
        },
      }),
  ],
  [
    'backup-on-same-host',
    (world) => {
      guestOn(world, 'gannet-data');
      backup(world, { poolId: world.id('pool', 'gannet-data') });
    },
    (world) =>
      world.make({
        type: 'backup.edit',
        input: { id: [...world.fleet.all('backup')][0]!.id, poolId: world.id('pool', 'tern-data') },
      }),
  ],
];

describe('a rule speaks when its fault is there, and is silent when it is mended', () => {
  test.each(CASES)('%s', (rule, wrong, mend) => {
    const world = smallWorld();
    expect(rules(world)).not.toContain(rule);
    wrong(world);
    const finding = told(world, rule)!;
    expect(finding).toBeDefined();
    expect(allFindingsAt(world.fleet, placesOf(finding.id), world.now)).toContainEqual(finding);
    for (const text of [finding.evidence, finding.consequence, finding.remedy])
      expect(text).toMatch(/^[\dA-Za-z].*[.]$/);
    mend(world);
    expect(rules(world)).not.toContain(rule);
  });
});

it('a pool on a single disk of the host, and one larger than what it lies on', () => {
  const world = smallWorld();
  hardware(world, { disks: disks(1, 0.5, null) });
  const [disk] = world.fleet.referring('disk', 'hostId', gannet(world));
  world.make({
    type: 'pool.edit',
    input: { id: world.id('pool', 'gannet-data'), diskId: disk!.id },
  });
  expect(rules(world)).toEqual(['pool-larger-than-array']);
  guestOn(world, 'gannet-data');
  expect(rules(world).sort()).toEqual(['guests-without-redundancy', 'pool-larger-than-array']);
  world.make({
    type: 'pool.edit',
    input: { id: world.id('pool', 'gannet-data'), usableBytes: 4e11, copies: 2 },
  });
  expect(rules(world)).toEqual([]);
});

it('a host that asks only its own guests for names', () => {
  const world = smallWorld();
  world.make(world.found('names', 'gannet', 512, '192.0.2.53'));
  address(world, '192.0.2.7');
  verify(world);
  const [subnet] = world.fleet.all('subnet');
  world.make({ type: 'subnet.edit', input: { id: subnet!.id, nameServers: ['192.0.2.53'] } });
  expect(rules(world)).toContain('name-server-on-own-host');
  edit(world, { nameServers: ['192.0.2.53', '192.0.2.54'] });
  expect(rules(world)).not.toContain('name-server-on-own-host');
});

it('a rack whose hosts draw more than its feeds are planned for', () => {
  const world = smallWorld();
  world.make({ type: 'rack.record', input: { name: 'rack 1', feedWatts: 600 } });
  const [rack] = world.fleet.all('rack');
  world.make({
    type: 'host.edit-many',
    input: { ids: [gannet(world), world.id('host', 'tern')], rackId: rack!.id, drawWatts: 350 },
  });
  expect(told(world, 'rack-over-feed')!.evidence).toBe(
    'The hosts of rack 1 draw 700 W; its feeds are planned for 600 W.',
  );
});

it('guests in the reserve are a note, guests beyond the host a blocker', () => {
  const world = smallWorld();
  world.make({ type: 'host-group.record', input: { name: 'shore', reservePercent: 50 } });
  edit(world, { groupId: [...world.fleet.all('hostGroup')][0]!.id });
  world.make(world.found('big', 'gannet', 9000, '192.0.2.9'));
  // 14,336 MiB for guests, 7,168 of them reserve; 9,000 + 128 + 16 + 90 + 16 = 9,250; 2,082 MiB too many.
  expect(told(world, 'reserve-used')!.evidence).toContain('2.1 GiB of its reserve of memory');
  expect(rules(world)).toEqual(['reserve-used']);
});

it('the level a platform asks for names the flags that are missing', () => {
  const world = smallWorld();
  edit(world, { flags: LEVEL_FLAGS[1].join(' '), state: 'in service' });
  world.make({
    type: 'platform.edit',
    input: { id: world.id('platform', 'Generic bare-metal 1'), minimumLevel: 2 },
  });
  expect(told(world, 'host-unsuitable')!.evidence).toContain(
    'Missing: cx16, lahf_lm, popcnt, pni, sse4_1, sse4_2, ssse3',
  );
});
