import { execFileSync, spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { smallWorld } from '../change/testing.js';
import { identityScript, quoted } from './identity-script.js';

describe('the script of a clone', () => {
  const world = smallWorld();
  world.make(world.found('master', 'gannet', 512, '192.0.2.10', 'stopped'));
  world.make({
    type: 'clone.make',
    input: {
      originId: world.id('guest', 'master'),
      copy: 'full',
      pattern: 'Reader-{a..b}',
      start: 1,
      taking: 'run',
      clones: [{}, {}],
    },
  });
  const [first, second] = ['Reader-a', 'Reader-b'].map((name) =>
    identityScript(world.fleet, world.id('guest', name)),
  ) as [string, string];

  it('is one that the shell can read', () => {
    // Outside check: sh -n reads a script without running it.
    const read = spawnSync('sh', ['-n'], { input: first, encoding: 'utf8' });
    expect([read.status, read.stderr]).toEqual([0, '']);
  });
  it('says the name, the origin and the values of the record, and holds those of no sibling', () => {
    expect(first).toContain('# Makes this copy of master a machine of its own: reader-a.');
    expect(first).toContain("hostname 'reader-a'");
    expect(first).toMatch(/adapter 1, MAC 02(:[0-9a-f]{2}){5}: 192\.0\.2\.\d+/);
    expect(first).not.toContain('reader-b');
    const differing = first.split('\n').filter((line, i) => line !== second.split('\n')[i]);
    expect(differing).toHaveLength(5);
  });
  it('quotes so that the shell hands on what was meant', () => {
    for (const text of ["a'b", '$(id)', 'two words', '`x`'])
      expect(execFileSync('sh', ['-c', `printf %s ${quoted(text)}`], { encoding: 'utf8' })).toBe(
        text,
      );
  });
});
