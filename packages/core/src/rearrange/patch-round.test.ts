/** A round of work at hosts, on the small world: sums by hand, the order, and that a rolling round stands on what it left. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import type { Patch } from '../record/index.js';
import {
  leftBy,
  patchRound,
  rearrangedWith,
  rearrangeProblem,
  roundOrder,
  roundStop,
  solveRearrangement,
  stopAsk,
  type RoundAsk,
  type RoundStop,
} from './index.js';

let world: World;
beforeEach(() => {
  world = smallWorld();
  world.host('skua', 16);
  const hostIds = ['gannet', 'tern', 'skua'].map((name) => world.id('host', name));
  world.make({ type: 'pool.record', input: { name: 'quay', usableBytes: 1e13, hostIds } });
});

function run(
  name: string,
  host: string,
  gib: number,
  state: 'in service' | 'stopped' = 'in service',
) {
  world.make({
    type: 'guest.record',
    input: {
      ...{ name, hostId: world.id('host', host), state, family: 'Linux', vcpu: 1 },
      memoryMiB: gib * 1024,
      volumes: [{ poolId: world.id('pool', 'quay'), bytes: 10 * 1024 ** 3 }],
      adapters: [{ networkId: world.id('network', 'shore'), address: { as: 'none' } }],
    },
  });
}

function round(more: Partial<RoundAsk> = {}) {
  const ask: RoundAsk = {
    groupId: world.fleet.need('host', world.id('host', 'gannet')).groupId,
    hostIds: ['gannet', 'tern', 'skua'].map((name) => world.id('host', name)),
    ...{ returns: true, workMinutes: 30, linkBitsPerSecond: 1e9 },
    ...more,
  };
  const stops: RoundStop[] = [];
  const left: Patch[] = [];
  for (const id of roundOrder(world.fleet, ask.hostIds)) {
    const one = stopAsk(ask, id);
    const ground = world.fleet.overlay(left);
    const { problem, unmovable } = rearrangeProblem(ground, one);
    const found = rearrangedWith(
      ...([ground, one, problem, solveRearrangement(problem), unmovable, world.now] as const),
    );
    stops.push(roundStop(ground, id, found.answer));
    left.push(...leftBy(ask, found.answer, found.patches));
  }
  return patchRound(ask, stops);
}

describe('a round in which guests return', () => {
  it('begins with the host that carries least, and counts both ways and the work', () => {
    run('tide', 'gannet', 4);
    run('ebb', 'tern', 2);
    const found = round();
    expect(found.stops.map(({ host, moves }) => [host, moves.length])).toEqual([
      ['skua', 0],
      ['tern', 1],
      ['gannet', 1],
    ]);
    const oneWay = found.stops.reduce((sum, { bytes }) => sum + bytes, 0);
    const seconds = found.stops.reduce((sum, stop) => sum + stop.seconds!, 0);
    expect(found.bytes).toBe(2 * oneWay);
    expect(found.seconds).toBe(2 * seconds + 3 * 30 * 60);
    expect(found.headline).toMatch(/^3 hosts can be worked at in turn: 4 moves, .* travel, about /);
  });
  it('says which host cannot, with what it lacks, and gives no time for the whole', () => {
    for (const host of ['gannet', 'tern', 'skua']) run(`on-${host}`, host, 8);
    run('more', 'gannet', 5);
    const found = round();
    expect(found.headline).toMatch(/^0 of 3 hosts can be worked at in turn; not /);
    expect(found.seconds).toBeNull();
    expect(found.stops.every(({ stuck }) => stuck.length > 0)).toBe(true);
  });
  it('names who is down while it moves', () => {
    run('tide', 'gannet', 4);
    run('still', 'gannet', 1, 'stopped');
    world.make({
      type: 'platform.edit',
      input: {
        id: world.fleet.need('host', world.id('host', 'gannet')).platformId,
        runningMigration: false,
      },
    });
    const stop = round().stops.find(({ host }) => host === 'gannet')!;
    expect(stop.moves.map(({ name }) => name).sort()).toEqual(['still', 'tide']);
    expect(stop.shutDown).toEqual(['tide']);
  });
});

describe('a round in which guests stay where they went', () => {
  it('is asked of what the stop before left', () => {
    run('tide', 'gannet', 4);
    run('ebb', 'tern', 2);
    const [empty, tern, gannet] = round({ returns: false }).stops;
    expect(empty!.moves).toEqual([]);
    expect(tern!.moves.map(({ name }) => name)).toEqual(['ebb']);
    // Where ebb went it moves again, if that host's turn comes later.
    const { to } = tern!.moves[0]!;
    expect(gannet!.moves.map(({ name }) => name).sort()).toEqual(
      to === 'gannet' ? ['ebb', 'tide'] : ['tide'],
    );
  });
  it('changes nothing of the record itself', () => {
    run('tide', 'gannet', 4);
    const { revision } = world.fleet;
    round({ returns: false });
    expect(world.fleet.revision).toBe(revision);
    expect(world.fleet.need('guest', world.id('guest', 'tide')).hostId).toBe(
      world.id('host', 'gannet'),
    );
  });
});
