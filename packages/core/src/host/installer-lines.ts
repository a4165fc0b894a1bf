/** What one is asked while installing, with the answers. */
import { prefixOf } from '../address/index.js';
import { formatBoth } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { managementPlace, managementPorts, fullName } from './management.js';
import type { SheetLine } from './sheet-line.js';

export function installer(fleet: Fleet, host: Row<'host'>, platform: Row<'platform'>): SheetLine[] {
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

export function duration(fleet: Fleet, platform: Row<'platform'>): string {
  const own = [...fleet.all('hostBuild')]
    .filter((build) => fleet.need('host', build.hostId).platformId === platform.id)
    .map((build) => (Date.parse(build.endedAt) - Date.parse(build.startedAt)) / 60000)
    .sort((a, b) => a - b);
  if (own.length === 0)
    return 'The installation itself: 20 to 30 minutes (common practice, no source; no build of this platform is recorded yet).';
  const middle =
    own.length % 2
      ? own[(own.length - 1) / 2]!
      : (own[own.length / 2 - 1]! + own[own.length / 2]!) / 2;
  return `${Math.round(middle)} minutes in the middle of ${own.length} recorded ${own.length === 1 ? 'build' : 'builds'} of this platform (${Math.round(own[0]!)} to ${Math.round(own.at(-1)!)}).`;
}
