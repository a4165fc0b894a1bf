/** What the disks of a move off a computer, or onto one, speak for or against. @see 8-moving, blockers */
import { poolFigures, reaches } from '../host/index.js';
import { fewNames, formatBinary, formatBoth } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { ADVISED_EXTRA_BYTES } from './storage-checks.js';
import { type Check } from './check.js';
import { isImaged, type MoveMethod } from './method.js';

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

/** Volumes that are to be made on a host. */
export interface VolumesThere {
  target: Row<'host'>;
  disks: readonly DiskToVolume[];
  method: MoveMethod;
  /** They are planned, and count already. */
  planned: boolean;
}

export function volumesThere(
  fleet: Fleet,
  { target, disks, method, planned }: VolumesThere,
): Check[] {
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
export function diskChecks(
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
