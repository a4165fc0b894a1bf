/**
 * The sheet for building a host: kit to bring, firmware settings, every value to type, cautions where they occur, tests
 * with boxes, room for what was different. Decided beforehand, read off at the console.
 */
import { formatBinary, formatDecimal, GB } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { installer, duration } from './installer-lines.js';
import { fullName, HOST_TESTS, managementPlace, outOfBandAddress } from './management.js';
import type { BuildSheet, SheetLine } from './sheet-line.js';

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
