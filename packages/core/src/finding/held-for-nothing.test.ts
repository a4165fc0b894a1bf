import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { allFindings } from './index.js';

let world: World;
const step = (name: 'start' | 'switch' | 'accept' | 'roll back') =>
  world.make({
    type: 'migration.step',
    input: { id: [...world.fleet.all('migration')].at(-1)!.id, step: name },
    override: 'a test',
  });
const told = (now = world.now) =>
  allFindings(world.fleet, now).filter(({ rule }) => rule === 'held-for-nothing');
const LATER = '2026-11-24T08:00:00.000Z';

describe('room that a move holds', () => {
  beforeEach(() => {
    world = smallWorld();
    world.make(world.found('tide', 'gannet', 4096, '192.0.2.10'));
    world.make({
      type: 'migration.plan',
      input: {
        guestId: world.id('guest', 'tide'),
        targetHostId: world.id('host', 'tern'),
        targetPoolId: world.id('pool', 'tern-data'),
        running: false,
        linkBitsPerSecond: 1e9,
      },
    });
    step('start');
  });
  it('is told when the copy began three days ago and nothing came of it', () => {
    expect(told()).toEqual([]);
    const [finding] = told(LATER);
    expect(finding).toMatchObject({ severity: 'note', about: { kind: 'migration', name: 'tide' } });
    expect(finding!.evidence).toMatch(
      /^The move of tide began 2026-11-20 and has not switched; it holds 2 vCPU, 4\.\d GiB of memory and .* of disk at its target\.$/,
    );
  });
  it('is told when it switched three days ago and nobody accepted it, and goes with acceptance', () => {
    step('switch');
    expect(told()).toEqual([]);
    expect(told(LATER)[0]!.evidence).toContain('tide switched 2026-11-20 and is not accepted');
    step('accept');
    expect(told(LATER)).toEqual([]);
  });
  it('is told when its guest is retired', () => {
    step('switch');
    step('accept');
    world.make({
      type: 'guest.set-state',
      input: { id: world.id('guest', 'tide'), state: 'stopped' },
    });
    world.make({ type: 'guest.retire', input: { id: world.id('guest', 'tide'), clear: [] } });
    expect(told()[0]!.evidence).toMatch(/^tide is retired, and its migration still holds/);
  });
});
