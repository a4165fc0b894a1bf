/** What a computer itself, its work and its state speak for or against, before it moves into a guest. @see 8-moving, blockers */
import { counted } from '../quantity/index.js';
import { type Fleet, type Row, daysSince, hoursSince, isOlder } from '../record/index.js';
import { BACKUP_HOURS, RESTORE_DAYS } from './guest-checks.js';
import type { Check } from './check.js';
import type { MoveMethod } from './method.js';
import { portSpeed } from './route.js';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** Days since a restart that somebody saw go well. Common practice, no source. */
const RESTART_DAYS = 7;
const LONG_UP_DAYS = 180;

export function encryptionCheck({ name }: Row<'device'>, computer: Row<'computer'> | null): Check {
  const { encryption = 'unknown', recoveryKeyKept = '' } = computer ?? {};
  const chip = encryption === 'bound to its security chip';
  const kept = recoveryKeyKept.trim() !== '';
  return {
    name: 'encryption',
    passed:
      encryption === 'unknown' ? null : encryption === 'none' || kept ? true : chip ? false : null,
    sentence:
      encryption === 'unknown'
        ? `Whether the disks of ${name} are encrypted is not recorded.`
        : encryption === 'none'
          ? 'Its disks are not encrypted.'
          : `Its disks are encrypted, the key ${chip ? 'bound to its security chip' : 'asked for at the start'}; the recovery key is kept: ${kept ? recoveryKeyKept : 'not recorded where'}.`,
    remedy: 'Find out first where the recovery key is kept; encrypted disks travel whole.',
  };
}

const NEVER_IMAGED = new Set<Row<'computer'>['work']>([
  'directory',
  'certificate authority',
  'replicated database',
  'member of a cluster',
]);

export function workChecks(
  fleet: Fleet,
  device: Row<'device'>,
  computer: Row<'computer'> | null,
  method: MoveMethod,
): Check[] {
  const { work = 'unknown', attached = [], licenceTied = 'unknown' } = computer ?? {};
  const services = fleet
    .referring('provider', 'deviceId', device.id)
    .map(({ serviceId }) => fleet.need('service', serviceId));
  const replicates = NEVER_IMAGED.has(work) || services.some(({ what }) => what === 'directory');
  const waiting = services.reduce(
    (sum, { id }) => sum + fleet.referringCount('dependency', 'serviceId', id),
    0,
  );
  return [
    {
      name: 'never imaged',
      passed:
        method === 'files only' ? true : replicates ? false : work === 'unknown' ? null : true,
      sentence: replicates
        ? `${device.name} is a ${work === 'ordinary' || work === 'unknown' ? 'directory' : work}: copied it comes back in time and contradicts the others.`
        : work === 'unknown'
          ? `What ${device.name} does is not recorded: directories, certificate authorities, replicated databases and members of clusters are never imaged.`
          : `Its work: ${work}.`,
      remedy: 'Build a new one there, let it replicate, hand over, retire this one.',
    },
    {
      name: 'attached',
      passed: attached.length > 0 ? false : null,
      sentence:
        attached.length > 0
          ? `On ${device.name} hangs what a guest does not have: ${attached.join(', ')}.`
          : `Nothing is recorded to hang on ${device.name}: dongles, tape, fax and serial lines do not move with it.`,
      remedy: 'Find another home for it, or reach it over the network.',
    },
    {
      name: 'licence',
      advice: true,
      passed: licenceTied === 'unknown' ? null : licenceTied === 'no',
      sentence:
        licenceTied === 'yes'
          ? 'A licence in it is tied to the hardware.'
          : licenceTied === 'no'
            ? 'No licence is tied to the hardware.'
            : 'Whether a licence is tied to the hardware is not recorded.',
      remedy: 'Ask for a new one before the window; activation is asked for after the move.',
    },
    ...(services.length > 0
      ? [
          {
            name: 'who waits for it',
            advice: true,
            passed: waiting === 0,
            sentence: `It provides ${services.map(({ name }) => name).join(', ')}; ${counted(waiting, 'machine')} ${waiting === 1 ? 'waits' : 'wait'} for it.`,
            remedy: 'Tell them, and choose a window.',
          },
        ]
      : []),
  ];
}

/** Sound to the degree that a physical source asks for: restarted in another window, backed up, restored on trial. */
export function healthChecks(
  fleet: Fleet,
  { name }: Row<'device'>,
  computer: Row<'computer'> | null,
  now: string | undefined,
): Check[] {
  if (now === undefined) return [];
  const {
    restartedAt: restart = null,
    backupAt: backup = null,
    restoreProvenAt: restore = null,
  } = computer ?? {};
  const within = (time: string | null, most: number) =>
    time === null ? null : !isOlder(fleet, time, most, now);
  const days = (time: string) => counted(daysSince(fleet, time, now), 'day');
  return [
    {
      name: 'restarted',
      passed: within(restart, RESTART_DAYS * DAY),
      sentence:
        restart === null
          ? `When ${name} was last seen to restart well is not recorded.`
          : `${name} was restarted ${days(restart)} ago${isOlder(fleet, restart, LONG_UP_DAYS * DAY, now) ? ': expect disks, supplies or services not to come back' : ''}.`,
      remedy: `Restart it in another window, at most ${RESTART_DAYS} days before.`,
    },
    {
      name: 'backup',
      passed: within(backup, BACKUP_HOURS * HOUR),
      sentence:
        backup === null
          ? `No backup of ${name} is recorded.`
          : `Its newest backup is ${counted(hoursSince(fleet, backup, now), 'hour')} old.`,
      remedy: `Run one: it should be at most ${BACKUP_HOURS} hours old.`,
    },
    {
      name: 'restore proven',
      passed: within(restore, RESTORE_DAYS * DAY),
      sentence:
        restore === null
          ? `That a restore of ${name} was proven is not recorded.`
          : `A restore of it was proven ${days(restore)} ago.`,
      remedy: 'Restore it once, on no network, and look at it.',
    },
  ];
}

export function speedCheck(fleet: Fleet, device: Row<'device'>): Check {
  const speed = portSpeed(fleet, {
    sourceHostId: null,
    targetHostId: null,
    sourceDeviceId: device.id,
  });
  const half = fleet
    .referring('devicePort', 'deviceId', device.id)
    .find(({ up, duplex }) => up && duplex === 'half');
  return {
    name: 'port speed',
    advice: true,
    passed: half ? false : speed === null ? null : speed >= 1e9,
    sentence: half
      ? `${half.name} of ${device.name} runs half duplex.`
      : speed === null
        ? `At what speed the port of ${device.name} has negotiated is not recorded: an old cable or switch turns hours into days.`
        : `Its fastest port runs at ${speed / 1e6} Mbit/s.`,
    remedy: 'Read the speed off both ends; change the cable, or the switch port.',
  };
}
