import { expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { LEVEL_FLAGS } from '../host/level.js';
import type { Values } from '../record/index.js';
import { allFindings, allFindingsAt, placesOf } from './index.js';

const rules = (world: World): string[] =>
  allFindings(world.fleet, world.now).map((finding) => finding.rule);
const guest = (world: World, name = 'web') => world.id('guest', name);
const edit = (world: World, fields: Values, name = 'web') =>
  world.make({ type: 'guest.edit', input: { id: guest(world, name), ...fields } });
const medium = (world: World, name: string, fields: Values = {}) =>
  world.make({ type: 'medium.record', input: { name, bytes: 1e9, sha256: '', ...fields } });
const attach = (world: World, name: string, atPowerOn = true) =>
  world.make({
    type: 'drive.record',
    input: { guestId: guest(world), mediumId: world.id('medium', name), atPowerOn },
  });
const one = (world: World, kind: 'drive' | 'snapshot' | 'medium') =>
  [...world.fleet.all(kind)].at(-1)!.id;
const remove = (world: World, kind: 'drive' | 'snapshot' | 'medium') =>
  world.make({ type: `${kind}.remove`, input: { id: one(world, kind) } });
const volume = (world: World) => world.fleet.referring('volume', 'guestId', guest(world))[0]!.id;
const adapter = (world: World) => world.fleet.referring('adapter', 'guestId', guest(world))[0]!.id;
const snapshot = (world: World, fields: Values = {}) =>
  world.make({
    type: 'snapshot.record',
    input: {
      guestId: guest(world),
      poolId: world.id('pool', 'gannet-data'),
      name: 'before',
      takenAt: '2026-11-19T08:00:00.000Z',
      ...fields,
    },
  });
const host = (world: World, name: string, fields: Values) =>
  world.make({ type: 'host.edit', input: { id: world.id('host', name), ...fields } });
const platform = (world: World, fields: Values) =>
  world.make({
    type: 'platform.edit',
    input: { id: world.id('platform', 'Generic bare-metal 1'), ...fields },
  });
const flags = (level: number) =>
  ([1, 2, 3, 4] as const)
    .filter((found) => found <= level)
    .flatMap((found) => LEVEL_FLAGS[found])
    .join(' ');
const plannedNt = (world: World) => {
  world.make(world.plan('nt', 'gannet', 2048));
  edit(world, { family: 'NT family' }, 'nt');
};
const pair = (world: World) => {
  world.make({ type: 'host-group.record', input: { name: 'pair' } });
  world.make({
    type: 'host.edit-many',
    input: {
      ids: [world.id('host', 'gannet'), world.id('host', 'tern')],
      groupId: world.id('hostGroup', 'pair'),
    },
  });
};

/** Each case: what is wrong, the rule that says so, and what mends it. */
const CASES: [string, (world: World) => void, (world: World) => void][] = [
  [
    'medium-left-in',
    (world) => {
      medium(world, 'a.img');
      attach(world, 'a.img');
      edit(world, { bootFirst: 'medium' });
    },
    (world) => remove(world, 'drive'),
  ],
  [
    'medium-left-in',
    (world) => {
      medium(world, 'a.img');
      attach(world, 'a.img');
    },
    (world) =>
      world.make({ type: 'drive.edit', input: { id: one(world, 'drive'), atPowerOn: false } }),
  ],
  [
    'nothing-to-boot',
    (world) => world.make({ type: 'volume.delete', input: { id: volume(world) } }),
    (world) => {
      medium(world, 'live.img');
      attach(world, 'live.img');
    },
  ],
  [
    'nothing-to-boot',
    (world) => {
      world.make({ type: 'volume.delete', input: { id: volume(world) } });
      medium(world, 'live.img');
      attach(world, 'live.img', false);
    },
    (world) => edit(world, { bootFirst: 'network' }),
  ],
  [
    'guest-not-verified',
    (world) => {
      world.make(world.plan('new', 'gannet', 512));
      world.make({
        type: 'guest.set-state',
        input: { id: guest(world, 'new'), state: 'in service' },
      });
    },
    (world) =>
      world.make({
        type: 'guest.tick',
        input: { guestId: guest(world, 'new'), step: 'check gateway', outcome: 'done' },
      }),
  ],
  [
    'guest-not-verified',
    (world) =>
      world.make({
        type: 'guest.tick',
        input: { guestId: guest(world), step: 'check gateway', outcome: 'failed' },
      }),
    (world) =>
      world.make({
        type: 'guest.tick',
        input: { guestId: guest(world), step: 'check gateway', outcome: 'done' },
      }),
  ],
  [
    'image-twice',
    (world) => {
      medium(world, 'a.img', { sha256: 'cd'.repeat(32) });
      medium(world, 'b.img', { sha256: 'cd'.repeat(32) });
    },
    (world) => remove(world, 'medium'),
  ],
  [
    'old-release',
    (world) => {
      medium(world, 'a.img', { system: 'Linux server', release: '11', releasedOn: '2023-06-01' });
      medium(world, 'b.img', { system: 'linux server', release: '12', releasedOn: '2025-06-01' });
    },
    (world) =>
      world.make({ type: 'medium.edit', input: { id: one(world, 'medium'), system: 'BSD' } }),
  ],
  [
    'device-not-driven',
    (world) => {
      plannedNt(world);
      world.make({
        type: 'volume.edit',
        input: {
          id: world.fleet.referring('volume', 'guestId', guest(world, 'nt'))[0]!.id,
          bus: 'paravirtual',
        },
      });
    },
    (world) => {
      medium(world, 'drivers.img', { install: 'drivers' });
      world.make({
        type: 'drive.record',
        input: {
          guestId: guest(world, 'nt'),
          mediumId: world.id('medium', 'drivers.img'),
          atPowerOn: true,
        },
      });
    },
  ],
  [
    'device-not-driven',
    (world) => {
      plannedNt(world);
      world.make({
        type: 'adapter.edit',
        input: {
          id: world.fleet.referring('adapter', 'guestId', guest(world, 'nt'))[0]!.id,
          model: 'paravirtual',
        },
      });
    },
    (world) => edit(world, { family: 'Linux' }, 'nt'),
  ],
  [
    'device-not-offered',
    (world) => world.make({ type: 'volume.edit', input: { id: volume(world), bus: 'NVMe' } }),
    (world) => platform(world, { diskBuses: ['NVMe'] }),
  ],
  [
    'device-not-offered',
    (world) => {
      platform(world, { adapterModels: ['emulated'] });
      world.make({ type: 'adapter.edit', input: { id: adapter(world), model: 'paravirtual' } });
    },
    (world) =>
      world.make({ type: 'adapter.edit', input: { id: adapter(world), model: 'emulated' } }),
  ],
  [
    'firmware-not-offered',
    (world) => {
      platform(world, { uefiGuests: false });
      edit(world, { firmware: 'UEFI' });
    },
    (world) => edit(world, { firmware: 'legacy' }),
  ],
  [
    'tied-to-processor',
    (world) => {
      host(world, 'gannet', { processorModel: 'one' });
      host(world, 'tern', { processorModel: 'another' });
      edit(world, { processorMode: 'host' });
      world.make({
        type: 'migration.plan',
        input: {
          guestId: guest(world),
          targetHostId: world.id('host', 'tern'),
          targetPoolId: world.id('pool', 'tern-data'),
          running: true,
          linkBitsPerSecond: 1e9,
        },
        override: 'to see',
      });
    },
    (world) => edit(world, { processorMode: 'v1' }),
  ],
  [
    'level-not-common',
    (world) => {
      pair(world);
      host(world, 'gannet', { flags: flags(4) });
      host(world, 'tern', { flags: flags(2) });
      edit(world, { processorMode: 'v3' });
    },
    (world) => host(world, 'tern', { flags: flags(3) }),
  ],
  [
    'size-does-not-suit',
    (world) => edit(world, { vcpu: 17 }),
    (world) => edit(world, { vcpu: 16 }),
  ],
  [
    'size-does-not-suit',
    (world) => edit(world, { profileId: world.id('profile', 'database') }),
    (world) => edit(world, { memoryMiB: 4096 }),
  ],
  [
    'snapshot-old',
    (world) => snapshot(world, { takenAt: '2026-11-12T08:00:00.000Z' }),
    (world) => remove(world, 'snapshot'),
  ],
  [
    'snapshot-old',
    (world) => snapshot(world, { keepUntil: '2026-11-19' }),
    (world) =>
      world.make({
        type: 'snapshot.edit',
        input: { id: one(world, 'snapshot'), keepUntil: '2026-11-21' },
      }),
  ],
  [
    'snapshots-fill-pool',
    (world) => snapshot(world, { bytes: 1e9, growthBytesPerDay: 40e9 }),
    (world) =>
      world.make({
        type: 'snapshot.edit',
        input: { id: one(world, 'snapshot'), growthBytesPerDay: 1e9 },
      }),
  ],
  [
    'guest-overdue',
    (world) => edit(world, { endDate: '2026-11-19' }),
    (world) => edit(world, { endDate: '2027-11-19' }),
  ],
  [
    'guest-overdue',
    (world) => edit(world, { endDate: '2026-12-01' }),
    (world) => world.make({ type: 'guest.retire', input: { id: guest(world), clear: [] } }),
  ],
  [
    'guest-forgotten',
    (world) => {
      world.make({
        type: 'guest.set-state',
        input: { id: guest(world), state: 'stopped' },
        happenedAt: '2026-06-01T00:00:00.000Z',
      });
    },
    (world) => edit(world, { confirmedAt: '2026-11-01T00:00:00.000Z', confirmedBy: 'planner' }),
  ],
  [
    'guest-unowned',
    (world) => edit(world, { criticality: 'high' }),
    (world) => edit(world, { owner: 'keeper' }),
  ],
  [
    'base-in-service',
    (world) => {
      world.make({ type: 'guest.set-state', input: { id: guest(world), state: 'stopped' } });
      world.make({
        type: 'clone.make',
        input: {
          originId: guest(world),
          copy: 'dependent',
          pattern: 'c-#',
          start: 1,
          taking: 'run',
          clones: [{}],
        },
      });
      world.make({ type: 'guest.set-state', input: { id: guest(world), state: 'in service' } });
    },
    (world) =>
      world.make({ type: 'guest.set-state', input: { id: guest(world), state: 'stopped' } }),
  ],
  [
    'group-not-spread',
    (world) => group(world, ['gannet', 'gannet']),
    (world) =>
      world.make({
        type: 'guest.edit',
        input: { id: guest(world, 'm1'), hostId: world.id('host', 'tern') },
      }),
  ],
  [
    'group-uneven',
    (world) => {
      pair(world);
      group(world, ['gannet', 'gannet', 'gannet', 'tern']);
    },
    (world) =>
      world.make({
        type: 'guest.edit',
        input: { id: guest(world, 'm1'), hostId: world.id('host', 'tern') },
      }),
  ],
];

function group(world: World, hosts: string[]): void {
  world.make({ type: 'guest-group.record', input: { name: 'readers' } });
  for (const [i, name] of hosts.entries()) {
    world.make(world.found(`m${i + 1}`, name, 256, `192.0.2.${20 + i}`));
    edit(world, { groupId: world.id('guestGroup', 'readers') }, `m${i + 1}`);
  }
}

it.each(CASES)('%s is told, and goes when mended', (rule, wrong, mend) => {
  const world = smallWorld();
  world.make(world.found('web', 'gannet', 2048, '192.0.2.10'));
  expect(rules(world)).not.toContain(rule);
  wrong(world);
  const found = allFindings(world.fleet, world.now).find((finding) => finding.rule === rule);
  expect(found, rule).toBeDefined();
  expect(allFindingsAt(world.fleet, placesOf(found!.id), world.now)).toContainEqual(found);
  for (const part of ['evidence', 'consequence', 'remedy'] as const)
    expect(found![part].length, part).toBeGreaterThan(8);
  mend(world);
  expect(rules(world)).not.toContain(rule);
});

it('a guest that waits to be installed from an old release makes that a caution', () => {
  const world = smallWorld();
  world.make(world.plan('web', 'gannet', 512));
  medium(world, 'a.img', { system: 'Linux server', release: '11', releasedOn: '2023-06-01' });
  medium(world, 'b.img', { system: 'Linux server', release: '12', releasedOn: '2025-06-01' });
  attach(world, 'a.img');
  expect(
    allFindings(world.fleet, world.now).find((finding) => finding.rule === 'old-release'),
  ).toMatchObject({ severity: 'caution' });
});
