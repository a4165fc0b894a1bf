/** A batch of new guests on the small fleet of the tests; figures reckoned by hand beside each. */
import highs from 'highs';
import { beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { decide } from '../change/decide.js';
import { smallWorld, type World } from '../change/testing.js';
import { load } from '../host/load.js';
import { solverOf, type SolveLinear } from '../packing/index.js';
import { planFleet, type DecideDrawn } from '../plan/plan-fleet.js';
import { isRefusal } from '../record/index.js';
import {
  batchProblem,
  layBatch,
  placedBatch,
  solveBatch,
  type BatchAsk,
  type Lot,
  type PlacedBatch,
} from './index.js';

const loadHighs = highs as unknown as typeof highs.default;
let solve: SolveLinear;
beforeAll(async () => {
  solve = solverOf(await loadHighs());
});

let world: World;
/**
 * Three hosts of 16 GiB (14,336 MiB and 32 vCPU for guests) that share the pool quay; a guest of 4 GiB asks 4,297 MiB, so
 * three fit on one.
 */
beforeEach(() => {
  world = smallWorld();
  world.host('skua', 16);
  world.make({
    type: 'pool.record',
    input: {
      name: 'quay',
      usableBytes: 400e9,
      hostIds: ['gannet', 'tern', 'skua'].map((name) => world.id('host', name)),
    },
  });
});

const lot = (more: Partial<Lot> = {}): Lot => ({
  ...{ pattern: 'net-{n}', count: 4, family: 'Linux', profileId: null, labels: [] },
  guestGroupId: null,
  ...{ vcpu: 2, memoryMiB: 4096, bytes: 10e9, thin: false, poolId: world.id('pool', 'quay') },
  networkIds: [world.id('network', 'shore')],
  ...{ processorMode: 'unknown', apart: 'none' },
  ...more,
});
const ask = (more: Partial<BatchAsk> = {}): BatchAsk => ({
  ...{ groupId: null, lots: [lot()], aim: 'fewest', prices: [] },
  ...{ makesRoom: false, keepTolerance: false, linkBitsPerSecond: 1e9 },
  ...more,
});
function place(asked: BatchAsk): PlacedBatch {
  const laid = layBatch(world.fleet, asked)!;
  const problem = batchProblem(asked, laid);
  const solution = solveBatch(problem, { solve, seconds: 5 });
  return placedBatch(world.fleet, asked, laid, problem, solution);
}
const on = ({ lots }: PlacedBatch, i = 0) => lots[i]!.on.map(({ host, count }) => [host, count]);
const found = (name: string, host: string, gib: number, pool = 'quay') =>
  world.make({
    type: 'guest.record',
    input: {
      ...{ name, hostId: world.id('host', host), state: 'in service', family: 'Linux' },
      ...{ vcpu: 1, memoryMiB: gib * 1024 },
      volumes: [{ poolId: world.id('pool', pool), bytes: 10e9 }],
      adapters: [{ networkId: world.id('network', 'shore'), address: { as: 'none' } }],
    },
  });

describe('by the fewest hosts', () => {
  it('four of which three fit on one go to two, proved', () => {
    const answer = place(ask());
    expect(answer.headline).toBe('4 guests go to 2 hosts; 2 empty hosts are taken into use.');
    expect(answer.proof).toBe('Proved: no placing gets by with fewer than 2 hosts in use.');
    expect(answer.guests.map(({ name }) => name)).toEqual(['net-1', 'net-2', 'net-3', 'net-4']);
    expect(answer.hosts.filter(({ after }) => after.guests > 0)).toHaveLength(2);
  });
  it('what is in use already is gone on with; names that are taken are passed over', () => {
    found('net-1', 'tern', 4);
    const answer = place(ask({ lots: [lot({ count: 2 })] }));
    expect(on(answer)).toEqual([['tern', 2]]);
    expect(answer.headline).toBe('2 guests go to 1 host; no empty host is taken into use.');
    expect(answer.guests.map(({ name }) => name)).toEqual(['net-2', 'net-3']);
  });
  it('apart by host, each has its own', () => {
    expect(on(place(ask({ lots: [lot({ count: 3, apart: 'host' })] })))).toEqual([
      ['gannet', 1],
      ['skua', 1],
      ['tern', 1],
    ]);
  });
  it('a group of guests that is to be spread counts those that stand', () => {
    world.make({ type: 'guest-group.record', input: { name: 'tides', spread: 'host' } });
    const groupId = world.id('guestGroup', 'tides');
    found('tide', 'tern', 1);
    world.make({ type: 'guest.edit', input: { id: world.id('guest', 'tide'), groupId } });
    const answer = place(ask({ lots: [lot({ count: 2, guestGroupId: groupId })] }));
    expect(on(answer)).toEqual([
      ['gannet', 1],
      ['skua', 1],
    ]);
  });
});

it('evenly, the fullest that takes any is as empty as can be', () => {
  found('tide', 'tern', 8);
  const answer = place(ask({ aim: 'even' }));
  expect(on(answer)).toEqual([
    ['gannet', 2],
    ['skua', 2],
  ]);
  // Two of 4,297 of 14,336 MiB: 59.9 %.
  expect(answer.proof).toBe(
    'Proved: the fullest host that takes any is at 59.9 %, and cannot be less full.',
  );
});

describe('by the cheapest licences', () => {
  it('one host is licensed, though another stands in use', () => {
    found('tide', 'tern', 4);
    world.make({
      type: 'entitlement.record',
      input: { name: 'support', unit: 'host', count: 1, family: 'BSD' },
    });
    const answer = place(ask({ aim: 'licences', lots: [lot({ count: 3, family: 'BSD' })] }));
    expect(answer.lots[0]!.on).toHaveLength(1);
    expect(answer.licences).toMatchObject([
      { name: 'support', unit: 'host', before: 0, after: 1, allowed: 1 },
    ]);
    expect(answer.proof).toBe('Proved: no placing takes cheaper licences.');
  });
  it('by a label: only lots that carry it take the licence, and keep to the host that has it', () => {
    world.make({
      type: 'entitlement.record',
      input: { name: 'ledger', unit: 'host', count: 1, label: 'ledger' },
    });
    const lots = [
      lot({ pattern: 'book-{n}', count: 3, labels: ['Ledger'] }),
      lot({ pattern: 'buoy-{n}', count: 3, labels: ['sea'] }),
    ];
    const answer = place(ask({ aim: 'licences', lots }));
    expect(answer.lots[0]!.on).toHaveLength(1);
    expect(answer.licences).toMatchObject([{ name: 'ledger', before: 0, after: 1, allowed: 1 }]);
    const without = place(ask({ aim: 'licences', lots: [lots[1]!] }));
    expect(without.licences).toEqual([]);
  });
  it('where two copies go with one licensing of eight cores, no third is put there', () => {
    world.make({
      type: 'entitlement.record',
      input: { name: 'support', unit: 'core pair', count: 8, copiesPerHost: 2, family: 'BSD' },
    });
    const answer = place(ask({ aim: 'licences', lots: [lot({ family: 'BSD' })] }));
    // Four copies: two licensings of four pairs, whether on one host or two.
    expect(answer.licences).toMatchObject([{ before: 0, after: 8, allowed: 8 }]);
  });
});

describe('who has no place', () => {
  it('is said with what is lacking, and that no way leaves fewer', () => {
    const answer = place(ask({ lots: [lot({ count: 10 })] }));
    expect(answer.headline).toBe('9 of 10 guests have a place; 1 has none.');
    expect(answer.proof).toMatch(/^Proved: as long as nobody moves, no way leaves fewer/);
    // 14,336 − 3 · 4,297 = 1,445 left, 2,852 lacking: 2.79 GiB.
    expect(answer.lots[0]!.short).toEqual([
      {
        count: 1,
        why: 'no host that suits it has the room',
        mend: expect.stringMatching(/would take it with 2\.\d+ GiB of memory more/) as string,
      },
    ]);
  });
  it('a shared pool that is too small is the reason that is given', () => {
    const answer = place(ask({ lots: [lot({ count: 5, bytes: 150e9 })] }));
    expect(answer.lots[0]).toMatchObject({ wanted: 5, placed: 2 });
    expect(answer.lots[0]!.short[0]!.why).toMatch(/^pool quay has room for 2 volumes of/);
  });
  it('a pool of the host itself holds what fits there', () => {
    const answer = place(ask({ lots: [lot({ count: 6, poolId: null, bytes: 600e9 })] }));
    // 1 TB on each host, one volume each.
    expect(answer.lots[0]!.placed).toBe(3);
    expect(answer.guests.map(({ pool }) => pool).sort()).toEqual([
      'gannet-data',
      'skua-data',
      'tern-data',
    ]);
  });
  it('nothing is proved where a host has several pools of its own, of which one counts', () => {
    world.make({
      type: 'pool.record',
      input: { name: 'second', usableBytes: 1e12, hostIds: [world.id('host', 'tern')] },
    });
    // Four would fit: two on tern, one in each of its pools.
    const answer = place(ask({ lots: [lot({ count: 4, poolId: null, bytes: 600e9 })] }));
    expect(answer.proof).not.toMatch(/Proved/);
  });
  it('where others may move, they make room', () => {
    for (const host of ['gannet', 'tern']) found(`on-${host}`, host, 5);
    found('on-skua', 'skua', 9);
    // 9 GiB are free on no host: one of 5 has to go to the other of 5.
    const large = lot({ count: 1, memoryMiB: 13 * 1024 });
    expect(place(ask({ lots: [large] })).lots[0]!.placed).toBe(0);
    const answer = place(ask({ lots: [large], makesRoom: true }));
    expect(answer.lots[0]!.placed).toBe(1);
    expect(answer.moves).toHaveLength(1);
    expect(answer.headline).toBe(
      '1 guest goes to 1 host, after 1 move that makes room; no empty host is taken into use.',
    );
  });
});

it('hosts that may fail still may: what would crowd them is spread further', () => {
  found('tide', 'gannet', 4);
  const loose = place(ask({ lots: [lot({ count: 5 })] }));
  expect(loose.lots[0]!.on.length).toBe(2);
  const kept = place(ask({ lots: [lot({ count: 5 })], keepTolerance: true }));
  expect(kept.tolerance.lost).toEqual([]);
  expect(kept.lots[0]!.placed).toBe(5);
});

it('no host of a group in service: nothing is laid', () => {
  world.make({ type: 'host-group.record', input: { name: 'reef' } });
  expect(layBatch(world.fleet, ask({ groupId: world.id('hostGroup', 'reef') }))).toBeNull();
});

describe('drawn as a plan', () => {
  const draw = (answer: PlacedBatch, of: Lot, more: object = {}) => ({
    type: 'plan.draw-batch' as const,
    input: {
      name: 'more nets',
      linkBitsPerSecond: 1e9,
      moves: [],
      lots: [
        {
          ...{ family: of.family, vcpu: of.vcpu, memoryMiB: of.memoryMiB, bytes: of.bytes },
          ...{ thin: of.thin, networkIds: [...of.networkIds], apart: of.apart },
          ruleName: 'nets apart',
        },
      ],
      guests: answer.guests.map(({ lot: i, name, hostId, poolId }) => ({
        ...{ lot: i, name, hostId, poolId },
      })),
      ...more,
    },
  });
  it('each guest is a step, and the rule that keeps them apart the last: the fleet is then as it was shown', () => {
    const of = lot({ count: 3, apart: 'host' });
    const answer = place(ask({ lots: [of] }));
    world.make(draw(answer, of));
    const { would, outcomes } = planFleet(
      world.fleet,
      world.id('plan', 'more nets'),
      world.context(),
      decide as unknown as DecideDrawn,
    );
    expect(outcomes.map(({ decision }) => isRefusal(decision))).toEqual([
      false,
      false,
      false,
      false,
    ]);
    const [rule] = would.all('placementRule');
    expect(rule).toMatchObject({ name: 'nets apart', rule: 'apart', scope: 'host' });
    expect(
      would
        .referring('placementMember', 'ruleId', rule!.id)
        .map(({ guestId }) => would.need('guest', guestId).name)
        .sort(),
    ).toEqual(['net-1', 'net-2', 'net-3']);
    for (const { id } of answer.hosts) expect(load(would, id).memoryMiB).toBe(4297);
  });
  it('is refused without a guest (no-guests), of a lot that is not said (no-such-lot), and of too many alike (lot-too-large)', () => {
    const of = lot({ count: 1 });
    const answer = place(ask({ lots: [of] }));
    const [guest] = draw(answer, of).input.guests;
    expect(world.try(draw(answer, of, { guests: [] }))).toMatchObject({ code: 'no-guests' });
    expect(world.try(draw(answer, of, { guests: [{ ...guest!, lot: 3 }] }))).toMatchObject({
      code: 'no-such-lot',
    });
    const many = Array.from({ length: 201 }, (_, n) => ({ ...guest!, name: `net-${n}` }));
    expect(world.try(draw(answer, of, { guests: many }))).toMatchObject({ code: 'lot-too-large' });
  });
});
