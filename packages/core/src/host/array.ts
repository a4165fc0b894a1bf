/**
 * Disk arrays. Levels and their small-write cost: Patterson, Gibson, Katz, SIGMOD 1988; Chen et al., ACM Computing Surveys
 * 26(2), 1994; layouts of 10, 50 and 60 as in SNIA DDF. Members of unequal size count as the smallest one (the classic
 * rule; some software arrays use more). Sizes are whole bytes, before any file system and without the array's own metadata.
 */
import { counted } from '../quantity/index.js';
import type { Bytes, Seconds } from '../quantity/index.js';
import type { ARRAY_LEVELS, DISK_CLASSES } from '../record/index.js';

export type ArrayLevel = (typeof ARRAY_LEVELS)[number];
export type DiskClass = (typeof DISK_CLASSES)[number];

/** Why an array cannot be built like that, or undefined if it can. */
export function arrayFault(
  level: ArrayLevel,
  members: readonly Bytes[],
  groups = 1,
): string | undefined {
  const n = members.length;
  if (members.some((bytes) => bytes <= 0)) return 'A member has no capacity.';
  const least: Record<ArrayLevel, number> = {
    '0': 1,
    '1': 2,
    '10': 4,
    '5': 3,
    '6': 4,
    '50': 6,
    '60': 8,
  };
  if (n < least[level])
    return `Level ${level} takes at least ${least[level]} ${least[level] === 1 ? 'disk' : 'disks'}, not ${n}.`;
  if (level === '10' && n % 2)
    return `Level 10 is made of pairs: ${counted(n, 'disk')} leave one over.`;
  if (level !== '50' && level !== '60') return undefined;
  if (groups < 2) return `Level ${level} is made of at least 2 parity groups.`;
  if (n % groups) return `${n} disks do not divide into ${groups} groups of equal size.`;
  const inGroup = level === '50' ? 3 : 4;
  return n / groups < inGroup
    ? `Each group of level ${level} takes at least ${inGroup} disks, not ${n / groups}.`
    : undefined;
}

/** Disks' worth of data. */
function dataDisks(level: ArrayLevel, n: number, groups: number): number {
  const count: Record<ArrayLevel, number> = {
    '0': n,
    '1': 1,
    '10': n / 2,
    '5': n - 1,
    '6': n - 2,
    '50': n - groups,
    '60': n - 2 * groups,
  };
  return count[level];
}

/**
 * Usable bytes of an array, after redundancy and before any file system.
 *
 * @param members whole bytes of each member disk, spares not included
 * @throws RangeError if the level cannot be built from these members
 * @example usableBytes('5', [2e12, 2e12, 2e12, 2e12]) // 6e12
 */
export function usableBytes(level: ArrayLevel, members: readonly Bytes[], groups = 1): Bytes {
  const fault = arrayFault(level, members, groups);
  if (fault) throw new RangeError(fault);
  return dataDisks(level, members.length, groups) * Math.min(...members);
}

/** Bytes that unequal members leave unused. */
export const wastedBytes = (members: readonly Bytes[]): Bytes =>
  members.reduce((sum, bytes) => sum + bytes, 0) - members.length * Math.min(...members);

/** Failed disks an array lives through: surely, and with luck. */
export function survives(
  level: ArrayLevel,
  n: number,
  groups = 1,
): { worst: number; best: number } {
  const table: Record<ArrayLevel, { worst: number; best: number }> = {
    '0': { worst: 0, best: 0 },
    '1': { worst: n - 1, best: n - 1 },
    '10': { worst: 1, best: n / 2 },
    '5': { worst: 1, best: 1 },
    '6': { worst: 2, best: 2 },
    '50': { worst: 1, best: groups },
    '60': { worst: 2, best: 2 * groups },
  };
  return table[level];
}

/** Disk operations that one small random write takes. */
export function writePenalty(level: ArrayLevel, n: number): number {
  const table: Record<ArrayLevel, number> = {
    '0': 1,
    '1': n,
    '10': 2,
    '5': 4,
    '6': 6,
    '50': 4,
    '60': 6,
  };
  return table[level];
}

/**
 * Small random operations per second of the whole array: n·i / (r + w·q). Full-stripe writes and write-back caches change it.
 *
 * @param readShare 0 … 1
 * @example effectiveIops('5', 8, 150, 0.7) // 631.58
 */
export function effectiveIops(
  level: ArrayLevel,
  n: number,
  diskIops: number,
  readShare: number,
): number {
  return (n * diskIops) / (readShare + (1 - readShare) * writePenalty(level, n));
}

/** Typical small random operations per second of one disk, and its rebuild rate in bytes per second: common practice, no source. */
export const DISK_HABITS: Readonly<
  Record<
    DiskClass,
    { iops: number; bytesPerSecond: number; errorsPerBit: readonly [number, number] }
  >
> = {
  'consumer disk': { iops: 80, bytesPerSecond: 100e6, errorsPerBit: [1e-15, 1e-14] },
  'enterprise disk': { iops: 150, bytesPerSecond: 150e6, errorsPerBit: [1e-16, 1e-15] },
  'consumer flash': { iops: 10_000, bytesPerSecond: 400e6, errorsPerBit: [1e-17, 1e-15] },
  'enterprise flash': { iops: 20_000, bytesPerSecond: 400e6, errorsPerBit: [1e-17, 1e-16] },
};

/**
 * Time to fill a replaced disk: its bytes over the rate, of which normal load leaves a share.
 * @example rebuildSeconds(4e12, 150e6, 0.5) // 53333.3
 */
export const rebuildSeconds = (diskBytes: Bytes, bytesPerSecond: number, share = 1): Seconds =>
  diskBytes / (bytesPerSecond * share);

/** Bits that must be read without error to rebuild one lost disk; 0 where a further error is still corrected. */
export function rebuildBits(level: ArrayLevel, members: readonly Bytes[], groups = 1): number {
  const smallest = Math.min(...members);
  const read: Record<ArrayLevel, number> = {
    '0': 0,
    // With a third way, a copy remains that corrects the error.
    '1': members.length > 2 ? 0 : 1,
    '10': 1,
    '5': members.length - 1,
    '6': 0,
    '50': members.length / groups - 1,
    '60': 0,
  };
  return 8 * smallest * read[level];
}

/**
 * Chance of at least one unreadable sector among so many bits: 1 − (1 − p)^b, computed as −expm1(b·log1p(−p)), since the
 * naive form is wrong by 11 % at p = 1e-16 in doubles. Errors are neither independent nor uniform (Bairavasundaram et al.,
 * SIGMETRICS 2007): an estimate from the maker's upper bound.
 *
 * @example unreadableOdds(4.8e13, 1e-14) // 0.38121661
 */
export const unreadableOdds = (bits: number, errorsPerBit: number): number =>
  -Math.expm1(bits * Math.log1p(-errorsPerBit));
