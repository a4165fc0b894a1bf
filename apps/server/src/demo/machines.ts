/** What the hosts of the observatory are made of, how they are kept, and what is wrong with some of them. All invented. */
import { GB, LEVEL_FLAGS, TB, type HardwareInput, type PsabiLevel, type Values } from '@insel/core';

const flagsUpTo = (level: PsabiLevel, more: string) =>
  [
    ...([1, 2, 3, 4] as const)
      .filter((found) => found <= level)
      .flatMap((found) => LEVEL_FLAGS[found]),
    more,
  ].join(' ');

export const GROUPS: { fields: Values & { name: string }; hosts: string[] }[] = [
  {
    fields: {
      name: 'harbour',
      vcpuPerCore: 4,
      reservePercent: 12,
      quorum: 2,
      witness: 'the tide gauge controller',
      startsAtOnce: 4,
    },
    hosts: ['gannet', 'fulmar', 'razorbill', 'puffin'],
  },
  {
    fields: { name: 'annex', vcpuPerCore: 2, reservePercent: 12, quorum: 2 },
    hosts: ['tern', 'eider', 'plover'],
  },
  { fields: { name: 'office', vcpuPerCore: 4, reservePercent: 10 }, hosts: ['kestrel', 'skua'] },
];

export const RACKS: {
  name: string;
  site: string;
  units: number;
  feedWatts: number;
  upsMinutes: number;
}[] = [
  { name: 'harbour rack 1', site: 'Harbour house', units: 42, feedWatts: 2900, upsMinutes: 20 },
  { name: 'annex rack', site: 'Lighthouse annex', units: 16, feedWatts: 1400, upsMinutes: 8 },
];

export const MEDIA = [
  {
    name: 'generic-bare-metal-1.4.img',
    bytes: 1_688_207_360,
    sha256: '9b1c7f0e52a84d3691f5c2b7a0d8e64f3c5a918b27e04fd6835c1b9ae7702d4f',
    kept: 'shelf of the harbour house, stick case 2',
    platform: 'Generic bare-metal 1',
  },
  {
    name: 'generic-bare-metal-2-lean.img',
    bytes: 741_343_232,
    sha256: '',
    kept: 'shelf of the harbour house',
    platform: 'Generic bare-metal 2, lean',
  },
];

interface DemoMachine {
  fields: Values;
  hardware: HardwareInput;
  /** What the guests' pool lies on. */
  poolOn?: { array: string } | { bay: string };
}

const modules = (count: number, gib: number, speed: string): HardwareInput['modules'] =>
  Array.from({ length: count }, (_, i) => ({
    slot: `${'ABCDEFGH'[i % 8]}${Math.floor(i / 8) + 1}`,
    sizeMiB: gib * 1024,
    speed,
  }));
const disks = (
  from: number,
  count: number,
  bytes: number,
  type: 'enterprise disk' | 'enterprise flash' | 'consumer flash' | 'consumer disk',
  array: string | null,
  model: string,
  serial: string,
  spare = 0,
) =>
  Array.from({ length: count }, (_, i) => ({
    bay: String(from + i),
    bytes,
    class: type,
    array,
    model,
    serial: `${serial}${String(17 + i * 3)}`,
    spare: i >= count - spare,
  }));
const ports = (
  card: string,
  speed: number,
  mac: string,
  into: string,
  management: string[],
  names = ['p1', 'p2', 'p3', 'p4'],
) =>
  names.map((name, i) => ({
    name,
    bitsPerSecond: speed,
    connector: speed >= 1e10 ? ('SFP+' as const) : ('8P8C' as const),
    mac: `02:4e:6f:${mac}:0${i + 1}`,
    card: i < 2 ? `${card}, first` : `${card}, second`,
    management: management.includes(name),
    pluggedInto: `${into}, port ${i * 4 + 3}`,
  }));

const mirror = { name: 'boot', level: '1' as const, purpose: 'boot' as const };
const rock = (rackUnit: number, serial: string, mac: string, switchName: string): DemoMachine => ({
  fields: {
    rackUnit,
    rackHeight: 2,
    machineModel: 'Invented Rock 2',
    serial,
    weightKg: 29,
    powerSupplies: 2,
    drawWatts: 620,
    bays: 12,
    memorySlots: 16,
    controller: 'Invented storage card 3',
    controllerMode: 'pass-through',
    bootMode: 'UEFI',
    secureBoot: 'on',
    videoConnector: 'DE-15 analogue',
    baseMhz: 2900,
    flags: flagsUpTo(4, 'svm'),
    virtualisation: 'on',
    warrantyUntil: '2028-04-30',
    licence: 'Generic, two sockets',
    licenceUntil: '2027-09-30',
    licenceKeyKept: 'safe of the harbour house, blue folder',
    nextMaintenanceOn: '2027-04-12',
  },
  hardware: {
    modules: modules(8, 32, '3200 MT/s'),
    nodes: [0, 1].map((node) => ({ node, cores: 16, memoryMiB: 128 * 1024 - 2560 })),
    arrays: [mirror, { name: 'guests', level: '10', purpose: 'guests' }],
    disks: [
      ...disks(1, 2, 480_103_981_056, 'enterprise flash', 'boot', 'Flint 480', `F${mac[0]}4`),
      ...disks(
        3,
        9,
        2_000_398_934_016,
        'enterprise flash',
        'guests',
        'Flint 2000',
        `F${mac[0]}2`,
        1,
      ),
    ],
    ports: ports('Invented net card', 1e10, mac, switchName, ['p1', 'p3']),
  },
  poolOn: { array: 'guests' },
});

export const MACHINES: Record<string, DemoMachine> = {
  gannet: rock(10, 'R2-0041', '10:0a', 'harbour switch 1'),
  fulmar: rock(12, 'R2-0042', '11:0a', 'harbour switch 2'),
  razorbill: {
    fields: {
      rackUnit: 8,
      rackHeight: 1,
      machineModel: 'Invented Ledge 1',
      serial: 'L1-7',
      weightKg: 17,
      powerSupplies: 2,
      drawWatts: 380,
      bays: 8,
      memorySlots: 8,
      controllerMode: 'AHCI',
      bootMode: 'UEFI',
      secureBoot: 'off',
      videoConnector: 'DE-15 analogue',
      baseMhz: 3100,
      flags: flagsUpTo(3, 'svm'),
      virtualisation: 'on',
      warrantyUntil: '2027-02-28',
      nextMaintenanceOn: '2026-11-03',
    },
    hardware: {
      modules: modules(4, 32, '2933 MT/s'),
      arrays: [mirror, { name: 'guests', level: '6', purpose: 'guests' }],
      disks: [
        ...disks(1, 2, 240 * GB, 'consumer flash', 'boot', 'Pebble 240', 'P2'),
        ...disks(3, 4, 2_000_398_934_016, 'enterprise disk', 'guests', 'Slate 2T', 'S2'),
      ],
      ports: ports('Invented net card', 1e9, '12:0a', 'harbour switch 1', ['p1'], ['p1', 'p2']),
    },
    poolOn: { array: 'guests' },
  },
  puffin: {
    fields: {
      rackUnit: 6,
      rackHeight: 1,
      machineModel: 'Invented Ledge 1',
      serial: 'L1-9',
      weightKg: 17,
      powerSupplies: 1,
      drawWatts: 240,
      bays: 4,
      memorySlots: 8,
      bootMode: 'UEFI',
      controllerMode: 'AHCI',
      videoConnector: 'HDMI',
      baseMhz: 2400,
      statedLevel: 3,
      virtualisation: 'switched off',
    },
    hardware: {
      arrays: [{ name: 'all', level: '1', purpose: 'boot and guests' }],
      disks: disks(1, 2, 2_000_398_934_016, 'consumer flash', 'all', 'Pebble 2000', 'P9'),
      ports: ports('board', 1e9, '13:0a', 'harbour switch 2', ['p1', 'p2'], ['p1', 'p2']),
    },
    poolOn: { array: 'all' },
  },
  tern: {
    fields: {
      rackUnit: 12,
      rackHeight: 2,
      machineModel: 'Invented Skerry 1',
      serial: 'S1-3',
      weightKg: 24,
      powerSupplies: 2,
      drawWatts: 410,
      bays: 8,
      memorySlots: 8,
      bootMode: 'UEFI',
      secureBoot: 'off',
      baseMhz: 2400,
      flags: flagsUpTo(3, 'svm'),
      virtualisation: 'on',
      videoConnector: 'DE-15 analogue',
    },
    hardware: {
      modules: modules(4, 32, '2666 MT/s'),
      arrays: [mirror, { name: 'guests', level: '10', purpose: 'guests' }],
      disks: [
        ...disks(1, 2, 240 * GB, 'enterprise flash', 'boot', 'Flint 240', 'T2'),
        ...disks(3, 4, 2_000_398_934_016, 'enterprise disk', 'guests', 'Slate 2T', 'T4'),
      ],
      ports: ports('Invented net card', 1e9, '14:0a', 'annex switch', ['p1', 'p3']),
    },
    poolOn: { array: 'guests' },
  },
  eider: {
    fields: {
      rackUnit: 14,
      rackHeight: 2,
      machineModel: 'Invented Skerry 1',
      serial: 'S1-4',
      weightKg: 31,
      powerSupplies: 2,
      drawWatts: 450,
      bays: 8,
      memorySlots: 8,
      controller: 'Invented storage card 1',
      controllerMode: 'RAID',
      bootMode: 'UEFI',
      secureBoot: 'off',
      baseMhz: 2900,
      flags: flagsUpTo(3, 'svm'),
      virtualisation: 'on',
      videoConnector: 'DE-15 analogue',
      warrantyUntil: '2026-12-12',
    },
    hardware: {
      modules: modules(4, 32, '2666 MT/s'),
      arrays: [mirror, { name: 'annex-a', level: '5', purpose: 'guests' }],
      disks: [
        ...disks(1, 2, 480 * GB, 'enterprise flash', 'boot', 'Flint 480', 'E1'),
        ...disks(3, 4, 4_000_787_030_016, 'consumer disk', 'annex-a', 'Gravel 4T', 'E4'),
      ],
      ports: ports('Invented net card', 1e9, '15:0a', 'annex switch', ['p1'], ['p1', 'p2']),
    },
    poolOn: { array: 'annex-a' },
  },
  plover: {
    fields: {
      rackUnit: 2,
      rackHeight: 1,
      machineModel: 'Invented Pebble box',
      weightKg: 9,
      powerSupplies: 1,
      drawWatts: 120,
      bays: 2,
      memorySlots: 2,
      bootMode: 'legacy',
      controllerMode: 'AHCI',
      baseMhz: 2200,
      flags: flagsUpTo(2, 'svm'),
      virtualisation: 'on',
      videoConnector: 'HDMI',
      gateway: '172.22.41.1',
      nameServers: ['172.22.12.53'],
    },
    hardware: {
      modules: modules(2, 16, '2400 MT/s'),
      disks: [
        {
          bay: '1',
          bytes: 250 * GB,
          class: 'consumer flash',
          model: 'Pebble 250',
          purpose: 'boot',
          array: null,
        },
        {
          bay: '2',
          bytes: 1 * TB,
          class: 'consumer flash',
          model: 'Pebble 1000',
          purpose: 'guests',
          array: null,
        },
      ],
      ports: ports('board', 1e9, '16:0a', 'annex switch', ['p1'], ['p1']),
    },
    poolOn: { bay: '2' },
  },
  kestrel: {
    fields: {
      machineModel: 'Invented Rock 1',
      serial: 'R1-22',
      weightKg: 26,
      powerSupplies: 2,
      bays: 8,
      memorySlots: 12,
      bootMode: 'UEFI',
      secureBoot: 'off',
      controllerMode: 'pass-through',
      baseMhz: 3100,
      flags: flagsUpTo(4, 'svm'),
      virtualisation: 'on',
      videoConnector: 'DisplayPort',
      certificateUntil: '2026-12-09',
      certificateSha256: '7f1c0a3be95d44c2860b7ea1d3590f28b6c4127e8dd0935fa14be20c76a3e092',
    },
    hardware: {
      modules: modules(6, 32, '3200 MT/s'),
      nodes: [0, 1].map((node) => ({ node, cores: 12, memoryMiB: 96 * 1024 - 2048 })),
      arrays: [mirror, { name: 'office', level: '10', purpose: 'guests' }],
      disks: [
        ...disks(1, 2, 480 * GB, 'enterprise flash', 'boot', 'Flint 480', 'K4'),
        ...disks(3, 4, 3_000_592_982_016, 'enterprise disk', 'office', 'Slate 3T', 'K3'),
      ],
      ports: ports('Invented net card', 1e10, '17:0a', 'office switch', ['p1', 'p3']),
    },
    poolOn: { array: 'office' },
  },
};

/** Settings that every host has alike. */
export const ALIKE: Values = {
  domain: 'nordholm.example',
  timeZone: 'UTC',
  keyboard: 'US, 105 keys',
  owner: 'keeper of the station',
};

/** Hosts whose last verification passed, and on which day before now. */
export const VERIFIED: Record<string, number> = {
  gannet: 1.5,
  fulmar: 1.5,
  eider: 1.4,
  kestrel: 1.2,
  razorbill: 1.1,
};

/** guest, kind, pool, keeper, hours between two, hours to restore, hours since the last success, days since a restore test */
export type DemoBackup = [
  string,
  'backup' | 'replica',
  string | null,
  string | null,
  number,
  number | null,
  number,
  number | null,
];
export const BACKUPS: DemoBackup[] = [
  ['camera-store', 'backup', 'eider-data', 'backup', 24, 20, 9, 40],
  ['model-run', 'backup', 'eider-data', 'backup', 24, 5, 9, null],
  ['chart-render', 'backup', 'eider-data', 'backup', 24, 2, 9, 40],
  ['names-1', 'backup', 'eider-data', 'backup', 24, 1, 10, 40],
  ['tide-ingest', 'backup', 'eider-data', 'backup', 6, 2, 3, 12],
  ['tide-db', 'replica', 'gannet-data', null, 0.25, null, 0.2, null],
  ['tide-db', 'backup', 'eider-data', 'backup', 6, 6, 3, 12],
  ['directory', 'replica', 'gannet-data', null, 1, null, 0.5, null],
  ['weather-mirror', 'backup', 'eider-data', 'backup', 24, 4, 52, null],
  ['archive', 'backup', 'eider-data', 'backup', 24, 15, 9, 90],
  ['tide-api', 'replica', 'quay', null, 1, null, 0.4, null],
  ['watch-post', 'backup', 'eider-data', 'backup', 24, 1, 9, 60],
  ['watch-post', 'replica', 'quay', null, 1, null, 0.3, null],
  ['light-ctl', 'replica', 'eider-data', null, 1, null, 0.6, null],
  ['weather-sta', 'backup', 'eider-data', 'backup', 24, 2, 8, 30],
  ['radar-db', 'backup', 'eider-data', 'backup', 24, 7, 8, 30],
  ['lamp-log', 'backup', 'eider-data', 'backup', 24, 1, 8, 30],
  ['office-files', 'backup', null, null, 24, 12, 11, 20],
  ['ledger', 'backup', null, null, 24, 3, 11, 20],
];
