/** Licences by plain arithmetic, against tables made by hand. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { allFindingsAt } from '../finding/index.js';
import type { NewFields } from '../record/index.js';
import { entitlementUse, exceeded } from './entitlement-use.js';

let world: World;
const record = (fields: NewFields<'entitlement'>) => {
  world.make({
    type: 'entitlement.record',
    input: { name: 'support', unit: 'copy', count: 10, family: 'Linux', ...fields } as never,
  });
  return world.id('entitlement', 'support');
};
const used = (fields: NewFields<'entitlement'>) =>
  entitlementUse(world.fleet, record(fields)).value;

// Two hosts of one socket with 8 cores: three guests on gannet, one on tern.
beforeEach(() => {
  world = smallWorld();
  for (const [name, host, ip] of [
    ['a', 'gannet', '192.0.2.20'],
    ['b', 'gannet', '192.0.2.21'],
    ['c', 'gannet', '192.0.2.22'],
    ['d', 'tern', '192.0.2.23'],
  ] as const)
    world.make(world.found(name, host, 256, ip));
});

describe('used is', () => {
  it.each<[string, NewFields<'entitlement'>, number]>([
    ['copies: 3 + 1', { unit: 'copy' }, 4],
    ['hosts: 1 + 1', { unit: 'host' }, 2],
    ['processors: 1 + 1', { unit: 'processor' }, 2],
    ['at least two a host: 2 + 2', { unit: 'processor', leastPerHost: 2 }, 4],
    ['core pairs: 4 + 4', { unit: 'core pair' }, 8],
    [
      '8 pairs at least, for two copies each: 16 + 8',
      { unit: 'core pair', leastPerHost: 8, copiesPerHost: 2 },
      24,
    ],
    ['users, as entered', { unit: 'user', users: 30 }, 30],
    ['nothing, where nothing says what it covers', { unit: 'copy', family: 'any' }, 0],
    ['nothing of another family', { unit: 'copy', family: 'BSD' }, 0],
  ])('%s', (_, fields, wanted) => expect(used(fields)).toBe(wanted));
  it('of those with its label, in whatever case; not of templates and retired ones', () => {
    for (const name of ['a', 'b', 'c'])
      world.make({ type: 'guest.edit', input: { id: world.id('guest', name), labels: ['Tides'] } });
    world.make({ type: 'guest.edit', input: { id: world.id('guest', 'a'), template: true } });
    world.make({
      type: 'guest.set-state',
      input: { id: world.id('guest', 'b'), state: 'retired' },
    });
    expect(used({ family: 'any', label: 'tides' })).toBe(1);
  });
});

describe('a licence is told', () => {
  const told = (id: string) =>
    allFindingsAt(world.fleet, [id], world.now).map(({ rule, severity }) => [rule, severity]);
  it('when more is used than it allows', () => {
    const id = record({ count: 3 });
    expect(told(id)).toEqual([['entitlement-exceeded', 'caution']]);
    expect(exceeded(world.fleet)).toMatchObject([{ used: 4, entitlement: { count: 3 } }]);
    world.make({ type: 'entitlement.edit', input: { id, count: 4 } });
    expect(told(id)).toEqual([]);
  });
  it('before a batch goes beyond it', () => {
    record({ count: 5 });
    const clones = (count: number) =>
      world.try({
        type: 'clone.make',
        input: {
          originId: world.id('guest', 'a'),
          copy: 'full',
          pattern: 'more-{n}',
          start: 1,
          taking: 'none',
          clones: Array.from({ length: count }, () => ({})),
        },
        override: count === 1 ? 'copied while running' : undefined,
      });
    expect(clones(1)).toMatchObject({ overridden: [{ code: 'origin-running' }] });
    world.make({
      type: 'guest.set-state',
      input: { id: world.id('guest', 'a'), state: 'stopped' },
    });
    expect(clones(2)).toMatchObject({
      code: 'licence-exceeded',
      sentence: 'support allows 5, counted by copy; with these clones 6 would be used.',
    });
  });
  it.each([
    ['2026-12-31', []],
    ['2026-12-10', [['entitlement-ends', 'caution']]],
    ['2026-11-01', [['entitlement-ends', 'blocker']]],
  ])('when it ends: %s', (until, wanted) => expect(told(record({ until }))).toEqual(wanted));
});
