/** Computers that become guests, guests that go onto computers: what stands against it, steps, switch, way back. */
import { beforeEach, describe, expect, it } from 'vitest';
import type { Change, Input } from '../change/index.js';
import { smallWorld, type World } from '../change/testing.js';
import { acceptsItself, allFindings } from '../finding/index.js';
import { GIB } from '../quantity/index.js';
import {
  checksOf,
  decideBy,
  fixedTimes,
  holdDays,
  kindOfMove,
  likelyCauses,
  routeEstimate,
  routeOf,
  timetable,
  type Check,
} from './index.js';

const FULL = 100 * GIB;
let world: World;
let deviceId: string;
beforeEach(() => {
  world = smallWorld();
  world.make({
    type: 'device.record',
    input: {
      name: 'old-files',
      kind: 'computer',
      ports: [
        {
          ...{ name: 'eth0', networkId: world.id('network', 'shore'), bitsPerSecond: 1e9 },
          addresses: [{ ip: '192.0.2.50', prefixLength: 24 }],
        },
      ],
    },
  });
  deviceId = world.id('device', 'old-files');
  sheet(SOUND);
});
const sheet = (more: Partial<Input<'computer.set'>>) =>
  world.make({ type: 'computer.set', input: { id: deviceId, ...more } });
const DISK = {
  ...{ bay: 'sda', model: 'Spindle 100', serial: 'SP-1', bytes: FULL, sectorBytes: 512 },
  ...{ boot: true, health: 'good' as const, layout: 'plain' as const },
};
const SOUND: Partial<Input<'computer.set'>> = {
  ...{ family: 'Linux', architecture: 'x86-64', work: 'files or finance', licenceTied: 'no' },
  ...{ sockets: 1, coresPerSocket: 4, memoryMiB: 4096, bootMode: 'legacy', encryption: 'none' },
  ...{ restartedAt: '2026-11-18T08:00:00.000Z', backupAt: '2026-11-20T01:00:00.000Z' },
  restoreProvenAt: '2026-10-20T01:00:00.000Z',
  disks: [DISK],
};
const disk = () => world.fleet.referring('computerDisk', 'deviceId', deviceId)[0]!;
const intoGuest = (
  more: Partial<Input<'migration.plan-from-physical'>> = {},
  override?: string,
): Change => ({
  type: 'migration.plan-from-physical',
  input: {
    ...{ deviceId, targetHostId: world.id('host', 'gannet'), name: 'files' },
    ...{ vcpu: 2, memoryMiB: 2048, linkBitsPerSecond: 1e9 },
    disks: [
      {
        ...{ computerDiskId: disk().id, poolId: world.id('pool', 'gannet-data') },
        ...{ bytes: FULL + GIB, thin: true },
      },
    ],
    ...more,
  },
  override,
});
const move = () => [...world.fleet.all('migration')].at(-1)!;
const guest = () => world.fleet.need('guest', move().guestId);
const device = () => world.fleet.need('device', deviceId);
const copying = () => steps().find(({ key }) => key === 'copied')!;
const steps = () =>
  world.fleet
    .referring('moveStep', 'migrationId', move().id)
    .sort((a, b) => a.position - b.position);
const go = (step: 'start' | 'switch' | 'accept' | 'roll back', override?: string) =>
  world.make({ type: 'migration.step', input: { id: move().id, step }, override });
const holderOf = (ip: string) => [...world.fleet.all('address')].find((row) => row.ip === ip)!;
const checks = (): Map<string, Check> =>
  new Map(checksOf(world.fleet, move(), world.now).map((check) => [check.name, check]));
const rules = (now = world.now) => allFindings(world.fleet, now).map(({ rule }) => rule);

describe('a computer that becomes a guest', () => {
  it('is planned with its guest, which holds the room: volumes, adapters without its address', () => {
    world.make(intoGuest());
    expect(guest()).toMatchObject({ name: 'files', state: 'planned', firmware: 'legacy' });
    expect(world.fleet.referring('volume', 'guestId', guest().id)).toMatchObject([
      { bytes: FULL + GIB, label: 'sda', thin: true, bus: 'paravirtual' },
    ]);
    const [adapter] = world.fleet.referring('adapter', 'guestId', guest().id);
    expect(adapter).toMatchObject({ networkId: world.id('network', 'shore') });
    expect(adapter!.mac).not.toBeNull();
    expect(holderOf('192.0.2.50').devicePortId).not.toBeNull();
    expect(kindOfMove(world.fleet, move())).toBe('physical to guest');
    expect(move().bytes).toBe(FULL);
  });
  it('passes every check that its sheet answers, and says what nobody knows', () => {
    world.make(intoGuest());
    const unknown = [...checks().values()].filter(({ passed }) => passed === null);
    expect(unknown.map(({ name }) => name).sort()).toEqual([
      ...['attached', 'clock', 'copying environment', 'way'],
    ]);
    expect([...checks().values()].filter(({ passed }) => passed === false)).toEqual([]);
  });
  it('nobody knows what an empty sheet does not say: nothing is passed by default', () => {
    world.make({ type: 'device.record', input: { name: 'box', kind: 'computer', ports: [] } });
    deviceId = world.id('device', 'box');
    sheet({ disks: [{ bay: 'sda', bytes: FULL }] });
    world.make(intoGuest({ name: 'box' }));
    const open = [...checks()].filter(([, { passed }]) => passed === null).map(([name]) => name);
    expect(open).toEqual(
      expect.arrayContaining([
        ...['architecture', 'read errors', 'sectors', 'software array', 'firmware'],
        ...['network present', 'encryption', 'never imaged', 'restarted', 'backup'],
        ...['restore proven', 'port speed', 'licence'],
      ]),
    );
  });

  /** 8-moving, blockers and what is never imaged. Common practice, no source. */
  it.each([
    ['sectors', { disks: [{ ...DISK, sectorBytes: 4096 }] }, true],
    ['software array', { disks: [{ ...DISK, layout: 'member of a software array' }] }, false],
    ['read errors', { disks: [{ ...DISK, health: 'read errors' }] }, false],
    ['encryption', { encryption: 'bound to its security chip' }, false],
    ['never imaged', { work: 'directory' }, false],
    ['attached', { attached: ['dongle'] }, false],
    ['restarted', { restartedAt: '2026-04-01T08:00:00.000Z' }, false],
    ['restore proven', { restoreProvenAt: '2026-01-01T08:00:00.000Z' }, false],
    ['architecture', { architecture: 'aarch64' }, true],
  ] as [string, Partial<Input<'computer.set'>>, boolean][])(
    '%s stands against it',
    (name, more, never) => {
      sheet(more);
      const refused = world.try(intoGuest());
      expect(refused).toMatchObject({
        code: `check-${name.replaceAll(' ', '-')}`,
        overridable: !never,
      });
    },
  );
  it('a disk of more than 2^32 sectors that starts by legacy boot does not start as one image', () => {
    const bytes = 2 ** 32 * 512 + 512;
    sheet({ disks: [{ ...DISK, bytes }] });
    const [one] = (intoGuest() as { input: Input<'migration.plan-from-physical'> }).input.disks;
    const large = { disks: [{ ...one!, bytes: bytes + GIB }] };
    expect(world.try(intoGuest(large, 'try'))).toMatchObject({ code: 'check-legacy-boot-disk' });
    sheet({ bootMode: 'UEFI' });
    expect(world.try(intoGuest(large, 'try'))).not.toMatchObject({
      code: 'check-legacy-boot-disk',
    });
  });
  it('a pool that has just the room takes it, one that lacks a byte does not', () => {
    const tried = (usableBytes: number, thin: boolean) => {
      const poolId = world.id('pool', 'gannet-data');
      world.make({
        type: 'pool.edit',
        input: { id: poolId, usableBytes, promiseLimitPercent: 100 },
      });
      const [one] = (intoGuest() as { input: Input<'migration.plan-from-physical'> }).input.disks;
      return world.try(intoGuest({ disks: [{ ...one!, thin }] }));
    };
    const lacks = { code: 'check-pool-room' };
    for (const thin of [true, false]) {
      expect(tried(FULL + GIB, thin)).not.toMatchObject(lacks);
      expect(tried(FULL + GIB - 1, thin)).toMatchObject(lacks);
    }
  });
  it('the guest is made up with the boot mode of the computer, where that is known', () => {
    const madeUp = () => steps().find(({ key }) => key === 'devices')!.title;
    world.make(intoGuest());
    expect(madeUp()).toMatch(/^Guest made up: legacy, a controller/);
  });
  it('a boot mode that nobody knows is looked up at the source', () => {
    sheet({ bootMode: 'unknown' });
    world.make(intoGuest({}, 'it starts all the same'));
    const { title } = steps().find(({ key }) => key === 'devices')!;
    expect(title).toMatch(/^Guest made up: its boot mode as at the source, a controller/);
  });
  it('a volume a byte smaller than its disk takes no image; files it does', () => {
    const [one] = (intoGuest() as { input: Input<'migration.plan-from-physical'> }).input.disks;
    const disks = [{ ...one!, bytes: FULL - 1 }];
    expect(world.try(intoGuest({ disks }))).toMatchObject({
      code: 'check-disk-size',
      overridable: false,
    });
    world.make(intoGuest({ disks, method: 'files only' }));
    // Nobody knows what is written: then all of it.
    expect(move().bytes).toBe(FULL);
    // Files are fetched from one by the other, and destroy nothing.
    expect(copying()).toMatchObject({ console: 'both', destroys: '' });
  });
  it('a recovery key whose place is known settles encryption', () => {
    sheet({ encryption: 'bound to its security chip', recoveryKeyKept: 'safe, second shelf' });
    world.make(intoGuest());
    expect(checks().get('encryption')!.passed).toBe(true);
  });
  it('files only: what replicates may be handed over so', () => {
    sheet({ work: 'directory' });
    world.make(intoGuest({ method: 'files only' }));
  });
  it('has at most twenty ticks, and asks for the name of what it destroys', () => {
    world.make(intoGuest());
    expect(steps().length).toBeLessThanOrEqual(20);
    const copied = copying();
    expect(copied.destroys).toBe('files on gannet-data');
    expect(copied.console).toBe('target');
    expect(copied.detail).toContain('Spindle 100 SP-1');
    const tick = {
      type: 'migration.tick',
      input: { stepIds: [copied.id], state: 'done' },
    } as const;
    expect(world.try(tick)).toMatchObject({ code: 'name-not-typed' });
  });
  it('is not started there before the source is off', () => {
    world.make(intoGuest());
    go('start');
    const first = steps().find(({ key }) => key === 'first-start')!;
    expect(
      world.try({
        type: 'migration.tick',
        input: { stepIds: [first.id], state: 'done' },
        override: 'in a hurry',
      }),
    ).toMatchObject({ code: 'both-on' });
  });

  it('switched: the guest runs and has the address, the computer is off and kept', () => {
    world.make(intoGuest());
    go('start');
    expect(guest().state).toBe('building');
    go('switch');
    expect([guest().state, device().state]).toEqual(['in service', 'off']);
    const [adapter] = world.fleet.referring('adapter', 'guestId', guest().id);
    expect(holderOf('192.0.2.50')).toMatchObject({ adapterId: adapter!.id, devicePortId: null });
    expect(rules()).not.toContain('source-runs');
    expect(world.fleet.referring('hold', 'migrationId', move().id)).toMatchObject([
      { deviceId, until: null },
    ]);
  });
  it('accepted: kept for 35 days, then erased and retired', () => {
    world.make(intoGuest());
    go('start');
    go('switch');
    expect(holdDays(world.fleet, move())).toBe(35);
    go('accept');
    const [hold] = world.fleet.referring('hold', 'migrationId', move().id);
    expect(hold).toMatchObject({ deviceId, until: '2026-12-25' });
    expect(rules('2026-12-27T08:00:00.000Z')).toContain('hold-past-date');
    world.make({ type: 'hold.release', input: { id: hold!.id } });
    expect(device().state).toBe('retired');
  });
  it('a source that is started again is a blocker, mended by recording it as off', () => {
    world.make(intoGuest());
    go('start');
    go('switch');
    world.make({ type: 'device.edit', input: { id: deviceId, state: 'in service' } });
    const found = allFindings(world.fleet, world.now).find(({ rule }) => rule === 'source-runs')!;
    expect(found).toMatchObject({ severity: 'blocker' });
    expect(found.evidence).toContain('old-files is in service, and so is the guest files');
    world.make({ type: 'device.edit', input: { id: deviceId, state: 'off' } });
    expect(rules()).not.toContain('source-runs');
  });
  it('rolled back: address and service are the old ones, the guest is retired', () => {
    world.make(intoGuest());
    go('start');
    go('switch');
    go('roll back');
    expect([guest().state, device().state]).toEqual(['retired', 'in service']);
    expect(holderOf('192.0.2.50').devicePortId).not.toBeNull();
    expect(world.fleet.referringCount('hold', 'migrationId', move().id)).toBe(0);
    // What was written there stays until its deletion is recorded.
    expect(world.fleet.referringCount('volume', 'guestId', guest().id)).toBe(1);
  });
  it('given up before it began, nothing was written anywhere', () => {
    world.make(intoGuest());
    go('roll back');
    expect(world.fleet.referringCount('volume', 'guestId', guest().id)).toBe(0);
    expect(device().state).toBe('in service');
  });
  it('as a copy both stay, with an identity to be made', () => {
    world.make(intoGuest({ keepsBoth: true }));
    expect(steps().map(({ key }) => key)).toContain('identity');
    go('start');
    go('switch');
    expect([guest().state, device().state]).toEqual(['in service', 'in service']);
    expect(holderOf('192.0.2.50').devicePortId).not.toBeNull();
    expect(rules()).not.toContain('source-runs');
  });
  it('an address in no network of the guest stays, and that is said', () => {
    world.make(intoGuest());
    go('start');
    const [adapter] = world.fleet.referring('adapter', 'guestId', guest().id);
    world.make({ type: 'adapter.remove', input: { id: adapter!.id } });
    const refused = world.try({ type: 'migration.step', input: { id: move().id, step: 'switch' } });
    expect(refused).toMatchObject({ code: 'address-stays', overridable: true });
  });
  it('one name at both places is no finding while it moves; of a copy it is', () => {
    const twice = () => rules().filter((rule) => /device-twice|duplicate-name/.test(rule));
    world.make(intoGuest({ name: 'old-files' }));
    expect(twice()).toEqual([]);
    go('start');
    go('switch');
    expect(twice()).toEqual([]);
    go('roll back');
    // Tried once more under the same name, as a copy.
    world.make(intoGuest({ name: 'old-files', keepsBoth: true }));
    expect(twice().length).toBeGreaterThan(0);
  });
  it('one move at a time', () => {
    world.make(intoGuest());
    expect(world.try(intoGuest({ name: 'again' }))).toMatchObject({ code: 'migration-open' });
  });
  it.each(['running pre-copy', 'shared storage switched over', 'appliance package'] as const)(
    '%s is no method for it',
    (method) =>
      expect(world.try(intoGuest({ method }))).toMatchObject({
        code: 'method-unfit',
        field: 'method',
      }),
  );

  it('takes as long as the slowest port that has negotiated lets it', () => {
    world.make(intoGuest());
    // 100 Mbit/s with Ethernet, IP and TCP around each 1,448 bytes: 11.77 MB/s at most (IEEE 802.3, RFC 7323).
    const ports = world.fleet.referring('devicePort', 'deviceId', deviceId);
    world.make({
      type: 'device.set-ports',
      input: { id: deviceId, ports: ports.map(({ name }) => ({ name, bitsPerSecond: 1e8 })) },
    });
    const { best } = routeEstimate(world.fleet, routeOf(world.fleet, move()));
    expect(best.value! / (FULL / 11.77e6)).toBeCloseTo(1, 2);
    expect(checks().get('port speed')).toMatchObject({ passed: false, advice: true });
    expect(likelyCauses(world.fleet, move().id, 'the copy stalls or crawls')[0]).toMatchObject({
      key: 'link-negotiated-down',
      because: 'eth0 of old-files runs at 100 Mbit/s.',
    });
  });
  it('costs environment, first start on other hardware, fixes and checks beside its copy', () =>
    expect(
      fixedTimes('physical to guest', 'block image').reduce((sum, { minutes }) => sum + minutes, 0),
    ).toBe(10 + 10 + 10 + 15));
  it('has a lane of its own in the timetable, and a time to decide', () => {
    world.make(
      intoGuest({
        windowFrom: '2026-11-21T18:00:00.000Z',
        windowUntil: '2026-11-23T06:00:00.000Z',
      }),
    );
    const [bar] = timetable(
      world.fleet,
      '2026-11-20T00:00:00.000Z',
      '2026-11-30T00:00:00.000Z',
    ).bars;
    expect(bar!.source).toMatchObject({ kind: 'device', name: 'old-files' });
    // Way back 20, its checks 15, margin 30 minutes before the end.
    expect(decideBy(world.fleet, move())!.at).toBe('2026-11-23T04:55:00.000Z');
  });
  it('is accepted by a person, never by itself', () => {
    world.make(intoGuest());
    go('start');
    go('switch');
    expect(acceptsItself(world.fleet, move(), world.now)).toBeNull();
  });
  it('its method is altered only into one that does for computers', () => {
    world.make(intoGuest());
    const edit = (method: 'files only' | 'running pre-copy') =>
      world.try({ type: 'migration.edit', input: { id: move().id, method } });
    expect(edit('running pre-copy')).toMatchObject({ code: 'method-unfit' });
    expect(edit('files only')).toHaveProperty('patches');
  });
  it('a target that is refused as smaller: the disk is told, not the volume', () => {
    world.make(intoGuest());
    const [first] = likelyCauses(world.fleet, move().id, 'the target is refused as smaller');
    expect(first!.because).toContain(`sda ${FULL.toLocaleString('en-GB')} bytes`);
  });
  it('a computer with a sheet is removed with it, unless a move names it', () => {
    const remove = { type: 'device.remove', input: { id: deviceId } } as const;
    world.make(intoGuest());
    expect(world.try(remove)).toMatchObject({ refused: true });
    world.make({ type: 'device.record', input: { name: 'box', kind: 'computer', ports: [] } });
    const box = world.id('device', 'box');
    world.make({ type: 'computer.set', input: { id: box, disks: [DISK] } });
    world.make({ type: 'device.remove', input: { id: box } });
    expect(world.fleet.referringCount('computer', 'deviceId', box)).toBe(0);
    expect(world.fleet.referringCount('computerDisk', 'deviceId', box)).toBe(0);
  });
  it('without a network the hidden old adapter is among the causes', () => {
    world.make(intoGuest());
    const keys = likelyCauses(world.fleet, move().id, 'no network').map(({ key }) => key);
    expect(keys).toContain('hidden-adapter');
  });
});

describe('a guest that goes onto a computer', () => {
  let guestId: string;
  const ontoComputer = (
    more: Partial<Input<'migration.plan-to-physical'>> = {},
    override = 'practice',
  ): Change => ({
    type: 'migration.plan-to-physical',
    input: {
      ...{ guestId, deviceId, linkBitsPerSecond: 1e9, method: 'intermediate disk' },
      disks: [
        {
          volumeId: world.fleet.referring('volume', 'guestId', guestId)[0]!.id,
          computerDiskId: disk().id,
        },
      ],
      ...more,
    },
    override,
  });
  beforeEach(() => {
    world.make(world.found('web', 'gannet', 2048, '192.0.2.10'));
    guestId = world.id('guest', 'web');
    const [volume] = world.fleet.referring('volume', 'guestId', guestId);
    world.make({ type: 'volume.edit', input: { id: volume!.id, bytes: 20 * GIB } });
    world.make({ type: 'guest.edit', input: { id: guestId, firmware: 'legacy' } });
    world.make({ type: 'device.edit', input: { id: deviceId, state: 'off' } });
    sheet({ controllerMode: 'AHCI', driversAtHand: ['network', 'controller'] });
  });

  it('has at most fourteen ticks, boot repair before the first start, and names the disk it destroys', () => {
    world.make(ontoComputer());
    const keys = steps().map(({ key }) => key);
    expect(keys.length).toBeLessThanOrEqual(14);
    expect(keys.indexOf('boot-repair')).toBeLessThan(keys.indexOf('first-start'));
    expect(keys.indexOf('drivers')).toBeLessThan(keys.indexOf('copied'));
    expect(steps().find(({ key }) => key === 'copied')!.destroys).toBe('Spindle 100 SP-1');
    // To the intermediate disk and back.
    expect(move().bytes).toBe(2 * 20 * GIB);
  });
  it.each([
    ['disk size', { disks: [{ ...DISK, bytes: 20 * GIB - 1 }] }],
    ['firmware', { bootMode: 'UEFI' }],
    ['memory', { memoryMiB: 1024 }],
    ['drivers at hand', { driversAtHand: ['graphics'] }],
  ] as [string, Partial<Input<'computer.set'>>][])('%s stands against it', (name, more) => {
    sheet(more);
    const refused = world.try(ontoComputer({}, ''));
    const decided = world.try(ontoComputer());
    const found = [refused, decided].flatMap((one) =>
      'objections' in one && one.objections ? one.objections : [one],
    );
    const code = `check-${name.replaceAll(' ', '-')}`;
    expect(found).toEqual(expect.arrayContaining([expect.objectContaining({ code })]));
  });
  it('switched, accepted, and its volumes erased', () => {
    world.make(ontoComputer());
    go('start', 'practice');
    go('switch', 'practice');
    expect([guest().state, device().state]).toEqual(['stopped', 'in service']);
    expect(holderOf('192.0.2.10').devicePortId).not.toBeNull();
    go('accept');
    expect(guest().state).toBe('retired');
    const [hold] = world.fleet.referring('hold', 'migrationId', move().id);
    expect(hold).toMatchObject({ poolId: world.id('pool', 'gannet-data'), until: '2026-12-25' });
    expect(rules()).not.toContain('held-for-nothing');
    world.make({ type: 'hold.release', input: { id: hold!.id } });
    expect(world.fleet.referringCount('volume', 'guestId', guestId)).toBe(0);
  });
  it('rolled back: the guest is the machine again, the computer is off', () => {
    world.make(ontoComputer());
    go('start', 'practice');
    go('switch', 'practice');
    go('roll back');
    expect([guest().state, device().state]).toEqual(['in service', 'off']);
    expect(holderOf('192.0.2.10').adapterId).not.toBeNull();
    // The computer's own went with the system that was overwritten, and did not become the guest's.
    expect(holderOf('192.0.2.50')).toBeUndefined();
  });
  it('a copy leaves the guest as it is', () => {
    world.make(ontoComputer({ keepsBoth: true }));
    go('start', 'practice');
    go('switch', 'practice');
    go('accept');
    expect([guest().state, device().state]).toEqual(['in service', 'in service']);
    expect(rules()).not.toContain('source-runs');
  });
  it('a converter on a running source is no way onto hardware', () =>
    expect(world.try(ontoComputer({ method: 'live converter' }))).toMatchObject({
      code: 'method-unfit',
    }));
  it('each volume onto one disk of that computer', () => {
    const [one] = (ontoComputer() as { input: Input<'migration.plan-to-physical'> }).input.disks;
    expect(world.try(ontoComputer({ disks: [one!, one!] }))).toMatchObject({ code: 'twice' });
    world.make({
      type: 'volume.add',
      input: { guestId, poolId: world.id('pool', 'gannet-data'), bytes: GIB, label: 'data' },
    });
    sheet({ disks: [DISK, { ...DISK, bay: 'sdb', serial: 'SP-2', boot: false }] });
    const [system, data] = world.fleet.referring('volume', 'guestId', guestId);
    const [sda, sdb] = world.fleet.referring('computerDisk', 'deviceId', deviceId);
    const onto = (volume: typeof data, disk: typeof sda) => ({
      volumeId: volume!.id,
      computerDiskId: disk!.id,
    });
    for (const disks of [
      [onto(system, sda), onto(system, sdb)],
      [onto(system, sda), onto(data, sda)],
    ])
      expect(world.try(ontoComputer({ disks }))).toMatchObject({ code: 'twice' });
    expect(
      world.try(ontoComputer({ disks: [onto(system, sda), onto(data, sdb)] })),
    ).not.toMatchObject({ code: 'twice' });
    expect(world.try(ontoComputer({ disks: [] }))).toMatchObject({ code: 'none-chosen' });
  });
});
