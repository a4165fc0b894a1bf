/** What else must be true of a guest before it moves: copies of it, what hangs on it, what its new platform offers. */
import { interfaceName } from '../names/index.js';
import { counted } from '../quantity/index.js';
import { type Fleet, type Row, daysSince, hoursSince, isOlder } from '../record/index.js';
import type { Check, CheckInput } from './check.js';
import { wayBetween } from './route.js';

const HOUR = 3_600_000;
/** Common practice, no source. */
export const BACKUP_HOURS = 24;
export const RESTORE_DAYS = 90;
const SNAPSHOT_HOURS = 72;

export function guestChecks(fleet: Fleet, input: CheckInput): Check[] {
  const { guest, target } = input;
  const source = fleet.need('host', guest.hostId);
  const across = source.platformId !== target.platformId;
  return [
    ...copyChecks(fleet, input, across),
    ...attachedChecks(fleet, input),
    ...(across ? platformChecks(fleet, guest, source, target) : []),
    ...wayChecks(fleet, guest, source, target),
    ...serviceChecks(fleet, input, across),
  ];
}

/** A move while running asks for no backup, one that is stopped for a note, one between platforms for a proven one. */
export function copyChecks(
  fleet: Fleet,
  { guest, running, now }: Pick<CheckInput, 'guest' | 'running' | 'now'>,
  across: boolean,
): Check[] {
  if (now === undefined || (running && !across)) return [];
  const copies = fleet.referring('backup', 'guestId', guest.id);
  const newest = (field: 'lastSuccessAt' | 'lastRestoreTestAt') =>
    copies.map((copy) => copy[field] ?? '').reduce((last, time) => (time > last ? time : last), '');
  const [made, proven] = [newest('lastSuccessAt'), newest('lastRestoreTestAt')];
  return [
    {
      name: 'backup',
      advice: !across,
      passed: made !== '' && !isOlder(fleet, made, BACKUP_HOURS * HOUR, now),
      sentence: made
        ? `The newest backup of ${guest.name} is ${counted(hoursSince(fleet, made, now), 'hour')} old.`
        : `No backup of ${guest.name} has succeeded that the record knows of.`,
      remedy: `Run one: it should be at most ${BACKUP_HOURS} hours old.`,
    },
    ...(across
      ? [
          {
            name: 'restore proven',
            passed: proven !== '' && !isOlder(fleet, proven, RESTORE_DAYS * 24 * HOUR, now),
            sentence: proven
              ? `A restore of it was proven ${counted(daysSince(fleet, proven, now), 'day')} ago.`
              : `No restore of ${guest.name} was ever proven.`,
            remedy: 'Restore it once beside itself, on no network, and look at it.',
          },
        ]
      : []),
  ];
}

export function attachedChecks(
  fleet: Fleet,
  { guest, now }: Pick<CheckInput, 'guest' | 'now'>,
): Check[] {
  const drives = fleet.referring('drive', 'guestId', guest.id);
  const snapshots = fleet.referring('snapshot', 'guestId', guest.id);
  const old = snapshots.filter(
    ({ takenAt }) => now !== undefined && isOlder(fleet, takenAt, SNAPSHOT_HOURS * HOUR, now),
  );
  return [
    {
      name: 'snapshots',
      advice: old.length === 0,
      passed: snapshots.length === 0,
      sentence:
        snapshots.length === 0
          ? `${guest.name} has no snapshot.`
          : `${guest.name} has ${counted(snapshots.length, 'snapshot')}${old.length ? `, ${old.length} older than ${SNAPSHOT_HOURS} hours` : ''}: what a move takes along differs by the tool.`,
      remedy: 'Delete them first.',
    },
    {
      name: 'media',
      advice: true,
      passed: drives.length === 0,
      sentence:
        drives.length === 0
          ? 'No medium is in its drives.'
          : `${drives.map(({ mediumId }) => fleet.need('medium', mediumId).name).join(', ')} ${drives.length === 1 ? 'is' : 'are'} in its drives: it may start from there, or not move at all.`,
      remedy: 'Eject what is not needed.',
    },
  ];
}

function platformChecks(
  fleet: Fleet,
  guest: Row<'guest'>,
  source: Row<'host'>,
  target: Row<'host'>,
): Check[] {
  const there = fleet.need('platform', target.platformId);
  const here = fleet.need('platform', source.platformId);
  const buses = fleet.referring('volume', 'guestId', guest.id).map(({ bus }) => bus);
  const adapters = fleet.referring('adapter', 'guestId', guest.id);
  const offers = (wanted: readonly string[], offered: readonly string[]): boolean | null =>
    wanted.some((one) => one === 'unknown') ? null : wanted.every((one) => offered.includes(one));
  const firmware =
    guest.firmware === 'unknown'
      ? null
      : guest.firmware === 'UEFI'
        ? there.uefiGuests
        : there.legacyGuests;
  const names = adapters.map((_, place) => interfaceName(guest.family, here, place));
  const later = adapters.map((_, place) => interfaceName(guest.family, there, place));
  const same = names.every((name, i) => name !== '' && name === later[i]);
  return [
    {
      name: 'firmware',
      passed: firmware,
      sentence:
        firmware === null
          ? `Whether ${guest.name} starts by UEFI or legacy boot is not recorded.`
          : `${there.name} ${firmware ? 'starts' : 'does not start'} guests by ${guest.firmware === 'UEFI' ? 'UEFI' : 'legacy boot'}.`,
      remedy: 'Look into its settings; a disk of the other mode is not found at the first start.',
      never: firmware === false,
      field: 'targetHostId',
    },
    {
      name: 'controller',
      passed: offers(buses, there.diskBuses),
      sentence: `Its disks hang on ${[...new Set(buses)].join(', ') || 'nothing'}; ${there.name} offers ${there.diskBuses.join(', ')}.`,
      remedy: 'Put the driver of an offered controller into the guest before it moves.',
      advice: true,
    },
    {
      name: 'adapter model',
      passed: offers(
        adapters.map(({ model }) => model),
        there.adapterModels,
      ),
      sentence: `Its adapters are ${[...new Set(adapters.map(({ model }) => model))].join(', ') || 'none'}; ${there.name} offers ${there.adapterModels.join(', ')}.`,
      remedy: 'Put the driver of an offered adapter into the guest before it moves, network first.',
      advice: true,
    },
    {
      name: 'interface names',
      advice: true,
      passed: names.includes('') ? null : same,
      sentence: same
        ? 'Its interfaces keep their names.'
        : names
            .map(
              (name, i) => `${name || `adapter ${i + 1}`} becomes ${later[i] || 'something else'}`,
            )
            .join(', ') + '.',
      remedy:
        'A static configuration names an interface that is gone: the lines to alter stand in the steps.',
    },
  ];
}

function wayChecks(
  fleet: Fleet,
  guest: Row<'guest'>,
  source: Row<'host'>,
  target: Row<'host'>,
): Check[] {
  if (source.id === target.id) return [];
  const way = wayBetween(fleet, { sourceHostId: source.id, targetHostId: target.id });
  return [
    {
      name: 'way',
      passed: way ? true : null,
      sentence: way
        ? `${source.name} and ${target.name} both have an address in ${way.name}, MTU ${way.mtu}.`
        : `The record knows no network that ${source.name} and ${target.name} both have an address in.`,
      remedy: `Record the addresses that they move ${guest.name} by.`,
      advice: true,
    },
  ];
}

/** Work that is never imaged while others replicate with it: copied back in time it contradicts them. */
const NEVER_IMAGED = new Set(['directory']);

export function serviceChecks(
  fleet: Fleet,
  { guest, running }: Pick<CheckInput, 'guest' | 'running'>,
  across: boolean,
): Check[] {
  const services = fleet
    .referring('provider', 'guestId', guest.id)
    .map(({ serviceId }) => fleet.need('service', serviceId));
  const waiting = services.reduce(
    (sum, { id }) => sum + fleet.referringCount('dependency', 'serviceId', id),
    fleet.referringCount('dependency', 'onGuestId', guest.id),
  );
  const directory = services.find(({ what }) => NEVER_IMAGED.has(what));
  return [
    ...(services.length > 0 || waiting > 0
      ? [
          {
            name: 'who waits for it',
            advice: true,
            passed: running ? true : waiting === 0,
            sentence: `It provides ${services.map(({ name }) => name).join(', ') || 'nothing named'}; ${counted(waiting, 'machine')} ${waiting === 1 ? 'waits' : 'wait'} for it.`,
            remedy: running ? undefined : 'Tell them, and choose a window.',
          },
        ]
      : []),
    ...(directory && across
      ? [
          {
            name: 'never imaged',
            passed: false,
            sentence: `${guest.name} provides ${directory.name}: a directory server that is copied comes back in time and contradicts the others.`,
            remedy: 'Build a new one there, let it replicate, hand over, retire this one.',
          },
        ]
      : []),
  ];
}
