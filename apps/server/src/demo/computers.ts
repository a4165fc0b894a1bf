/**
 * Computers of the observatory that run no guests: one that became a guest weeks ago, one that is to become one over a
 * weekend, one that nothing speaks for, and a laptop that a guest is to go onto. All invented.
 */
import { volumeBytesFor, type Change, type Fleet, type Input } from '@insel/core';

interface Teller {
  make: (change: Change) => Promise<void>;
  fleet: Fleet;
  id: (kind: 'site' | 'network' | 'host' | 'guest' | 'device' | 'pool', name: string) => string;
  base: number;
}

interface Described {
  name: string;
  site: string;
  model: string;
  network: string;
  ip: string;
  length: number;
  bitsPerSecond: number | null;
  sheet: (before: (days: number) => string) => Omit<Input<'computer.set'>, 'id'>;
}

const COMPUTERS: Described[] = [
  {
    ...{ name: 'press-archive', site: 'Mainland office', model: 'Invented tower 6' },
    ...{ network: 'office', ip: '172.22.32.61', length: 23, bitsPerSecond: 1e9 },
    sheet: (before) => ({
      ...{ family: 'Linux', architecture: 'x86-64', work: 'ordinary', licenceTied: 'no' },
      ...{ processorModel: 'Invented core 4', sockets: 1, coresPerSocket: 4, threadsPerCore: 1 },
      ...{ memoryMiB: 8192, bootMode: 'legacy', controllerMode: 'AHCI', encryption: 'none' },
      ...{ cpuP95Percent: 12, memoryPeakMiB: 2900, rackHeight: 4, drawWatts: 160 },
      ...{ restartedAt: before(42), backupAt: before(40.2), restoreProvenAt: before(70) },
      disks: [
        {
          ...{ bay: 'sda', model: 'Invented spindle 250', serial: 'IS250-0417' },
          ...{ bytes: 250_059_350_016, usedBytes: 61_000_000_000, sectorBytes: 512 },
          ...{ boot: true, health: 'good', layout: 'plain' },
        },
      ],
    }),
  },
  {
    ...{ name: 'old-accounts', site: 'Mainland office', model: 'Invented server 2' },
    ...{ network: 'office', ip: '172.22.32.62', length: 23, bitsPerSecond: 1e8 },
    sheet: (before) => ({
      ...{ family: 'NT family', architecture: 'x86-64', work: 'files or finance' },
      ...{ processorModel: 'Invented twin 6', sockets: 2, coresPerSocket: 6, threadsPerCore: 2 },
      ...{ memoryMiB: 32_768, bootMode: 'legacy', controllerMode: 'RAID', encryption: 'none' },
      ...{ licenceTied: 'yes', cpuP95Percent: 9, memoryPeakMiB: 6100 },
      ...{ rackHeight: 2, drawWatts: 310, restartedAt: before(211), backupAt: before(0.4) },
      restoreProvenAt: before(31),
      disks: [
        {
          ...{ bay: 'C', model: 'Invented spindle 500', serial: 'IS500-1180' },
          ...{ bytes: 499_558_383_616, usedBytes: 214_000_000_000, sectorBytes: 512 },
          ...{ boot: true, health: 'good', layout: 'plain' },
        },
      ],
    }),
  },
  {
    ...{ name: 'mast-logger', site: 'Lighthouse annex', model: 'Invented box 1' },
    ...{ network: 'annex-guests', ip: '172.22.14.28', length: 24, bitsPerSecond: null },
    sheet: () => ({
      ...{ family: 'Linux', sockets: 1, coresPerSocket: 2, threadsPerCore: 1, memoryMiB: 2048 },
      ...{ attached: ['serial line of the wind mast'], drawWatts: 35, rackHeight: 0 },
      disks: [
        {
          ...{ bay: 'sda', model: 'Invented flash 60', bytes: 60_022_480_896, boot: true },
          health: 'read errors',
        },
      ],
    }),
  },
  {
    ...{ name: 'ferry-till', site: 'Mainland office', model: 'Invented tower 4' },
    ...{ network: 'office', ip: '172.22.32.64', length: 23, bitsPerSecond: 1e9 },
    sheet: (before) => ({
      ...{ family: 'NT family', architecture: 'x86-64', work: 'files or finance' },
      ...{ processorModel: 'Invented core 4', sockets: 1, coresPerSocket: 4, threadsPerCore: 2 },
      ...{ memoryMiB: 16_384, bootMode: 'UEFI', controllerMode: 'AHCI', encryption: 'none' },
      ...{ licenceTied: 'no', cpuP95Percent: 14, memoryPeakMiB: 5200, rackHeight: 4 },
      ...{ drawWatts: 140, restartedAt: before(4), backupAt: before(0.3) },
      restoreProvenAt: before(20),
      disks: [
        {
          ...{ bay: 'C', model: 'Invented flash 240', serial: 'IF240-2201' },
          ...{ bytes: 240_057_409_536, usedBytes: 88_000_000_000, sectorBytes: 512 },
          ...{ boot: true, health: 'good', layout: 'plain' },
        },
      ],
    }),
  },
  {
    ...{ name: 'door-log', site: 'Mainland office', model: 'Invented box 2' },
    ...{ network: 'office', ip: '172.22.32.65', length: 23, bitsPerSecond: 1e9 },
    sheet: (before) => ({
      ...{ family: 'Linux', architecture: 'x86-64', work: 'ordinary', licenceTied: 'no' },
      ...{ processorModel: 'Invented core 2', sockets: 1, coresPerSocket: 2, threadsPerCore: 1 },
      ...{ memoryMiB: 4096, bootMode: 'legacy', controllerMode: 'AHCI', encryption: 'none' },
      ...{ cpuP95Percent: 6, memoryPeakMiB: 700, rackHeight: 1, drawWatts: 45 },
      ...{ restartedAt: before(2), backupAt: before(0.5), restoreProvenAt: before(12) },
      disks: [
        {
          ...{ bay: 'sda', model: 'Invented flash 60', serial: 'IF60-0919' },
          ...{ bytes: 60_022_480_896, usedBytes: 9_000_000_000, sectorBytes: 512 },
          ...{ boot: true, health: 'good', layout: 'plain' },
        },
      ],
    }),
  },
  {
    ...{ name: 'field-laptop', site: 'Mainland office', model: 'Invented portable 14' },
    ...{ network: 'office', ip: '172.22.32.63', length: 23, bitsPerSecond: 1e9 },
    sheet: () => ({
      ...{ architecture: 'x86-64', sockets: 1, coresPerSocket: 4, threadsPerCore: 2 },
      ...{ memoryMiB: 16_384, bootMode: 'UEFI', controllerMode: 'RAID', rackHeight: 0 },
      driversAtHand: ['network', 'controller', 'graphics'],
      disks: [
        {
          ...{ bay: 'nvme0', model: 'Invented flash 512', serial: 'IF512-0033' },
          ...{ bytes: 512_110_190_592, sectorBytes: 512, health: 'good' },
        },
      ],
    }),
  },
];

export async function writeComputers({ make, fleet, id, base }: Teller): Promise<void> {
  const before = (days: number) => new Date(base - days * 86_400_000).toISOString();
  for (const { name, site, model, network, ip, length, bitsPerSecond, sheet } of COMPUTERS) {
    await make({
      type: 'device.record',
      input: {
        ...{ name, model, kind: 'computer', siteId: id('site', site) },
        state: name === 'field-laptop' ? 'off' : 'in service',
        ports: [
          {
            ...{ name: 'wire', networkId: id('network', network), bitsPerSecond },
            duplex: bitsPerSecond === null ? 'unknown' : 'full',
            addresses: name === 'field-laptop' ? [] : [{ ip, prefixLength: length }],
          },
        ],
      },
    });
    await make({ type: 'computer.set', input: { id: id('device', name), ...sheet(before) } });
  }
  const disksOf = (name: string) => fleet.referring('computerDisk', 'deviceId', id('device', name));
  const into = (name: string, pool: string) =>
    disksOf(name).map((disk) => ({
      ...{ computerDiskId: disk.id, poolId: id('pool', pool), thin: true },
      bytes: volumeBytesFor(disk.bytes),
    }));
  await make({
    type: 'migration.plan-from-physical',
    input: {
      ...{ deviceId: id('device', 'press-archive'), targetHostId: id('host', 'kestrel') },
      ...{ name: 'press-archive', vcpu: 1, memoryMiB: 3840, linkBitsPerSecond: 1e9 },
      disks: into('press-archive', 'kestrel-data'),
    },
    happenedAt: before(41),
    reason: 'Its fan fails, and it is the last tower in the office',
    override: 'Planned in one evening',
  });
  const done = fleet.referring('migration', 'sourceDeviceId', id('device', 'press-archive'))[0]!;
  const steps = fleet
    .referring('moveStep', 'migrationId', done.id)
    .sort((a, b) => a.position - b.position);
  for (const [i, step] of steps.entries())
    await make({
      type: 'migration.tick',
      input: {
        ...{ stepIds: [step.id], state: 'done' },
        ...(step.destroys ? { typed: step.destroys } : {}),
        ...(step.becomes === 'switched' ? { copySeconds: 3480 } : {}),
      },
      happenedAt: before(40 - i * 0.01),
      override: 'told in one go',
    });
  const night = (days: number, hours: number) =>
    new Date(
      Date.parse(`${before(-days).slice(0, 10)}T00:00:00Z`) + hours * 3_600_000,
    ).toISOString();
  await make({
    type: 'migration.plan-from-physical',
    input: {
      ...{ deviceId: id('device', 'old-accounts'), targetHostId: id('host', 'kestrel') },
      ...{ name: 'accounts', vcpu: 4, memoryMiB: 7680, linkBitsPerSecond: 1e9 },
      ...{ disks: into('old-accounts', 'kestrel-data'), owner: 'operator' },
      ...{ windowFrom: night(9, 18), windowUntil: night(11, 6) },
    },
    reason: 'Its maker ends support, and nobody dares to restart it',
    override: 'It is restarted the weekend before',
  });
  await make({
    type: 'migration.edit',
    input: {
      id: fleet.referring('migration', 'guestId', id('guest', 'accounts'))[0]!.id,
      ...{ copyFromIp: '172.22.32.62', copyToIp: '172.22.32.4' },
    },
  });
  const guest = id('guest', 'ferry-times');
  await make({
    type: 'migration.plan-to-physical',
    input: {
      ...{ guestId: guest, deviceId: id('device', 'field-laptop'), keepsBoth: true },
      ...{ linkBitsPerSecond: 1e9, method: 'intermediate disk' },
      disks: fleet
        .referring('volume', 'guestId', guest)
        .slice(0, 1)
        .map((volume) => ({
          volumeId: volume.id,
          computerDiskId: disksOf('field-laptop')[0]!.id,
        })),
    },
    reason: 'For the days on the skerries, where no network is',
    override: 'A practice machine: what is on it is on the archive as well',
  });
  // It is under way while one looks: begun forty minutes ago, half of the first pass copied.
  const underWay = fleet.referring('migration', 'guestId', guest).at(-1)!;
  await make({
    type: 'migration.step',
    input: { id: underWay.id, step: 'start' },
    happenedAt: before(40 / 1440),
    override: 'A practice machine',
  });
  await make({
    type: 'migration.edit',
    input: { id: underWay.id, bytesDone: Math.floor(underWay.bytes / 2) },
    happenedAt: before(10 / 1440),
  });
}
