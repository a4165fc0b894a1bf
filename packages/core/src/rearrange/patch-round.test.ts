/** A round of work at hosts, on the small world: sums by hand, the order, and that a rolling round stands on what it left. */
import { beforeEach, describe, expect, it } from 'vitest';
import { smallWorld, type World } from '../change/testing.js';
import { formatDuration } from '../quantity/index.js';
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
    ...{ returns: true, workMinutes: 30, linkBitsPerSecond: 1e9, platformId: null },
    ...more,
  };
  const stops: RoundStop[] = [];
  const left: Patch[] = [];
  for (const id of roundOrder(world.fleet, ask.hostIds)) {
    const one = stopAsk(ask, id);
    const ground = world.fleet.overlay(left);
    const { problem, unmovable } = rearrangeProblem(ground, one);
    const found = rearrangedWith(
      ...([ground, one, problem, solveRearrangement(problem), unmovable] as const),
    );
    stops.push(roundStop(ground, ask, id, found.answer));
    left.push(...leftBy(ground, ask, id, found.answer, found.patches));
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

describe('a round that brings a new release', () => {
  const newer = () => {
    world.make({
      type: 'platform.record',
      input: { name: 'Generic bare-metal 1.1', bareMetal: true },
    });
    return world.id('platform', 'Generic bare-metal 1.1');
  };
  it('says how many hosts have it at each stop, and how long both are there', () => {
    run('tide', 'gannet', 4);
    run('ebb', 'tern', 2);
    const found = round({ platformId: newer() });
    expect(found.stops.map(({ renewed }) => renewed)).toEqual([
      { hosts: 0, of: 3 },
      { hosts: 1, of: 3 },
      { hosts: 2, of: 3 },
    ]);
    // skua is empty: mixed from its end; tern there and back, gannet there, and two times half an hour.
    const [, tern, gannet] = found.stops.map(({ seconds }) => seconds!);
    expect(found.headline).toContain(
      ` Releases are mixed for about ${formatDuration(2 * tern! + gannet! + 3600)}.`,
    );
  });
  it('nobody goes back to the old one', () => {
    run('tide', 'gannet', 4);
    run('ebb', 'tern', 2);
    const platformId = newer();
    // skua has it already: what comes there from tern goes on to tern alone, which has it by then.
    const stops = round({ platformId, returns: false }).stops;
    const has = new Set<string>();
    for (const { host, moves } of stops) {
      for (const { from, to } of moves) if (has.has(from)) expect(has.has(to)).toBe(true);
      has.add(host);
    }
    world.make({ type: 'host.edit', input: { id: world.id('host', 'tern'), platformId } });
    const bound = rearrangeProblem(world.fleet, {
      ...stopAsk({ ...ASK, platformId }, world.id('host', 'gannet')),
    }).problem;
    // ebb stands on tern, which has the new release: it stays there.
    expect([
      ...bound.question.candidates[bound.guestIds.indexOf(world.id('guest', 'ebb'))]!,
    ]).toEqual([bound.hostIds.indexOf(world.id('host', 'tern'))]);
  });
  it('where not all of a group take it, they stay mixed', () => {
    run('tide', 'gannet', 4);
    const found = round({ platformId: newer(), hostIds: [world.id('host', 'tern')] });
    expect(found.headline).toMatch(/Releases stay mixed afterwards/);
  });
});

const ASK = {
  ...{ groupId: null, hostIds: [], returns: true, workMinutes: 30, linkBitsPerSecond: 1e9 },
};
