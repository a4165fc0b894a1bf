/** Hardware sheets of computers: said, pasted; and the size that one would have as a guest. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import type { Input } from '../change/index.js';
import { GIB } from '../quantity/index.js';
import { asGuest, volumeBytesFor } from './index.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
  world.make({ type: 'device.record', input: { name: 'old-desk', kind: 'computer', ports: [] } });
});
const deviceId = () => world.id('device', 'old-desk');
const set = (more: Partial<Input<'computer.set'>>) =>
  world.make({ type: 'computer.set', input: { id: deviceId(), ...more } });
const sheet = () => world.fleet.referring('computer', 'deviceId', deviceId())[0]!;
const disks = () => world.fleet.referring('computerDisk', 'deviceId', deviceId());

describe('a hardware sheet', () => {
  it('is begun by the first thing that is said, and keeps the rest as nobody has looked', () => {
    expect(world.fleet.referringCount('computer', 'deviceId', deviceId())).toBe(0);
    set({ sockets: 2 });
    expect(sheet()).toMatchObject({ sockets: 2, memoryMiB: null, encryption: 'unknown' });
    set({ memoryMiB: 4096 });
    expect(sheet()).toMatchObject({ sockets: 2, memoryMiB: 4096 });
  });
  it('knows a disk again by its bay', () => {
    set({
      disks: [
        { bay: 'sda', bytes: 5e11, health: 'good' },
        { bay: 'sdb', bytes: 1e12 },
      ],
    });
    const [first] = disks();
    set({ disks: [{ bay: 'sda', bytes: 5e11, usedBytes: 2e11 }] });
    expect(disks()).toMatchObject([{ id: first!.id, health: 'good', usedBytes: 2e11 }]);
  });
  it('is one of a computer only, with each disk once', () => {
    world.make({ type: 'device.record', input: { name: 'gate', kind: 'router', ports: [] } });
    const id = world.id('device', 'gate');
    expect(world.try({ type: 'computer.set', input: { id } })).toMatchObject({
      code: 'not-a-computer',
    });
    expect(
      world.try({ type: 'computer.take-facts', input: { id, text: '{"insel_facts":1}' } }),
    ).toMatchObject({ code: 'not-a-computer' });
    const twice = [
      { bay: 'sda', bytes: 1 },
      { bay: ' sda', bytes: 1 },
    ];
    expect(
      world.try({ type: 'computer.set', input: { id: deviceId(), disks: twice } }),
    ).toMatchObject({ code: 'twice', field: 'disks.1.bay' });
  });
});

describe('what a computer printed of itself', () => {
  const lsblk = {
    blockdevices: [
      {
        ...{ name: 'sda', type: 'disk', size: 500_107_862_016, 'log-sec': 512 },
        children: [
          { name: 'sda1', type: 'part', size: 1, fstype: 'vfat', mountpoint: '/boot', fsused: 1e8 },
          { name: 'sda2', type: 'part', size: 1, fstype: 'ext4', mountpoint: '/', fsused: '4e10' },
          { name: 'sda3', type: 'part', size: 1, fstype: 'swap', mountpoint: '[SWAP]' },
        ],
      },
      {
        ...{ name: 'sdb', type: 'disk', size: 2e12, 'log-sec': 4096 },
        children: [{ name: 'sdb1', type: 'part', size: 1, fstype: 'linux_raid_member' }],
      },
    ],
  };
  const text = JSON.stringify({
    insel_facts: 1,
    host_name: 'old-desk',
    lscpu: {
      lscpu: [
        { field: 'Architecture:', data: 'x86_64' },
        { field: 'Socket(s):', data: '1' },
        { field: 'Core(s) per socket:', data: '4' },
        { field: 'Thread(s) per core:', data: '2' },
      ],
    },
    lsblk,
    efi: false,
    net: 'eth0|wired|100|52:54:00:00:00:aa|0000:02:00.0\neth1|wired|-1||',
    addr: [
      {
        ifname: 'eth0',
        addr_info: [{ scope: 'global', local: '192.0.2.44', prefixlen: 24 }],
      },
    ],
  });
  const take = () => world.make({ type: 'computer.take-facts', input: { id: deviceId(), text } });

  it('goes into its sheet: sizes, sectors, used bytes where every file system shows them', () => {
    take();
    expect(sheet()).toMatchObject({
      ...{ family: 'Linux', architecture: 'x86-64', sockets: 1, coresPerSocket: 4 },
      ...{ threadsPerCore: 2, bootMode: 'legacy', memoryMiB: null, encryption: 'none' },
    });
    expect(disks()).toMatchObject([
      {
        bay: 'sda',
        bytes: 500_107_862_016,
        sectorBytes: 512,
        usedBytes: 40_100_000_000,
        boot: true,
      },
      { bay: 'sdb', sectorBytes: 4096, usedBytes: null, layout: 'member of a software array' },
    ]);
  });
  it('makes ports with their speed, MAC and address, in the network of that address', () => {
    take();
    const ports = world.fleet.referring('devicePort', 'deviceId', deviceId());
    expect(ports).toMatchObject([
      { name: 'eth0', bitsPerSecond: 1e8, networkId: world.id('network', 'shore') },
      { name: 'eth1', bitsPerSecond: null, networkId: null },
    ]);
    expect(world.fleet.referring('address', 'devicePortId', ports[0]!.id)).toMatchObject([
      { ip: '192.0.2.44', prefixLength: 24, assigned: false },
    ]);
  });
  it('a second time alters nothing that a person said since', () => {
    take();
    set({ work: 'files or finance', cpuP95Percent: 10 });
    const again = world.try({ type: 'computer.take-facts', input: { id: deviceId(), text } });
    expect(again).toMatchObject({ code: 'nothing-changed' });
    set({ sockets: 2 });
    take();
    expect(sheet()).toMatchObject({ work: 'files or finance', cpuP95Percent: 10, sockets: 1 });
    expect(world.fleet.referringCount('devicePort', 'deviceId', deviceId())).toBe(2);
  });
  it('a system that was only started to look says nothing of the one on the disks', () => {
    const disk = (fstype: string) => ({
      ...{ name: 'sda', type: 'disk', size: 5e11, 'log-sec': 512 },
      children: [{ name: 'sda1', type: 'part', fstype }],
    });
    const facts = (fstype: string) =>
      JSON.stringify({ insel_facts: 1, lsblk: { blockdevices: [disk(fstype)] } });
    const taken = (fstype: string) => {
      const input = { id: deviceId(), text: facts(fstype) };
      world.make({ type: 'computer.take-facts', input });
      return sheet();
    };
    expect(taken('zfs_member')).toMatchObject({ family: null, encryption: 'unknown' });
    expect(taken('BitLocker')).toMatchObject({ family: null, encryption: 'asks for its key' });
  });
  it('a port keeps its network and its purpose when its facts are taken again', () => {
    take();
    const [port] = world.fleet.referring('devicePort', 'deviceId', deviceId());
    set({ sockets: 2 });
    take();
    expect(world.fleet.need('devicePort', port!.id)).toMatchObject({
      ...{ networkId: world.id('network', 'shore'), bitsPerSecond: 1e8, mac: '52:54:00:00:00:aa' },
    });
    expect(world.fleet.referringCount('address', 'devicePortId', port!.id)).toBe(1);
  });
  it('is refused where it cannot be read, and nothing is altered', () =>
    expect(
      world.try({ type: 'computer.take-facts', input: { id: deviceId(), text: 'hello' } }),
    ).toMatchObject({ code: 'facts-not-read', field: 'text' }));
});

/** 8-moving, defaults: vCPU = P95 ÷ 0.6, memory peak × 1.25, unmeasured as the source. Common practice, no source. */
describe('the size as a guest', () => {
  const hardware = {
    ...{ sockets: 2, coresPerSocket: 6, threadsPerCore: 2, memoryMiB: 32_768 },
    ...{ cpuP95Percent: null as number | null, memoryPeakMiB: null as number | null },
  };
  it.each([
    // 24 threads × 10 % = 2.4 busy, ÷ 0.6 = 4.
    [10, 4],
    [11, 5],
    [0, 1],
    // Never more than the cores there are.
    [90, 12],
  ])('of %d %% of its threads: %i vCPU', (cpuP95Percent, wanted) =>
    expect(asGuest({ ...hardware, cpuP95Percent }).vcpu.value).toBe(wanted),
  );
  it.each([
    [4096, 5120],
    [4097, 5376],
    [100, 256],
  ])('of a peak of %d MiB: %i MiB', (memoryPeakMiB, wanted) =>
    expect(asGuest({ ...hardware, memoryPeakMiB }).memory.value).toBe(wanted),
  );
  it('is that of the hardware where nothing is measured, and says so', () => {
    const size = asGuest(hardware);
    expect([size.vcpu.value, size.memory.value, size.unmeasured]).toEqual([12, 32_768, true]);
  });
  it('has no more vCPU than a socket of its host has cores', () => {
    const host = world.fleet.need('host', world.id('host', 'gannet'));
    expect(asGuest({ ...hardware, cpuP95Percent: 90 }, host).vcpu.value).toBe(host.coresPerSocket);
  });
  it('is not known where nothing is recorded: never 0', () =>
    expect(asGuest(null)).toMatchObject({
      vcpu: { value: null },
      memory: { value: null },
      unmeasured: true,
    }));
  it('its volumes are whole GiB, at least one larger than the disk', () => {
    expect(volumeBytesFor(10 * GIB)).toBe(11 * GIB);
    expect(volumeBytesFor(500_107_862_016)).toBe(467 * GIB);
  });
});
