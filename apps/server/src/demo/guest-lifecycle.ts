/** Roles, groups, devices, media, snapshots, builds and ends of the observatory's guests, with planted mistakes. All invented. */
import { GB, GIB, type Fleet, type NewFields } from '@insel/core';
import type { Wirer } from './cabling.js';
import type { DemoGuest } from './place.js';

/** Role of a guest, where one fits. */
const ROLES: Record<string, string[]> = {
  'camera store': ['camera-store'],
  'name server': ['names-1', 'names-2'],
  directory: ['directory'],
  database: ['tide-db', 'radar-db'],
  'web server': ['tide-api', 'ferry-times'],
  'general server': [
    'tide-ingest',
    'weather-mirror',
    'archive',
    'watch-post',
    'weather-sta',
    'print-room',
  ],
  'text server': ['light-ctl', 'horn-ctl', 'lamp-log'],
  'NT-family server': ['office-files', 'ledger'],
  'backup server': ['backup'],
  desktop: ['visitor-desk-1', 'visitor-desk-2', 'visitor-desk-3', 'visitor-desk-4'],
  router: ['visitor-gate', 'buoy-gw'],
};

const GUEST_GROUPS: { fields: NewFields<'guestGroup'> & { name: string }; guests: string[] }[] = [
  {
    fields: { name: 'name servers', purpose: 'names of all three houses', spread: 'host' },
    guests: ['names-1', 'names-2'],
  },
  {
    fields: {
      name: 'gauge readers',
      purpose: 'each can read for another',
      spread: 'host',
      needed: 1,
    },
    guests: ['gauge-reader-1', 'gauge-reader-2', 'gauge-reader-3'],
  },
  {
    fields: { name: 'visitor desks', purpose: 'any two will do', spread: 'host', needed: 2 },
    guests: ['visitor-desk-1', 'visitor-desk-2', 'visitor-desk-3', 'visitor-desk-4'],
  },
];

const digest = (first: string): string => first.padEnd(64, '4f09c1b7a3e85d26');
const SHELF: (NewFields<'medium'> & { name: string; bytes: number })[] = [
  {
    name: 'linux-server-12.img',
    bytes: 2_147_483_648,
    sha256: digest('1d'),
    family: 'Linux',
    system: 'Linux server',
    release: '12.7',
    releasedOn: '2026-05-16',
    install: 'full',
  },
  {
    name: 'linux-server-11.img',
    bytes: 1_610_612_736,
    sha256: digest('7a'),
    family: 'Linux',
    system: 'Linux server',
    release: '11.9',
    releasedOn: '2023-10-07',
    install: 'full',
  },
  {
    name: 'linux-netboot-12.img',
    bytes: 58_720_256,
    sha256: digest('c3'),
    family: 'Linux',
    system: 'Linux server',
    release: '12.7',
    releasedOn: '2026-05-16',
    install: 'network',
  },
  {
    name: 'bsd-14.img',
    bytes: 1_073_741_824,
    sha256: digest('e8'),
    family: 'BSD',
    system: 'BSD',
    release: '14.2',
    releasedOn: '2026-03-02',
    install: 'full',
  },
  {
    name: 'nt-server.img',
    bytes: 5_153_960_755,
    sha256: digest('55'),
    family: 'NT family',
    system: 'NT-family server',
    release: '2025',
    releasedOn: '2025-02-11',
    install: 'full',
  },
  {
    name: 'nt-server copy.img',
    bytes: 5_153_960_755,
    sha256: digest('55'),
    family: 'NT family',
    system: 'NT-family server',
    release: '2025',
    releasedOn: '2025-02-11',
    install: 'full',
    kept: 'disk of the ledger clerk',
  },
  {
    name: 'router-live.img',
    bytes: 188_743_680,
    sha256: digest('3b'),
    family: 'appliance',
    system: 'Router',
    release: '24.1',
    releasedOn: '2026-01-28',
    install: 'other',
  },
  {
    name: 'nt-drivers.img',
    bytes: 629_145_600,
    sha256: digest('90'),
    family: 'NT family',
    system: 'Paravirtual drivers',
    release: '0.9',
    releasedOn: '2026-01-20',
    install: 'drivers',
  },
];

/** Devices by family, as they were built. */
export function devicesOf(family: DemoGuest[3]): {
  bus: 'paravirtual' | 'SATA';
  model: 'paravirtual' | 'emulated';
} {
  return family === 'NT family'
    ? { bus: 'SATA', model: 'emulated' }
    : { bus: 'paravirtual', model: 'paravirtual' };
}

export async function writeLifecycles({ make, fleet, id }: Wirer, base: number): Promise<void> {
  const ids = (names: string[]) => names.map((name) => id('guest', name));
  const named = <K extends 'profile' | 'guestGroup' | 'medium'>(kind: K, name: string) =>
    found(fleet, kind, name);
  const day = (days: number) => new Date(base + days * 86_400_000).toISOString().slice(0, 10);
  for (const [role, guests] of Object.entries(ROLES))
    await make({
      type: 'guest.edit-many',
      input: { ids: ids(guests), profileId: named('profile', role) },
      reason: 'Roles, so that sizes can be compared',
    });
  for (const { fields, guests } of GUEST_GROUPS) {
    await make({ type: 'guest-group.record', input: { ...fields } });
    await make({
      type: 'guest.edit-many',
      input: { ids: ids(guests), groupId: named('guestGroup', fields.name) },
    });
  }
  await make({
    type: 'guest.edit-many',
    input: {
      ids: ids(['tide-db', 'tide-ingest', 'tide-api', 'gauge-reader-1']),
      owner: 'keeper of the gauges',
      criticality: 'high',
      outageWindow: 'Tue, Thu 02:00-04:00',
    },
  });
  await make({
    type: 'guest.edit-many',
    input: {
      ids: ids(['office-files', 'ledger', 'directory']),
      owner: 'office clerk',
      criticality: 'high',
      outageWindow: 'Sat, Sun 20:00-04:00',
    },
  });
  await make({
    type: 'guest.edit-many',
    input: { ids: ids(['light-ctl', 'horn-ctl']), criticality: 'high' },
    reason: 'The owner was never asked',
  });
  await make({
    type: 'guest.edit',
    input: { id: id('guest', 'visitor-desk-1'), endDate: day(-12), owner: 'visiting researcher' },
  });
  await make({
    type: 'guest.edit',
    input: { id: id('guest', 'visitor-desk-2'), endDate: day(19), owner: 'visiting researcher' },
  });
  await writeShelf({ make, fleet, id });
  await writeSnapshots({ make, fleet, id }, base);
  await writeBuilds({ make, fleet, id }, base);
}

function found(fleet: Fleet, kind: 'profile' | 'guestGroup' | 'medium', name: string): string {
  for (const row of fleet.all(kind)) if (row.name === name) return row.id;
  throw new Error(`the demo has no ${kind} ${name}`);
}

/** Media, and who has one in a drive: one guest would start its installer again. */
async function writeShelf({ make, fleet, id }: Wirer): Promise<void> {
  for (const fields of SHELF)
    await make({
      type: 'medium.record',
      input: { ...fields, ...(fields.kept ? {} : { poolId: id('pool', 'quay') }) },
    });
  const attach = (guest: string, medium: string) =>
    make({
      type: 'drive.record',
      input: {
        guestId: id('guest', guest),
        mediumId: found(fleet, 'medium', medium),
        atPowerOn: true,
      },
    });
  await attach('pen-gate', 'router-live.img');
  await make({ type: 'guest.edit', input: { id: id('guest', 'pen-gate'), bootFirst: 'medium' } });
  await make({ type: 'guest.edit', input: { id: id('guest', 'pen-try'), bootFirst: 'network' } });
  await make({
    type: 'guest.plan',
    input: {
      name: 'map-desk',
      hostId: id('host', 'kestrel'),
      family: 'NT family',
      purpose: 'old charts, scanned',
      vcpu: 2,
      memoryMiB: 6144,
      firmware: 'UEFI',
      bootFirst: 'medium',
      processorMode: 'host',
      graphics: 'basic',
      profileId: found(fleet, 'profile', 'NT-family server'),
      volumes: [
        {
          poolId: id('pool', 'kestrel-data'),
          bytes: 64 * GIB,
          label: 'system',
          thin: true,
          bus: 'paravirtual',
        },
      ],
      adapters: [
        { networkId: id('network', 'office'), model: 'emulated', address: { as: 'next' } },
      ],
      mediumIds: [found(fleet, 'medium', 'nt-server.img')],
    },
    reason: 'For the scanner of the office',
  });
  await attach('storm-page', 'linux-server-11.img');
  await attach('print-room', 'linux-server-12.img');
  await make({
    type: 'guest.edit',
    input: { id: id('guest', 'print-room'), bootFirst: 'medium' },
    reason: 'Reinstalled after the lightning',
  });
  await make({
    type: 'guest.edit',
    input: {
      id: id('guest', 'storm-page'),
      profileId: found(fleet, 'profile', 'web server'),
      firmware: 'UEFI',
      bootFirst: 'medium',
      processorMode: 'v3',
      graphics: 'none',
      owner: 'harbour master',
    },
  });
}

async function writeSnapshots({ make, id }: Wirer, base: number): Promise<void> {
  const ago = (days: number) => new Date(base - days * 86_400_000).toISOString();
  const snapshot = (guest: string, pool: string, fields: NewFields<'snapshot'>) =>
    make({
      type: 'snapshot.record',
      input: { guestId: id('guest', guest), poolId: id('pool', pool), ...fields },
    });
  await snapshot('tide-db', 'quay', {
    name: 'before the new release',
    why: 'update of the data base',
    takenAt: ago(12),
    bytes: 64 * GB,
    growthBytesPerDay: 5 * GB,
  });
  await snapshot('office-files', 'kestrel-data', {
    name: 'before the move of the office',
    why: 'somebody wanted to be sure',
    takenAt: ago(43),
    bytes: 310 * GB,
    growthBytesPerDay: 7 * GB,
    keepUntil: ago(30).slice(0, 10),
  });
}

/** A build that is half done, and one that was carried through. */
async function writeBuilds({ make, id }: Wirer, base: number): Promise<void> {
  const at = (minutes: number) => new Date(base - 86_400_000 + minutes * 60_000).toISOString();
  for (const [i, step] of ['create', 'size', 'volume 1', 'adapter 1'].entries())
    await make({
      type: 'guest.tick',
      input: { guestId: id('guest', 'storm-page'), step, outcome: 'done' },
      happenedAt: at(i * 3),
    });
  for (const [i, step] of [
    'check address',
    'check gateway',
    'check names',
    'check restart',
  ].entries())
    await make({
      type: 'guest.tick',
      input: { guestId: id('guest', 'gauge-reader-1'), step, outcome: 'done' },
      happenedAt: at(-4000 + i * 4),
    });
  await make({
    type: 'guest.tick',
    input: { guestId: id('guest', 'gauge-reader-2'), step: 'check gateway', outcome: 'done' },
    happenedAt: at(-3900),
  });
  await make({
    type: 'guest.tick',
    input: {
      guestId: id('guest', 'gauge-reader-2'),
      step: 'check names',
      outcome: 'failed',
      remark: 'no answer from the second name server',
    },
    happenedAt: at(-3890),
  });
}
