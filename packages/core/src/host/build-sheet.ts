/**
 * The sheet for building a host: kit to bring, firmware settings, every value to type, cautions where they occur, tests
 * with boxes, room for what was different. Decided beforehand, read off at the console.
 */
import { prefixOf } from '../address/index.js';
import { formatBinary, formatBoth, formatDecimal, GB } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import {
  fullName,
  HOST_TESTS,
  managementPlace,
  managementPorts,
  outOfBandAddress,
} from './management.js';

export interface SheetLine {
  text: string;
  /** Printed in letters that cannot be confused. Null: not decided yet, to be filled in by hand. */
  value?: string | null;
  caution?: string;
  /** Field of the host that decides it, where one does. */
  field?: DecidedBy;
}

/** What is decided of a host at its build sheet. */
export type DecidedBy =
  'machineModel' | 'controllerMode' | 'timeZone' | 'keyboard' | 'licenceKeyKept' | 'consolePort';

export interface SheetSection {
  title: string;
  lines: SheetLine[];
}

export interface BuildSheet {
  host: string;
  platform: string;
  sections: SheetSection[];
  /** Values that the record does not hold yet. */
  undecided: string[];
  /** The tests of its last section, by the names under which their results are recorded. */
  tests: { test: string; text: string }[];
}

/** Sold sizes of sticks, in GB. */
const STICKS = [8, 16, 32, 64, 128];

/** Labels on rack equipment: two people from 18 kg, three from 32, a lift from 55. Common practice, no source; local rules come first. */
const PEOPLE: [number, string][] = [
  [55, 'a lift'],
  [32, 'three people, or a lift'],
  [18, 'a second person'],
];

export function buildSheet(fleet: Fleet, hostId: string): BuildSheet {
  const host = fleet.need('host', hostId);
  const platform = fleet.need('platform', host.platformId);
  const medium = [...fleet.all('medium')]
    .filter((found) => found.platformId === platform.id)
    .sort((a, b) => a.name.localeCompare(b.name))
    .at(-1);
  const tests = testsOf(fleet, host);
  const sections = [
    { title: 'Bring', lines: kit(host, medium) },
    { title: 'Prepare the stick', lines: stick(medium) },
    { title: 'Put the machine up', lines: machine(fleet, host) },
    { title: 'Set the firmware', lines: firmware(host, platform) },
    { title: 'Type at the installer', lines: installer(fleet, host, platform) },
    { title: 'How long it takes', lines: [{ text: duration(fleet, platform) }] },
    { title: 'Test', lines: tests.map(({ text }) => ({ text })) },
  ];
  const undecided = sections.flatMap(({ lines }) =>
    lines.filter((line) => line.value === null).map((line) => line.text.split(':')[0]!),
  );
  return { host: fullName(host), platform: platform.name, sections, undecided, tests };
}

function kit(host: Row<'host'>, medium: Row<'medium'> | undefined): SheetLine[] {
  const size = STICKS.find((gb) => gb * GB >= (medium?.bytes ?? 8 * GB));
  const people = PEOPLE.find(([kg]) => (host.weightKg ?? 0) >= kg)?.[1];
  const video = host.videoConnector;
  return [
    {
      text: `USB stick of at least ${size ?? 128} GB`,
      caution: 'Everything on it will be erased: bring an empty one.',
    },
    ...(video === 'none'
      ? [
          {
            text: 'Nothing for a screen: the machine has no video connector; use the out-of-band console',
          },
        ]
      : [
          {
            text: `Monitor and cable for ${video === 'unknown' ? 'the video connector (not recorded: look first)' : video}`,
          },
        ]),
    { text: 'Keyboard with a cable' },
    {
      text: 'Network cable',
      caution:
        'Plug it in before the installer starts: without a link it offers a made-up address and does not say so.',
    },
    { text: 'Drivers for controller and network ports that the platform lacks, on a second stick' },
    ...(host.rackId
      ? [
          {
            text: `Rails for ${host.rackHeight} U, screws, screwdriver`,
            caution: 'Rails first, then the machine; heavy units low.',
          },
        ]
      : []),
    ...(people
      ? [
          {
            text: `For the weight of ${host.weightKg} kg: ${people}`,
            caution:
              'Common practice from labels on rack equipment; local safety rules come first.',
          },
        ]
      : host.weightKg === null && host.rackId
        ? [
            {
              text: 'A second person: the weight is not recorded, and rack servers weigh 15 to 40 kg',
            },
          ]
        : []),
    {
      text: 'Static discharge strap',
      caution: 'Unplug every power supply and wait before opening the case.',
    },
  ];
}

function stick(medium: Row<'medium'> | undefined): SheetLine[] {
  return [
    { text: 'Install image', value: medium?.name ?? null },
    {
      text: 'Its size',
      value: medium
        ? `${medium.bytes} bytes, ${formatDecimal(medium.bytes)} = ${formatBinary(medium.bytes)}`
        : null,
    },
    { text: 'Its SHA-256: compare all of it before writing', value: medium?.sha256 || null },
    { text: 'It is kept', value: medium?.kept || null },
    {
      text: 'Write the image to the stick',
      caution:
        'Choosing the wrong disk in the writing tool erases that one: read model and size aloud before you answer.',
    },
  ];
}

function machine(fleet: Fleet, host: Row<'host'>): SheetLine[] {
  const rack = fleet.get('rack', host.rackId);
  const units =
    host.rackUnit === null
      ? null
      : host.rackHeight === 1
        ? `unit ${host.rackUnit}`
        : `units ${host.rackUnit} to ${host.rackUnit + host.rackHeight - 1}`;
  const ports = fleet
    .referring('port', 'hostId', host.id)
    .filter((port) => port.pluggedInto)
    .sort((a, b) => a.name.localeCompare(b.name));
  return [
    {
      text: 'Machine',
      field: 'machineModel',
      value:
        [host.machineModel, host.serial && `serial ${host.serial}`].filter(Boolean).join(', ') ||
        null,
    },
    ...(rack ? [{ text: 'Place', value: `${rack.name}, ${units ?? 'unit not decided'}` }] : []),
    {
      text: `Power: ${host.powerSupplies} ${host.powerSupplies === 1 ? 'supply' : 'supplies, each on a feed of its own'}`,
      value: host.drawWatts ? `${host.drawWatts} W` : undefined,
      caution: host.drawWatts
        ? 'A planned figure: an electrician decides what the circuit carries.'
        : undefined,
    },
    ...ports.map((port) => ({
      text: `Cable of port ${port.name} goes to`,
      value: port.pluggedInto,
      caution:
        port.connector.startsWith('SFP') || port.connector === 'QSFP'
          ? 'Do not look into an open fibre port.'
          : undefined,
    })),
    ...(outOfBandAddress(fleet, host.id)
      ? [{ text: 'Out-of-band controller', value: outOfBandAddress(fleet, host.id)!.ip }]
      : []),
  ];
}

function firmware(host: Row<'host'>, platform: Row<'platform'>): SheetLine[] {
  const secure =
    platform.secureBoot === 'either'
      ? host.secureBoot === 'unknown'
        ? 'on'
        : host.secureBoot
      : platform.secureBoot === 'must be on'
        ? 'on'
        : 'off';
  return [
    { text: 'Boot mode', value: host.bootMode === 'unknown' ? 'UEFI' : host.bootMode },
    { text: 'Secure boot', value: secure },
    ...(platform.needsVirtualisation ? [{ text: 'Virtualisation extension', value: 'on' }] : []),
    {
      text: 'Disk controller mode',
      value: host.controllerMode === 'unknown' ? null : host.controllerMode,
      caution: 'Altering it later makes an installed system unbootable.',
      field: 'controllerMode',
    },
    { text: 'Boot order: the stick first; put it in before power-on' },
  ];
}

function installer(fleet: Fleet, host: Row<'host'>, platform: Row<'platform'>): SheetLine[] {
  const place = managementPlace(fleet, host.id);
  const ports = managementPorts(fleet, host.id);
  const length = place?.prefix ? prefixOf(place.prefix).length : null;
  return [
    ...targetDisk(fleet, host),
    { text: 'Full host name', value: fullName(host) },
    {
      text: 'Management port',
      value: ports.length
        ? ports.map((port) => [port.name, port.mac].filter(Boolean).join(' ')).join(' and ')
        : null,
    },
    {
      text: 'Address and prefix length',
      value: place ? `${place.ip}${length === null ? '' : `/${length}`}` : null,
    },
    { text: 'Gateway', value: place?.gateway ?? null },
    {
      text: 'Name servers',
      value: place?.nameServers.length ? place.nameServers.join(', ') : null,
    },
    { text: 'VLAN', value: place?.vlanId ? String(place.vlanId) : place ? 'none' : null },
    { text: 'Time zone', value: host.timeZone || null, field: 'timeZone' },
    { text: 'Keyboard', value: host.keyboard || null, field: 'keyboard' },
    {
      text: 'Administrator’s password',
      value: undefined,
      caution: 'Not on this sheet. Take a new one, and note in the record only where it is kept.',
    },
    ...(host.licence
      ? [
          {
            text: `Licence ${host.licence}: the key is kept`,
            value: host.licenceKeyKept || null,
            field: 'licenceKeyKept' as const,
          },
        ]
      : []),
    {
      text: 'Afterwards: take the stick out before the restart',
      caution: 'Otherwise the installer starts again.',
    },
    {
      text: 'Console answers on port',
      value: String(host.consolePort ?? platform.consolePort ?? '') || null,
      field: 'consolePort',
      caution:
        'Compare the whole certificate fingerprint before the first password is typed. Never let it be reached from the internet.',
    },
  ];
}

/** The disk that will be erased, by model, serial and size. */
function targetDisk(fleet: Fleet, host: Row<'host'>): SheetLine[] {
  const disks = fleet
    .referring('disk', 'hostId', host.id)
    .sort((a, b) => a.bay.localeCompare(b.bay, undefined, { numeric: true }));
  const array = fleet
    .referring('array', 'hostId', host.id)
    .find((found) => found.purpose === 'boot' || found.purpose === 'boot and guests');
  const targets = array
    ? disks.filter((disk) => disk.arrayId === array.id)
    : disks.filter((disk) => disk.purpose === 'boot' || disk.purpose === 'boot and guests');
  if (targets.length === 0)
    return [
      {
        text: 'Target disk',
        value: null,
        caution: 'It will be erased: decide it before, by model, serial and size.',
      },
    ];
  return targets.map((disk) => ({
    text: array
      ? `Target: array ${array.name}, level ${array.level}, bay ${disk.bay}`
      : `Target disk, bay ${disk.bay}`,
    value: [
      disk.model || 'model not recorded',
      disk.serial ? `serial ${disk.serial}` : 'serial not recorded',
      formatBoth(disk.bytes),
    ].join(', '),
    caution: 'Everything on it will be erased. Compare model, serial and size aloud, then tick.',
  }));
}

function duration(fleet: Fleet, platform: Row<'platform'>): string {
  const own = [...fleet.all('hostBuild')]
    .filter((build) => fleet.need('host', build.hostId).platformId === platform.id)
    .map((build) => (Date.parse(build.endedAt) - Date.parse(build.startedAt)) / 60_000)
    .sort((a, b) => a - b);
  if (own.length === 0)
    return 'The installation itself: 20 to 30 minutes (common practice, no source; no build of this platform is recorded yet).';
  const middle =
    own.length % 2
      ? own[(own.length - 1) / 2]!
      : (own[own.length / 2 - 1]! + own[own.length / 2]!) / 2;
  return `${Math.round(middle)} minutes in the middle of ${own.length} recorded ${own.length === 1 ? 'build' : 'builds'} of this platform (${Math.round(own[0]!)} to ${Math.round(own.at(-1)!)}).`;
}

function testsOf(fleet: Fleet, host: Row<'host'>): BuildSheet['tests'] {
  const place = managementPlace(fleet, host.id);
  const port = host.consolePort ?? fleet.need('platform', host.platformId).consolePort;
  const detail: Record<(typeof HOST_TESTS)[number], string> = {
    'gateway answers': `The gateway ${place?.gateway ?? '(not decided)'} answers`,
    'name server answers': `The name server ${place?.nameServers.join(' and ') || '(not decided)'} answers`,
    'own name, forward': `${fullName(host)} resolves to ${place?.ip ?? '(not decided)'}`,
    'own name, reverse': `${place?.ip ?? '(not decided)'} resolves to ${fullName(host)}`,
    'console port answers': `The console answers on port ${port ?? '(not decided)'}`,
    'outside is reached': 'An address outside is reached, and updates can be read',
  };
  return HOST_TESTS.map((test) => ({ test, text: detail[test] }));
}
