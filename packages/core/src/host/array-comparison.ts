/** The same disks in every level they can form, side by side, each value with its workings. */
import {
  own,
  practice,
  standard,
  type Figure,
  type Source,
  type WorkingLine,
  type Sure,
} from '../figure/index.js';
import type { Bytes } from '../quantity/index.js';
import { ARRAY_LEVELS } from '../record/index.js';
import {
  arrayFault,
  DISK_HABITS,
  effectiveIops,
  rebuildBits,
  rebuildSeconds,
  survives,
  unreadableOdds,
  usableBytes,
  wastedBytes,
  writePenalty,
  type ArrayLevel,
  type DiskClass,
} from './array.js';

export interface ArrayOption {
  level: ArrayLevel;
  groups: number;
  spares: number;
  usable: Sure;
  wasted: Bytes;
  survives: { worst: number; best: number };
  writePenalty: number;
  iops: Sure;
  /** Seconds until one replaced disk is full again, without and with normal load. */
  rebuildIdle: Sure;
  rebuildLoaded: Sure;
  /** Chance of an unreadable sector while rebuilding, in per cent, from the better to the worse bound of the disk class. */
  unreadable: { low: Sure; high: Sure };
}

export interface ArrayWish {
  disks: readonly Bytes[];
  diskClass: DiskClass;
  spares: number;
  /** Share of reads, 0 … 1. */
  readShare: number;
  /** Share of a disk's rate that normal load leaves to a rebuild, 0 … 1. */
  rebuildShare: number;
}

const LAYOUT = standard(
  'Levels: Patterson, Gibson, Katz, SIGMOD 1988; Chen et al., ACM Computing Surveys 26(2), 1994; SNIA DDF',
);
const HABIT = practice('Rates, operations and error bounds of a disk class');

/** Every level these disks can form, the spares taken from the largest ones. Levels 50 and 60 with the fewest groups that divide. */
export function compareArrays(wish: ArrayWish): ArrayOption[] {
  const sorted = [...wish.disks].sort((a, b) => a - b);
  const members = sorted.slice(0, sorted.length - wish.spares);
  if (members.length === 0 || wish.spares < 0) return [];
  return ARRAY_LEVELS.flatMap((level) => {
    const groups = level === '50' || level === '60' ? (groupsOf(level, members) ?? 0) : 1;
    return groups === 0 || arrayFault(level, members, groups)
      ? []
      : [optionOf(level, members, groups, wish)];
  });
}

const groupsOf = (level: ArrayLevel, members: readonly Bytes[]): number | undefined =>
  Array.from({ length: 31 }, (_, i) => i + 2).find((groups) => !arrayFault(level, members, groups));

/** An array as it is recorded, with the same values. @throws RangeError if it cannot be built like that */
export function optionOf(
  level: ArrayLevel,
  members: readonly Bytes[],
  groups: number,
  { diskClass, spares, readShare, rebuildShare }: Omit<ArrayWish, 'disks'>,
): ArrayOption {
  const n = members.length;
  const smallest = Math.min(...members);
  const habit = DISK_HABITS[diskClass];
  const usable = usableBytes(level, members, groups);
  const size: WorkingLine = {
    label: 'Smallest member',
    value: smallest,
    unit: 'bytes',
    operator: '·',
  };
  return {
    level,
    groups,
    spares,
    wasted: wastedBytes(members),
    survives: survives(level, n, groups),
    writePenalty: writePenalty(level, n),
    usable: figure(
      'array-usable',
      `Usable, level ${level}`,
      usable,
      'bytes',
      [LAYOUT],
      [
        size,
        { label: 'Disks’ worth of data', value: usable / smallest, unit: 'count', operator: '×' },
      ],
    ),
    iops: figure(
      'array-iops',
      `Small random operations, level ${level}`,
      Math.round(effectiveIops(level, n, habit.iops, readShare)),
      'count',
      [LAYOUT, HABIT],
      [
        { label: 'Member disks', value: n, unit: 'count', operator: '·' },
        { label: 'Operations per second of one', value: habit.iops, unit: 'count', operator: '×' },
        {
          label: `Reads ${Math.round(readShare * 100)} % + writes × ${writePenalty(level, n)}`,
          value: readShare + (1 - readShare) * writePenalty(level, n),
          unit: 'ratio',
          operator: '÷',
        },
      ],
    ),
    rebuildIdle: rebuild(level, smallest, habit.bytesPerSecond, 1),
    rebuildLoaded: rebuild(level, smallest, habit.bytesPerSecond, rebuildShare),
    unreadable: {
      low: odds(level, members, groups, habit.errorsPerBit[0], diskClass),
      high: odds(level, members, groups, habit.errorsPerBit[1], diskClass),
    },
  };
}

function rebuild(level: ArrayLevel, bytes: Bytes, rate: number, share: number): Sure {
  const value = level === '0' ? 0 : rebuildSeconds(bytes, rate, share);
  const note =
    level === '0' ? 'level 0 cannot be rebuilt: its data come from the backup' : undefined;
  return figure(
    'array-rebuild',
    `Rebuild of one disk${share < 1 ? ' under load' : ', idle'}`,
    value,
    'seconds',
    [own('Capacity of the replaced disk over the rate left for it'), HABIT],
    [
      { label: 'Replaced disk', value: bytes, unit: 'bytes', operator: '·', note },
      { label: 'Rate of the disk class', value: rate, unit: 'bytes/s', operator: '÷' },
      ...(share < 1
        ? [
            {
              label: 'Share left by normal load',
              value: share * 100,
              unit: 'percent' as const,
              operator: '÷' as const,
            },
          ]
        : []),
    ],
  );
}

function odds(
  level: ArrayLevel,
  members: readonly Bytes[],
  groups: number,
  errorsPerBit: number,
  diskClass: DiskClass,
): Sure {
  const bits = rebuildBits(level, members, groups);
  const value = unreadableOdds(bits, errorsPerBit) * 100;
  const covered =
    bits === 0 && level !== '0'
      ? 'one error is still corrected with one disk lost'
      : level === '0'
        ? 'there is no rebuild'
        : undefined;
  return figure(
    'array-unreadable',
    'Unreadable sector while rebuilding',
    value,
    'percent',
    [
      standard(
        '1 − (1 − p)^bits; errors are neither independent nor uniform: Bairavasundaram et al., SIGMETRICS 2007',
      ),
      HABIT,
    ],
    [
      { label: 'Bits that must be read', value: bits, unit: 'count', operator: '·', note: covered },
      {
        label: `Bound of a ${diskClass}: one error in so many bits`,
        value: Math.round(1 / errorsPerBit),
        unit: 'count',
        operator: '÷',
      },
    ],
  );
}

function figure(
  name: string,
  title: string,
  value: number,
  unit: Figure['unit'],
  sources: Source[],
  lines: WorkingLine[],
): Sure {
  return {
    name,
    title,
    value,
    unit,
    lines: [...lines, { label: title, value, unit, operator: '=' }],
    sources,
  };
}
