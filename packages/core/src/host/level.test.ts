import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { smallWorld } from '../change/testing.js';
import {
  commonLevel,
  flagSet,
  hostLevel,
  LEVEL_FLAGS,
  LEVELS,
  levelOfFlags,
  missingFor,
} from './level.js';

const all = LEVELS.flatMap((level) => [...LEVEL_FLAGS[level]]);
const upTo = (level: number, ...without: string[]) =>
  new Set(
    LEVELS.filter((found) => found <= level)
      .flatMap((found) => LEVEL_FLAGS[found])
      .filter((flag) => !without.includes(flag)),
  );

describe('x86-64 levels, System V ABI processor supplement 1.0, section 3.1.1 (sets compared with a compiler’s -march in the design)', () => {
  test.each([
    ['everything', upTo(4), 4, []],
    ['no AVX-512', upTo(3), 3, [...LEVEL_FLAGS[4]]],
    [
      'avx without avx2',
      new Set([...upTo(2), 'avx', 'xsave']),
      2,
      ['avx2', 'bmi1', 'bmi2', 'f16c', 'fma', 'abm', 'movbe'],
    ],
    ['v3 but no movbe', upTo(3, 'movbe'), 2, ['movbe']],
    ['no avx512cd', upTo(4, 'avx512cd'), 3, ['avx512cd']],
    ['everything but cx16: a gap stops the count', upTo(4, 'cx16'), 1, ['cx16']],
    ['baseline', upTo(1), 1, [...LEVEL_FLAGS[2]]],
    ['below the baseline', upTo(1, 'sse2'), 0, ['sse2']],
  ])('%s', (_, flags, level, missing) => {
    expect(levelOfFlags(flags)).toBe(level);
    if (level < 4)
      expect(missingFor((level + 1) as 1 | 2 | 3 | 4, flags).sort()).toEqual([...missing].sort());
  });

  it('counts 9, 16, 25, 30 flags cumulatively', () =>
    expect(LEVELS.map((level) => upTo(level).size)).toEqual([9, 16, 25, 30]));
  it('compares whole words: avx2 is not avx, and Linux knows neither sse3 nor lzcnt', () => {
    expect(levelOfFlags(flagSet([...upTo(3, 'avx')].join(' ')))).toBe(2);
    expect(all).not.toContain('sse3');
    expect(all).not.toContain('lzcnt');
  });
  it('the level of what two processors share is the lower of their levels', () => {
    const some = fc.subarray(all).map((flags) => new Set(flags));
    fc.assert(
      fc.property(
        some,
        some,
        (a, b) =>
          levelOfFlags(new Set([...a].filter((flag) => b.has(flag)))) ===
          Math.min(levelOfFlags(a), levelOfFlags(b)),
      ),
    );
  });

  const loader = '/lib64/ld-linux-x86-64.so.2';
  it.runIf(existsSync(loader))(
    'this machine: what the C library’s loader says of its own processor',
    () => {
      const said = execFileSync(loader, ['--help'], { encoding: 'utf8' });
      const supported = [...said.matchAll(/x86-64-v([234]) \(supported/g)].map((match) =>
        Number(match[1]),
      );
      const flags = /^flags\s*:\s*(.*)$/m.exec(readFileSync('/proc/cpuinfo', 'utf8'))![1]!;
      expect(levelOfFlags(flagSet(flags))).toBe(Math.max(1, ...supported));
    },
  );
});

describe('a host', () => {
  const host = { architecture: 'x86-64' as const, flags: '', statedLevel: null };
  it('without flags is unknown, never 0', () =>
    expect(hostLevel(host)).toEqual({ level: null, from: 'unknown', missing: [] }));
  it('may state its level from a data sheet until the flags are read', () => {
    expect(hostLevel({ ...host, statedLevel: 3 })).toMatchObject({ level: 3, from: 'stated' });
    expect(hostLevel({ ...host, statedLevel: 3, flags: [...upTo(2)].join(' ') })).toMatchObject({
      level: 2,
      from: 'flags',
    });
  });
  it('of another architecture has no level', () =>
    expect(hostLevel({ ...host, architecture: 'aarch64' }).from).toBe('not x86-64'));
  it('holds a group down, or leaves its level open', () => {
    const world = smallWorld();
    const [one, two] = [world.id('host', 'gannet'), world.id('host', 'tern')];
    world.make({ type: 'host.edit', input: { id: one, statedLevel: 4 } });
    expect(commonLevel(world.fleet, [one, two])).toEqual({
      level: null,
      limitedBy: ['gannet'],
      unknown: ['tern'],
    });
    world.make({ type: 'host.edit', input: { id: two, flags: [...upTo(3)].join(' ') } });
    expect(commonLevel(world.fleet, [one, two])).toEqual({
      level: 3,
      limitedBy: ['tern'],
      unknown: [],
    });
    expect(commonLevel(world.fleet, []).level).toBeNull();
  });
});
