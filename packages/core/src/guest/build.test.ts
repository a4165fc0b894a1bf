/** The build of a guest: its steps, their ticks, and its end. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { IDENTITY_ITEMS, type Values } from '../record/index.js';
import { swapAdvice } from './build-installer.js';
import { checkedAt, guestBuild, guestReferrers } from './index.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
  world.make({ type: 'host.edit', input: { id: world.id('host', 'gannet'), timeZone: 'UTC' } });
  world.make(world.plan('web', 'gannet', 2048));
});
const web = () => world.id('guest', 'web');
const medium = (name: string, fields: Values = {}) => {
  world.make({
    type: 'medium.record',
    input: { name, bytes: 1e9, family: 'Linux', sha256: 'ab'.repeat(32), ...fields },
  });
  return world.id('medium', name);
};
const attach = (mediumId: string, atPowerOn = true) =>
  world.make({ type: 'drive.record', input: { guestId: web(), mediumId, atPowerOn } });
const build = () => guestBuild(world.fleet, web());
const steps = () => build().sections.flatMap((section) => section.steps);
const step = (key: string) => steps().find((found) => found.key === key);

describe('the steps of a build', () => {
  it('give every value to type, and say what is not decided', () => {
    attach(medium('linux-12.img'));
    expect(build()).toMatchObject({ way: 'full medium', guest: 'web', host: 'gannet' });
    expect(step('attach')).toMatchObject({ value: 'linux-12.img' });
    expect(step('compare')!.value).toBe('ab'.repeat(32));
    expect(step('address 1')).toMatchObject({
      value: '192.0.2.2/24',
      text: 'Adapter 1, expected as enp1s0: address and prefix',
    });
    expect([step('gateway')!.value, step('name servers')!.value, step('time zone')!.value]).toEqual(
      ['192.0.2.1', '203.0.113.53', 'UTC'],
    );
    expect(step('layout')!.value).toBe(
      'disk 1: EFI system partition 1 GiB, swap 4 GiB, the rest for the system',
    );
    expect(build().undecided).toEqual(['Processor it sees', 'Firmware']);
  });
  it('are in the order of the work: attached before typed, ejected before restarted', () => {
    attach(medium('linux-12.img'));
    const order = [
      'create',
      'attach',
      'medium first',
      'power on',
      'target',
      'address 1',
      'eject',
      'disk first',
      'bring up',
      'updates',
      'check gateway',
    ];
    const keys = steps().map((found) => found.key);
    expect(order.map((key) => keys.indexOf(key))).toEqual(
      [...order.map((key) => keys.indexOf(key))].sort((a, b) => a - b),
    );
    expect(new Set(keys).size).toBe(keys.length);
  });
  it('a network install needs gateway and name server while it installs', () => {
    attach(medium('netboot.img', { install: 'network' }));
    expect(build().way).toBe('network install');
    expect(step('network install')!.caution).toBeUndefined();
    world.make({
      type: 'subnet.edit',
      input: { id: [...world.fleet.all('subnet')][0]!.id, gateway: null },
    });
    expect(step('network install')!.caution).toContain('cannot reach anything');
  });
  it('a paravirtual disk for a system without the driver asks for the medium with the drivers', () => {
    world.make({ type: 'guest.edit', input: { id: web(), family: 'NT family' } });
    world.make({
      type: 'volume.edit',
      input: { id: world.fleet.referring('volume', 'guestId', web())[0]!.id, bus: 'paravirtual' },
    });
    attach(medium('nt.img', { family: 'NT family' }));
    expect(step('drivers')!.value).toBeNull();
    attach(medium('nt-drivers.img', { install: 'drivers' }));
    expect(step('drivers')!.value).toBe('nt-drivers.img');
    expect(step('volume 1')!.caution).toContain('does not drive this bus');
    expect(step('layout')!.value).toContain('page file');
  });
  it('a router has its gateway on the outside only, and forwards', () => {
    world.make({
      type: 'network.record',
      input: { name: 'inner', subnet: { prefix: '198.51.100.0/24' } },
    });
    world.make({
      type: 'adapter.add',
      input: { guestId: web(), networkId: world.id('network', 'inner'), address: { as: 'next' } },
    });
    world.make({ type: 'guest.edit', input: { id: web(), forwards: true } });
    expect(step('gateway')!.text).toBe('Gateway, on the outside only');
    expect(step('address 2')!.caution).toContain('no gateway here');
    expect(step('forwarding')!.text).toContain('adapter 1 is the outside');
    expect(step('check behind')!.check).toBe(true);
  });
  it('a copy is given an identity instead of an installation', () => {
    world.make(world.found('master', 'gannet', 1024, '192.0.2.40', 'stopped'));
    world.make({
      type: 'clone.make',
      input: {
        originId: world.id('guest', 'master'),
        copy: 'full',
        pattern: 'copy-#',
        start: 1,
        taking: 'run',
        clones: [{}],
      },
    });
    const copy = guestBuild(world.fleet, world.id('guest', 'copy-1'));
    expect(copy.way).toBe('copy');
    expect(copy.sections[1]!.steps).toHaveLength(IDENTITY_ITEMS.length + 1);
  });
  it('a role may ask a copy for fewer items', () => {
    world.make(world.found('master', 'gannet', 1024, '192.0.2.40', 'stopped'));
    const profileId = world.id('profile', 'router');
    world.make({
      type: 'profile.edit',
      input: { id: profileId, identity: ['computer name', 'MAC address'] },
    });
    world.make({ type: 'guest.edit', input: { id: world.id('guest', 'master'), profileId } });
    world.make({
      type: 'clone.make',
      input: {
        originId: world.id('guest', 'master'),
        copy: 'full',
        pattern: 'copy-#',
        start: 1,
        taking: 'run',
        clones: [{}],
      },
    });
    expect([...world.fleet.all('identityItem')].map((item) => item.item)).toEqual([
      'computer name',
      'MAC address',
    ]);
  });
  it('a peer in service on its network checks it', () => {
    expect(step('check peer')).toBeUndefined();
    world.make(world.found('watch', 'tern', 1024, '192.0.2.41'));
    expect(step('check peer')!.text).toBe('From a peer, watch: it answers');
  });
  /** Rule of thumb, no source. */
  it.each([
    [512, 1024],
    [2048, 4096],
    [4096, 4096],
    [8192, 8192],
    [65_536, 4096],
  ])('swap for %i MiB: %i MiB', (memory, swap) => expect(swapAdvice(memory)).toBe(swap));
});

describe('ticks', () => {
  const ticks = () => world.fleet.referring('buildTick', 'guestId', web());
  it('keep when, by whom and how it went; a later one replaces the earlier', () => {
    world.make({
      type: 'guest.tick',
      input: { guestId: web(), step: 'check gateway', outcome: 'failed', remark: 'no answer' },
      happenedAt: '2026-11-20T07:30:00.000Z',
    });
    expect(ticks()).toMatchObject([
      {
        step: 'check gateway',
        outcome: 'failed',
        at: '2026-11-20T07:30:00.000Z',
        by: 'planner',
        remark: 'no answer',
      },
    ]);
    expect(checkedAt(ticks())).toEqual({
      passed: 0,
      failed: ['gateway'],
      last: '2026-11-20T07:30:00.000Z',
    });
    world.make({
      type: 'guest.tick',
      input: { guestId: web(), step: 'check gateway', outcome: 'done' },
    });
    expect([ticks().length, checkedAt(ticks()).passed]).toEqual([1, 1]);
    world.make({
      type: 'guest.tick',
      input: { guestId: web(), step: 'check gateway', outcome: null },
    });
    expect(ticks()).toEqual([]);
  });
  it('only a step of the build can be ticked, and only a check fails', () => {
    expect(
      world.try({ type: 'guest.tick', input: { guestId: web(), step: 'dance', outcome: 'done' } }),
    ).toMatchObject({ code: 'no-such-step' });
    expect(
      world.try({
        type: 'guest.tick',
        input: { guestId: web(), step: 'updates', outcome: 'failed' },
      }),
    ).toMatchObject({ code: 'not-a-check' });
  });
});

describe('the end of a guest', () => {
  it('lists everything that still refers to it', () => {
    world.make({ type: 'service.record', input: { name: 'names', what: 'names' } });
    const serviceId = [...world.fleet.all('service')][0]!.id;
    world.make({ type: 'provider.record', input: { serviceId, guestId: web() } });
    world.make({
      type: 'host.edit',
      input: { id: world.id('host', 'tern'), nameServers: ['192.0.2.2'] },
    });
    attach(medium('linux-12.img'));
    world.make({
      type: 'snapshot.record',
      input: {
        guestId: web(),
        poolId: world.id('pool', 'gannet-data'),
        name: 'before',
        takenAt: world.now,
      },
    });
    expect(guestReferrers(world.fleet, web()).map((found) => found.sentence)).toEqual([
      'it provides names, which 0 machines need',
      'it holds 192.0.2.2',
      'tern asks it for names',
      'linux-12.img is attached to it',
      'its snapshot before still takes room',
      'disk 1 still takes its room: free only when its deletion is recorded',
    ]);
  });
  it('clears away what is asked, and leaves the volumes', () => {
    attach(medium('linux-12.img'));
    const decision = world.make({
      type: 'guest.retire',
      input: { id: web(), clear: ['addresses', 'media'] },
    });
    expect(decision.title).toBe('retired guest web, with its addresses, media');
    expect(world.fleet.need('guest', web())).toMatchObject({
      state: 'retired',
      stateAt: world.now,
    });
    expect([
      [...world.fleet.all('address')].some((row) => row.ip === '192.0.2.2'),
      world.fleet.count('drive'),
      world.fleet.referringCount('volume', 'guestId', web()),
    ]).toEqual([false, 0, 1]);
    expect(world.try({ type: 'guest.retire', input: { id: web(), clear: [] } })).toMatchObject({
      code: 'state-cannot-follow',
    });
  });
  it('a base of dependent clones may not be altered, deleted or forgotten', () => {
    world.make(world.found('master', 'gannet', 1024, '192.0.2.40', 'stopped'));
    world.make({
      type: 'clone.make',
      input: {
        originId: world.id('guest', 'master'),
        copy: 'dependent',
        pattern: 'copy-#',
        start: 1,
        taking: 'run',
        clones: [{}, {}],
      },
    });
    const base = world.fleet.referring('volume', 'guestId', world.id('guest', 'master'))[0]!;
    expect(world.try({ type: 'volume.delete', input: { id: base.id } })).toMatchObject({
      code: 'still-referred-to',
    });
    expect(world.try({ type: 'volume.edit', input: { id: base.id, bytes: 60e9 } })).toMatchObject({
      code: 'is-a-base',
    });
    expect(
      guestReferrers(world.fleet, world.id('guest', 'master')).map((found) => found.sentence),
    ).toContain('disk 1 is the base of 2 volumes');
  });
});

describe('many at once', () => {
  it('the same fields for several; a state must be able to follow each one’s own', () => {
    world.make(world.found('other', 'tern', 512, '192.0.2.41'));
    const ids = [web(), world.id('guest', 'other')];
    world.make({
      type: 'guest.edit-many',
      input: { ids, owner: 'keeper', outageWindow: 'Sun 02:00-04:00' },
    });
    expect(ids.map((id) => world.fleet.need('guest', id).owner)).toEqual(['keeper', 'keeper']);
    expect(world.try({ type: 'guest.edit-many', input: { ids, state: 'stopped' } })).toMatchObject({
      code: 'state-cannot-follow',
    });
    expect(
      world.try({ type: 'guest.edit-many', input: { ids, outageWindow: 'sometime' } }),
    ).toMatchObject({ code: 'bad-value', field: 'outageWindow' });
    expect(
      world.try({
        type: 'guest.record',
        input: {
          name: 'third',
          hostId: world.id('host', 'tern'),
          state: 'stopped',
          family: 'Linux',
          vcpu: 1,
          memoryMiB: 256,
          outageWindow: 'sometime',
          volumes: [],
          adapters: [],
        },
      }),
    ).toMatchObject({ code: 'bad-value' });
  });
  it('a planned guest comes with its medium, its devices and the rules it joins', () => {
    const mediumId = medium('linux-12.img');
    world.make(world.found('other', 'tern', 512, '192.0.2.41'));
    world.make(world.found('third', 'tern', 512, '192.0.2.42'));
    world.make({
      type: 'rule.set',
      input: {
        name: 'apart',
        rule: 'apart',
        guestIds: [world.id('guest', 'other'), world.id('guest', 'third')],
      },
    });
    const ruleId = world.id('placementRule', 'apart');
    world.make({
      type: 'guest.plan',
      input: {
        name: 'new',
        hostId: world.id('host', 'gannet'),
        family: 'Linux',
        vcpu: 1,
        memoryMiB: 512,
        firmware: 'UEFI',
        volumes: [{ poolId: world.id('pool', 'gannet-data'), bytes: 1e9, bus: 'SATA' }],
        adapters: [{ networkId: null, model: 'emulated', address: { as: 'none' } }],
        mediumIds: [mediumId, mediumId],
        ruleIds: [ruleId],
      },
    });
    const id = world.id('guest', 'new');
    expect(world.fleet.referring('drive', 'guestId', id)).toMatchObject([
      { mediumId, atPowerOn: true },
    ]);
    expect(world.fleet.referring('volume', 'guestId', id)).toMatchObject([{ bus: 'SATA' }]);
    expect(world.fleet.referring('adapter', 'guestId', id)).toMatchObject([{ model: 'emulated' }]);
    expect(world.fleet.referringCount('placementMember', 'guestId', id)).toBe(1);
    expect(
      world.try({ type: 'drive.record', input: { guestId: id, mediumId, atPowerOn: true } }),
    ).toMatchObject({ code: 'stated-twice' });
  });
});

it('snapshots take room of their pool', () => {
  world.make({
    type: 'snapshot.record',
    input: {
      guestId: web(),
      poolId: world.id('pool', 'gannet-data'),
      name: 'before',
      takenAt: world.now,
      bytes: 960e9,
    },
  });
  // 1 TB usable, 50 GB of volume, 960 GB of snapshot: 10 GB beyond.
  const refused = world.try(world.plan('second', 'gannet', 512, { bytes: 1e9 }));
  expect(refused).toMatchObject({ code: 'no-storage' });
});
