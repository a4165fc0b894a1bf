/** What must be true before a computer moves into a guest, or a guest onto a computer. @see 8-moving, blockers */
import { headroom } from '../host/headroom.js';
import { offersRoom } from '../host/load.js';
import { carriesNetwork, poolFigures, reaches } from '../host/pool.js';
import { memoryDemand } from '../guest/demand.js';
import { counted, fewNames, formatBinary, formatBoth, formatMemory } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import {
  attachedChecks,
  copyChecks,
  serviceChecks,
  BACKUP_HOURS,
  RESTORE_DAYS,
} from './care-checks.js';
import { ADVISED_EXTRA_BYTES, type Check } from './checks.js';
import { isImaged, type MoveMethod } from './method.js';
import { portSpeed, wayBetween } from './route.js';
import { computerOf, type MoveSides } from './sides.js';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** Days since a restart that somebody saw go well. Common practice, no source. */
const RESTART_DAYS = 7;
const LONG_UP_DAYS = 180;
/** Beyond so many sectors a partition table of legacy boot does not reach: 32 bits of LBA. */
const LEGACY_SECTORS = 2 ** 32;
const SECTOR = 512;

/** A computer's disk and the volume it becomes. */
export interface DiskToVolume {
  disk: Row<'computerDisk'>;
  pool: Row<'pool'>;
  bytes: number;
  /** Takes its room at once. */
  thick: boolean;
}

export interface FromPhysical {
  device: Row<'device'>;
  target: Row<'host'>;
  disks: readonly DiskToVolume[];
  vcpu: number;
  memoryMiB: number;
  method: MoveMethod;
  /** The guest and its volumes are planned, and count already. */
  planned: boolean;
  /** Left out: the age of what was done is not looked at. */
  now?: string;
}

export function fromPhysicalChecks(fleet: Fleet, input: FromPhysical): Check[] {
  const { device, target, method } = input;
  const computer = computerOf(fleet, device.id);
  return [
    known(device, computer),
    {
      name: 'target in service',
      passed: offersRoom(target),
      sentence: `${target.name} is ${target.state}.`,
      remedy: 'Choose a target in service.',
      field: 'targetHostId',
    },
    architectureCheck(device, computer, target),
    ...roomThere(fleet, input),
    ...volumesThere(fleet, input),
    ...diskChecks(
      device,
      input.disks.map(({ disk }) => disk),
      computer,
      method,
    ),
    ...platformThere(fleet, device, computer, target),
    ...networksThere(fleet, device, target),
    encryptionCheck(device, computer),
    ...workChecks(fleet, device, computer, method),
    ...healthChecks(device, computer, input.now),
    speedCheck(fleet, device),
    wayCheck(fleet, { sourceHostId: null, sourceDeviceId: device.id, targetHostId: target.id }),
  ];
}

const known = (device: Row<'device'>, computer: Row<'computer'> | null): Check => ({
  name: 'hardware sheet',
  passed: computer ? true : null,
  sentence: computer
    ? `Hardware and system of ${device.name} are recorded.`
    : `Nothing is recorded of the hardware of ${device.name}.`,
  remedy: 'Paste its facts.',
});

function architectureCheck(
  { name }: Row<'device'>,
  computer: Row<'computer'> | null,
  target: Row<'host'>,
): Check {
  const own = computer?.architecture ?? null;
  const passed = own === null ? null : own === target.architecture;
  return {
    name: 'architecture',
    passed,
    never: passed === false,
    sentence: own
      ? `${name} is ${own}, ${target.name} is ${target.architecture}.`
      : `The architecture of ${name} is not recorded.`,
    remedy: 'A system of another architecture is built anew.',
    field: 'targetHostId',
  };
}

function roomThere(fleet: Fleet, { target, vcpu, memoryMiB, planned }: FromPhysical): Check[] {
  const room = headroom(fleet, target.id);
  const needed = planned ? 0 : memoryDemand(fleet, target.id, vcpu, memoryMiB);
  const cores = planned ? 0 : vcpu;
  return [
    {
      name: 'memory',
      passed: room.memory.value >= needed,
      sentence: planned
        ? `${target.name} has ${formatMemory(room.memory.value, 'down')} left beside it.`
        : `${target.name} has ${formatMemory(room.memory.value, 'down')} left; ${formatMemory(needed, 'up')} are needed with overhead.`,
      remedy: 'Choose a target with more memory left, or give the guest less.',
      figure: room.memory,
      field: 'targetHostId',
    },
    {
      name: 'processors',
      passed: room.vcpu.value >= cores,
      sentence: planned
        ? `${target.name} has ${room.vcpu.value} vCPU left by policy beside it.`
        : `${target.name} has ${room.vcpu.value} vCPU left by policy; ${vcpu} are needed.`,
      remedy: 'Choose a target with more processors left.',
      figure: room.vcpu,
      field: 'targetHostId',
    },
  ];
}

function volumesThere(fleet: Fleet, { target, disks, method, planned }: FromPhysical): Check[] {
  const pools = new Map(disks.map(({ pool }) => [pool.id, pool]));
  const imaged = isImaged(method);
  const small = imaged ? disks.find(({ disk, bytes }) => bytes < disk.bytes) : undefined;
  const tight = disks.find(({ disk, bytes }) => bytes < disk.bytes + ADVISED_EXTRA_BYTES);
  return [
    {
      name: 'disk size',
      passed: !small,
      never: Boolean(small),
      sentence: small
        ? `${small.disk.bay} has ${formatBoth(small.disk.bytes)} (${small.disk.bytes} bytes), its volume would have ${small.bytes}: a block image does not fit.`
        : imaged
          ? 'Each volume is at least as large as its disk.'
          : 'Files are copied: what is written has to fit.',
      remedy:
        'Give the volume the full size of the disk and 1 GiB, shrink before imaging, or copy files.',
      field: 'disks',
    },
    ...(imaged && !small
      ? [
          {
            name: 'size advised',
            advice: true,
            passed: !tight,
            sentence: '1 GiB more than the full size is advised (common practice, no source).',
            remedy: 'Make the volume 1 GiB larger than the disk.',
            field: 'disks',
          },
        ]
      : []),
    ...[...pools.values()].flatMap((pool): Check[] => {
      const here = disks.filter((one) => one.pool.id === pool.id);
      const sum = (some: readonly DiskToVolume[]) =>
        some.reduce((all, { bytes }) => all + bytes, 0);
      const [needed, thick] = planned ? [0, 0] : [sum(here), sum(here.filter((one) => one.thick))];
      const { left, free } = poolFigures(fleet, pool.id);
      const reached = reaches(fleet, target.id, pool.id);
      return [
        {
          name: 'pool reach',
          passed: reached,
          sentence: `${target.name} ${reached ? 'reaches' : 'does not reach'} pool ${pool.name}.`,
          remedy: 'Choose a pool that the target reaches.',
          field: 'disks',
        },
        {
          name: 'pool room',
          passed: left.value >= needed && free.value >= thick,
          sentence: planned
            ? `Pool ${pool.name} has ${formatBinary(left.value, 'down')} left to promise beside it.`
            : `Pool ${pool.name} has ${formatBinary(left.value, 'down')} left to promise and ${formatBinary(free.value, 'down')} really free; ${formatBinary(needed, 'up')} are needed${thick ? `, ${formatBinary(thick, 'up')} of them at once` : ''}.`,
          remedy:
            'Choose a pool with more room: the full size must fit, even of a mostly empty disk.',
          figure: left,
          field: 'disks',
        },
      ];
    }),
  ];
}

/** What the disks of a computer themselves speak for or against. */
function diskChecks(
  { name }: Row<'device'>,
  disks: readonly Row<'computerDisk'>[],
  computer: Row<'computer'> | null,
  method: MoveMethod,
): Check[] {
  const imaged = isImaged(method);
  const all = <T>(of: (disk: Row<'computerDisk'>) => T) => disks.map(of);
  const bays = (some: readonly Row<'computerDisk'>[]) => fewNames(some.map(({ bay }) => bay));
  const failing = disks.filter(({ health }) => health === 'read errors');
  const members = disks.filter(({ layout }) => layout === 'member of a software array');
  const odd = disks.filter(({ sectorBytes }) => sectorBytes !== null && sectorBytes !== SECTOR);
  const beyond = disks.filter(({ boot, bytes }) => boot && bytes > LEGACY_SECTORS * SECTOR);
  const long = computer?.bootMode === 'legacy' ? beyond : [];
  const unless = (fault: boolean, unknown: boolean) => (fault ? false : unknown ? null : true);
  return [
    {
      name: 'read errors',
      passed: unless(failing.length > 0, all(({ health }) => health).includes('unknown')),
      sentence: failing.length
        ? `${bays(failing)} of ${name} has read errors.`
        : `Whether its disks read without errors: ${all(({ health }) => health).includes('unknown') ? 'nobody has looked' : 'they do'}.`,
      remedy: 'Look at their own error counts; make a rescue copy of one that fails.',
    },
    ...(imaged
      ? [
          {
            name: 'sectors',
            passed: unless(odd.length > 0, all(({ sectorBytes }) => sectorBytes).includes(null)),
            never: odd.length > 0,
            sentence: odd.length
              ? `${bays(odd)} has logical sectors of ${odd[0]!.sectorBytes} bytes, a guest's disk has ${SECTOR}: a block image neither starts nor mounts.`
              : all(({ sectorBytes }) => sectorBytes).includes(null)
                ? 'The size of its logical sectors is not recorded.'
                : `Logical sectors have ${SECTOR} bytes on both sides.`,
            remedy: 'Copy volumes or files instead of blocks.',
            field: 'method',
          },
          {
            name: 'software array',
            passed: unless(members.length > 0, all(({ layout }) => layout).includes('unknown')),
            sentence: members.length
              ? `${bays(members)} is a member of an array that the system of ${name} makes itself: by itself it holds nothing that can be read.`
              : all(({ layout }) => layout).includes('unknown')
                ? 'Whether its disks form a software array is not recorded.'
                : 'Each disk stands by itself.',
            remedy: 'Image the array from inside the system, or copy files.',
            field: 'method',
          },
          {
            name: 'legacy boot disk',
            passed: unless(
              long.length > 0,
              beyond.length > 0 && (computer?.bootMode ?? 'unknown') === 'unknown',
            ),
            never: long.length > 0,
            sentence: long.length
              ? `${bays(long)} has more than 2^32 sectors and starts by legacy boot: it will not start as one disk.`
              : 'A disk that starts by legacy boot has at most 2^32 sectors.',
            remedy: 'Move the system onto a smaller disk first, or change to UEFI.',
            field: 'disks',
          },
        ]
      : []),
  ];
}

function platformThere(
  fleet: Fleet,
  { name }: Row<'device'>,
  computer: Row<'computer'> | null,
  target: Row<'host'>,
): Check[] {
  const there = fleet.need('platform', target.platformId);
  const mode = computer?.bootMode ?? 'unknown';
  const offered = mode === 'UEFI' ? there.uefiGuests : there.legacyGuests;
  const passed = mode === 'unknown' ? null : offered;
  return [
    {
      name: 'firmware',
      passed,
      never: passed === false,
      sentence:
        mode === 'unknown'
          ? `Whether ${name} starts by UEFI or legacy boot is not recorded.`
          : `${name} starts by ${mode}; ${there.name} ${offered ? 'does that as well' : 'does not'}.`,
      remedy: 'Look into its settings; a disk of the other mode is not found at the first start.',
      field: 'targetHostId',
    },
    {
      name: 'first driver',
      advice: true,
      passed: computer?.family ? computer.family === 'Linux' || computer.family === 'BSD' : null,
      sentence: computer?.family
        ? computer.family === 'Linux' || computer.family === 'BSD'
          ? `Drivers of ${there.diskBuses[0] ?? 'the offered controllers'} come with the kernel of most ${computer.family} systems.`
          : `A ${computer.family} system starts from a controller that it has a driver for: ${there.diskBuses.includes('SATA') ? 'begin with SATA and an emulated adapter' : 'put the driver in before the copy'}.`
        : `Which family the system of ${name} is of is not recorded.`,
      remedy: 'Put the drivers in before the copy, the one of its network first.',
    },
  ];
}

function networksThere(fleet: Fleet, device: Row<'device'>, target: Row<'host'>): Check[] {
  const ports = fleet.referring('devicePort', 'deviceId', device.id);
  const wanted = [...new Set(ports.flatMap(({ networkId }) => networkId ?? []))];
  if (wanted.length === 0)
    return [
      {
        name: 'network present',
        passed: null,
        sentence: `In which networks ${device.name} is is not recorded.`,
        remedy: 'Record its ports.',
      },
    ];
  return wanted.map((networkId) => {
    const network = fleet.need('network', networkId).name;
    const passed = carriesNetwork(fleet, target.id, networkId);
    return {
      name: 'network present',
      passed,
      sentence: `${target.name} ${passed ? `carries ${network}: it keeps its address there` : `does not carry ${network}`}.`,
      remedy: `Record ${network} on ${target.name} first.`,
      field: 'targetHostId',
    };
  });
}

function encryptionCheck({ name }: Row<'device'>, computer: Row<'computer'> | null): Check {
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

function workChecks(
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
function healthChecks(
  { name }: Row<'device'>,
  computer: Row<'computer'> | null,
  now: string | undefined,
): Check[] {
  if (now === undefined) return [];
  const age = (time: string | null | undefined) =>
    time ? Date.parse(now) - Date.parse(time) : null;
  const [restart, backup, restore] = [
    age(computer?.restartedAt),
    age(computer?.backupAt),
    age(computer?.restoreProvenAt),
  ];
  const within = (found: number | null, most: number) => (found === null ? null : found <= most);
  const days = (found: number) => counted(Math.floor(found / DAY), 'day');
  return [
    {
      name: 'restarted',
      passed: within(restart, RESTART_DAYS * DAY),
      sentence:
        restart === null
          ? `When ${name} was last seen to restart well is not recorded.`
          : `${name} was restarted ${days(restart)} ago${restart > LONG_UP_DAYS * DAY ? ': expect disks, supplies or services not to come back' : ''}.`,
      remedy: `Restart it in another window, at most ${RESTART_DAYS} days before.`,
    },
    {
      name: 'backup',
      passed: within(backup, BACKUP_HOURS * HOUR),
      sentence:
        backup === null
          ? `No backup of ${name} is recorded.`
          : `Its newest backup is ${counted(Math.floor(backup / HOUR), 'hour')} old.`,
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

function speedCheck(fleet: Fleet, device: Row<'device'>): Check {
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

function wayCheck(fleet: Fleet, sides: MoveSides): Check {
  const way = wayBetween(fleet, sides);
  return {
    name: 'way',
    passed: way ? true : null,
    sentence: way
      ? `Both have an address in ${way.name}, MTU ${way.mtu}.`
      : 'The record knows no network that both have an address in.',
    remedy: 'Record the addresses that the copy goes by.',
    advice: true,
  };
}

export interface ToPhysical {
  guest: Row<'guest'>;
  device: Row<'device'>;
  disks: readonly { volume: Row<'volume'>; disk: Row<'computerDisk'> }[];
  method: MoveMethod;
  now?: string;
}

export function toPhysicalChecks(fleet: Fleet, input: ToPhysical): Check[] {
  const { guest, device, disks, method, now } = input;
  const computer = computerOf(fleet, device.id);
  const imaged = isImaged(method);
  return [
    known(device, computer),
    {
      name: 'state of the guest',
      passed: guest.state === 'stopped' || guest.state === 'in service',
      sentence:
        guest.state === 'in service'
          ? `${guest.name} is in service: start it once and log in, then shut it down before the copy.`
          : `${guest.name} is ${guest.state}.`,
      remedy: 'A guest that was never built is edited, not migrated.',
      field: 'guestId',
    },
    {
      name: 'memory',
      passed: computer?.memoryMiB ? computer.memoryMiB >= guest.memoryMiB : null,
      sentence: computer?.memoryMiB
        ? `${device.name} has ${formatMemory(computer.memoryMiB)}, ${guest.name} ${formatMemory(guest.memoryMiB)}.`
        : `How much memory ${device.name} has is not recorded.`,
      remedy: 'Put memory in, or see that less is enough.',
      field: 'deviceId',
    },
    ...disks.map(({ volume, disk }): Check => {
      const fits = disk.bytes >= volume.bytes;
      return {
        name: 'disk size',
        passed: imaged ? fits : disk.bytes >= (volume.usedBytes ?? volume.bytes),
        never: imaged && !fits,
        sentence: `${volume.label} has ${formatBoth(volume.bytes)} (${volume.bytes} bytes), ${disk.bay} has ${formatBoth(disk.bytes)} (${disk.bytes} bytes).`,
        remedy: 'Shrink before imaging, take a larger disk, or copy files.',
        field: 'disks',
      };
    }),
    ...diskChecks(
      device,
      disks.map(({ disk }) => disk),
      computer,
      method,
    ).filter(({ name }) => name !== 'software array'),
    ...firmwareThere(guest, device, computer),
    ...portsThere(fleet, guest, device),
    ...copyChecks(fleet, { guest, running: false, now }, true),
    ...attachedChecks(fleet, { guest, now }),
    ...serviceChecks(fleet, { guest, running: false }, true),
    wayCheck(fleet, { sourceHostId: guest.hostId, targetHostId: null, targetDeviceId: device.id }),
  ];
}

function firmwareThere(
  guest: Row<'guest'>,
  { name }: Row<'device'>,
  computer: Row<'computer'> | null,
): Check[] {
  const { bootMode = 'unknown', controllerMode = 'unknown', driversAtHand = [] } = computer ?? {};
  const unclear = guest.firmware === 'unknown' || bootMode === 'unknown';
  return [
    {
      name: 'firmware',
      passed: unclear ? null : bootMode === guest.firmware,
      sentence: `${guest.name} starts by ${guest.firmware}, ${name} is set to ${bootMode}.`,
      remedy: 'Set the machine as the guest is; a disk of the other mode is not found.',
      field: 'deviceId',
    },
    {
      name: 'controller',
      advice: true,
      passed:
        controllerMode === 'unknown'
          ? null
          : controllerMode === 'AHCI' || controllerMode === 'NVMe',
      sentence: `The disk controller of ${name} runs as ${controllerMode}.`,
      remedy:
        'A stop error at the first start points to the controller: set it to what the system has a driver for.',
    },
    {
      name: 'drivers at hand',
      passed: driversAtHand.length === 0 ? null : driversAtHand.includes('network'),
      sentence: driversAtHand.length
        ? `Drivers at hand for ${name}: ${driversAtHand.join(', ')}.`
        : `Which drivers are at hand for ${name} is not recorded.`,
      remedy:
        'Put them into the guest before the image is taken, network first, or it arrives without one.',
    },
  ];
}

function portsThere(fleet: Fleet, guest: Row<'guest'>, device: Row<'device'>): Check[] {
  const networksOf = (rows: readonly { networkId: string | null }[]) =>
    new Set(rows.flatMap(({ networkId }) => networkId ?? []));
  const there = networksOf(fleet.referring('devicePort', 'deviceId', device.id));
  return [...networksOf(fleet.referring('adapter', 'guestId', guest.id))].map((networkId) => {
    const passed = there.has(networkId);
    const network = fleet.need('network', networkId).name;
    return {
      name: 'network present',
      passed,
      sentence: passed
        ? `A port of ${device.name} is in ${network}: it keeps its address there.`
        : `No port of ${device.name} is in ${network}.`,
      remedy: `Record the port of ${device.name} that goes there.`,
      field: 'deviceId',
    };
  });
}
