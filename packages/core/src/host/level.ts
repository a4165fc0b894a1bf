/**
 * x86-64 microarchitecture levels: System V ABI, processor supplement for x86-64 (psABI 1.0), section 3.1.1. A level is
 * reached when all flags of it and of the levels below are there; a gap stops the count. Linux spells SSE3 `pni` and LZCNT
 * `abm`; OSFXSR and OSXSAVE have no flag of their own (`xsave` stands for the latter).
 */
import type { Fleet, Row } from '../record/index.js';

export type PsabiLevel = 1 | 2 | 3 | 4;
export const LEVELS: readonly PsabiLevel[] = [1, 2, 3, 4];

/** What each level adds, in the spelling of /proc/cpuinfo. */
export const LEVEL_FLAGS: Readonly<Record<PsabiLevel, readonly string[]>> = {
  1: ['lm', 'cmov', 'cx8', 'fpu', 'fxsr', 'mmx', 'syscall', 'sse', 'sse2'],
  2: ['cx16', 'lahf_lm', 'popcnt', 'pni', 'sse4_1', 'sse4_2', 'ssse3'],
  3: ['avx', 'avx2', 'bmi1', 'bmi2', 'f16c', 'fma', 'abm', 'movbe', 'xsave'],
  4: ['avx512f', 'avx512bw', 'avx512cd', 'avx512dq', 'avx512vl'],
};

export const flagSet = (flags: string): ReadonlySet<string> =>
  new Set(flags.split(/\s+/).filter(Boolean));

/** Flags that are missing for a level, those of the levels below included. */
export function missingFor(level: PsabiLevel, flags: ReadonlySet<string>): string[] {
  return LEVELS.filter((found) => found <= level).flatMap((found) =>
    LEVEL_FLAGS[found].filter((flag) => !flags.has(flag)),
  );
}

/**
 * Highest level whose flags are all there; 0 for a processor below the baseline.
 * @example levelOfFlags(flagSet('lm cmov cx8 fpu fxsr mmx syscall sse sse2')) // 1
 */
export function levelOfFlags(flags: ReadonlySet<string>): PsabiLevel | 0 {
  let reached: PsabiLevel | 0 = 0;
  for (const level of LEVELS) {
    if (!LEVEL_FLAGS[level].every((flag) => flags.has(flag))) break;
    reached = level;
  }
  return reached;
}

export interface HostLevel {
  /** Null: not known, or not an x86-64 machine. Never taken as 0. */
  level: PsabiLevel | 0 | null;
  from: 'flags' | 'stated' | 'unknown' | 'not x86-64';
  /** Flags missing for the next level, where flags are known. */
  missing: string[];
}

/** A host's level: from its flags, or as stated from a data sheet. */
export function hostLevel(
  host: Pick<Row<'host'>, 'architecture' | 'flags' | 'statedLevel'>,
): HostLevel {
  if (host.architecture !== 'x86-64') return { level: null, from: 'not x86-64', missing: [] };
  const flags = flagSet(host.flags);
  if (flags.size > 0) {
    const level = levelOfFlags(flags);
    return {
      level,
      from: 'flags',
      missing: level === 4 ? [] : missingFor((level + 1) as PsabiLevel, flags),
    };
  }
  return host.statedLevel === null
    ? { level: null, from: 'unknown', missing: [] }
    : { level: host.statedLevel as PsabiLevel, from: 'stated', missing: [] };
}

export interface CommonLevel {
  /** Null where there is no host, or one of them is unknown. */
  level: PsabiLevel | 0 | null;
  /** Names of the hosts that hold it down. */
  limitedBy: string[];
  unknown: string[];
}

/** Highest level that all hosts have: what a guest may see if it is to move between them. */
export function commonLevel(fleet: Fleet, hosts: Iterable<string>): CommonLevel {
  const found = [...hosts].map((id) => ({
    host: fleet.need('host', id),
    level: hostLevel(fleet.need('host', id)).level,
  }));
  const unknown = found.filter(({ level }) => level === null).map(({ host }) => host.name);
  const known = found.flatMap(({ level }) => (level === null ? [] : [level]));
  if (known.length === 0) return { level: null, limitedBy: [], unknown };
  const level = Math.min(...known) as PsabiLevel | 0;
  return {
    level: unknown.length ? null : level,
    limitedBy: found.filter((one) => one.level === level).map(({ host }) => host.name),
    unknown,
  };
}
