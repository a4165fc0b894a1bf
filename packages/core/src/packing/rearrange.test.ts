import highs from 'highs';
import { beforeAll, describe, expect, it } from 'vitest';
import { fewestHostsBound } from './bounds.js';
import { chance } from './chance.js';
import { crowd, questionOf, rule, standing } from './cases.js';
import { orderByBeam } from './beam-order.js';
import { closeMany } from './close-many.js';
import { emptyHosts } from './empty-hosts.js';
import { evenOut } from './even-out.js';
import { fromItsEnd, turnedRound } from './from-its-end.js';
import { givenFullness, usedFullness } from './fullness.js';
import { fewestHosts, takenOf } from './fewest-hosts.js';
import { exactlyBy, linearModel, placingOf, solverOf, type SolveLinear } from './linear-model.js';
import { orderMoves } from './order-moves.js';
import { faultsOfMoves } from './faults-of-moves.js';
import { Board, narrowedTo, type PackingQuestion, type Placing } from './question.js';
import { settle } from './settle.js';
import { faultsOf } from './verify.js';
import { walkPlacings } from './walk-placings.js';

// Its types are those of its CommonJS build; as a module it is the function itself.
const loadHighs = highs as unknown as typeof highs.default;

let solve: SolveLinear;
beforeAll(async () => {
  solve = solverOf(await loadHighs());
});

const alike = (n: number): number[][] => Array.from({ length: n }, () => [16, 64]);
const memoryOf = (question: PackingQuestion) => (unit: number) => question.need[unit * 2]!;
/** All that a host has is its room. */
const byGiven = (question: PackingQuestion, start: Placing) =>
  givenFullness(question, start, question.room, new Float64Array(question.room.length));
/** A host has 100, whatever of it is room. */
const byHundred = (question: PackingQuestion, start: Placing) => {
  const has = question.room.map(() => 100);
  return givenFullness(question, start, has, question.room.map((room) => 100 - room)); // prettier-ignore
};
const seeds = (n: number) => Array.from({ length: n }, (_, seed) => seed);

/** Every way of moving one unit after another, at most once each to its target: whether one is legal throughout. */
function orderByHand(question: PackingQuestion, start: Placing, target: Placing): boolean {
  const moving = [...start.keys()].filter((unit) => start[unit] !== target[unit]);
  const board = new Board(question);
  for (const [unit, host] of start.entries()) board.put(unit, host);
  const go = (left: number[]): boolean =>
    left.length === 0 ||
    left.some((unit) => {
      board.take(unit);
      const fits = board.fits(unit, target[unit]!);
      board.put(unit, fits ? target[unit]! : start[unit]!);
      const found = fits && go(left.filter((other) => other !== unit));
      board.take(unit);
      board.put(unit, found ? target[unit]! : start[unit]!);
      return found;
    });
  return go(moving);
}

/**
 * The fewest stop-overs of all orders there are, by walking all placings (0–1 breadth first); null: no order.
 * @param helpers whether those step aside as well that need not move, or have moved
 */
function stopOversByHand(
  question: PackingQuestion,
  start: Placing,
  target: Placing,
  helpers = false,
) {
  let layer = [Array.from(start)];
  const seen = new Set<string>();
  for (let stopOvers = 0; layer.length > 0; stopOvers += 1) {
    const next: number[][] = [];
    while (layer.length > 0) {
      const at = layer.pop()!;
      const key = at.join();
      if (seen.has(key)) continue;
      seen.add(key);
      if (at.every((host, unit) => host === target[unit])) return stopOvers;
      const board = new Board(question);
      for (const [unit, host] of at.entries()) board.put(unit, host);
      for (const [unit, from] of at.entries()) {
        if (from === target[unit] && !helpers) continue;
        for (const to of question.candidates[unit]!) {
          if (to === from) continue;
          board.take(unit);
          if (board.fits(unit, to))
            (to === target[unit] ? layer : next).push(at.map((h, i) => (i === unit ? to : h)));
          board.put(unit, from);
        }
      }
    }
    layer = next;
  }
  return null;
}

/** Another placing of the same units, dealt out by chance; null: none was hit upon. */
function anotherPlacing(question: PackingQuestion, random: () => number): Placing | null {
  for (let tries = 0; tries < 60; tries += 1) {
    const board = new Board(question);
    for (let unit = 0; unit < question.units; unit += 1) {
      const host = Math.floor(random() * question.hosts);
      if (!board.fits(unit, host)) break;
      board.put(unit, host);
    }
    if (!board.at.includes(-1)) return board.at;
  }
  return null;
}

describe('the fewest hosts (optima of design section 12: exhaustive search, and a solver)', () => {
  it.each([
    ['A', 3, '8,24 8,32 1,32 8,4 6,40 6,24 2,8 8,16'],
    ['B', 3, '10,24 8,24 4,24 6,24 2,24'],
    ['C', 3, '10,8 8,40 8,40'],
    ['D', 2, '16,64 16,64'],
  ])('%s needs %d', (_, hosts, sizes) => {
    const units = sizes.split(' ').map((size) => size.split(',').map(Number));
    const question = questionOf({ units, hosts: alike(units.length) });
    const start = Int32Array.from(units.keys());
    const found = fewestHosts({ question, start, costOf: () => 1 });
    expect(found).toMatchObject({ used: hosts, proven: true, bound: { hosts } });
    expect(faultsOfMoves(question, start, found.moves)).toEqual([]);
  });

  it('no guests need no host', () =>
    expect(fewestHostsBound(questionOf({ units: [], hosts: alike(2) })).hosts).toBe(0));

  it('the bound is never above what a solver uses, and is what it uses in most cases; so is the answer', () => {
    let [tight, best] = [0, 0];
    const cases = seeds(40);
    for (const seed of cases) {
      const { question, start } = standing(seed, { hosts: 6, guests: 12, full: 0.45, apart: 0.1 });
      const answer = solve(linearModel(question, { ofHost: () => 1 }), 20);
      expect(answer.status).toBe('optimal');
      const least = Math.round(answer.bound);
      const found = fewestHosts({ question, start, costOf: memoryOf(question) });
      expect(found.bound.hosts).toBeLessThanOrEqual(least);
      expect(found.used).toBeGreaterThanOrEqual(least);
      expect(faultsOf(question, found.at)).toEqual([]);
      expect(faultsOfMoves(question, start, found.moves)).toEqual([]);
      tight += Number(found.bound.hosts === least);
      best += Number(found.used === least);
    }
    expect(tight / cases.length).toBeGreaterThan(0.6);
    expect(best / cases.length).toBeGreaterThan(0.85);
  });
});

describe('an order of moves', () => {
  it('agrees with trying every order', () => {
    let possible = 0;
    for (const seed of seeds(300)) {
      const { question, start } = standing(seed, { hosts: 3, guests: 7, full: 0.85 });
      const { at } = settle(reversed(question));
      if (at.includes(-1)) continue;
      const target = at.map((host) => question.hosts - 1 - host);
      if (faultsOf(question, target).length > 0) continue;
      const byHand = orderByHand(question, start, target);
      const { moves, proven } = orderMoves({ question, start, target, most: 0 });
      expect(moves !== null).toBe(byHand);
      if (!moves) expect(proven).toBe(true);
      else expect(faultsOfMoves(question, start, moves)).toEqual([]);
      possible += Number(byHand);
    }
    expect(possible).toBeGreaterThan(20);
  });

  it('needs the stop-overs of the best of all orders there are, or proves that two are too few', () => {
    const found = [0, 0, 0, 0];
    const beyond = { found: 0, none: 0 };
    for (const seed of seeds(500)) {
      const apart = seed % 3 === 0 ? 0.6 : 0;
      const { question, start } = standing(seed, { hosts: 4, guests: 8, full: 0.94, apart });
      const target = anotherPlacing(question, chance(seed + 9000));
      if (!target) continue;
      const byHand = stopOversByHand(question, start, target);
      const { moves, proven, stopOvers } = orderMoves({ question, start, target, most: 2 });
      expect([seed, moves === null ? null : stopOvers, proven]).toEqual([
        seed,
        byHand === null || byHand > 2 ? null : byHand,
        true,
      ]);
      if (moves) expect(faultsOfMoves(question, start, moves)).toEqual([]);
      found[moves ? stopOvers : 3]! += 1;
      if (moves) continue;
      // With more than two, and with those stepping aside who need not move: none where there is none.
      const more = orderMoves({ question, start, target });
      const least = stopOversByHand(question, start, target, true);
      expect([seed, more.moves && more.stopOvers, more.proven]).toEqual([seed, least, true]);
      if (more.moves) {
        expect(faultsOfMoves(question, start, more.moves)).toEqual([]);
        expect(more.moves.filter(({ unit, to }) => to !== target[unit])).toHaveLength(
          more.stopOvers,
        );
      }
      beyond[more.moves ? 'found' : 'none'] += 1;
    }
    expect(Math.min(beyond.found, beyond.none)).toBeGreaterThanOrEqual(5);
    expect(found.every((n) => n >= 5)).toBe(true);
  });

  it('is searched by beams from both ends: never where there is none, and nearly always where there is one', () => {
    const found = { front: 0, back: 0, none: 0 };
    let possible = 0;
    for (const seed of seeds(500)) {
      const apart = seed % 3 === 0 ? 0.6 : 0;
      const { question, start } = standing(seed, { hosts: 4, guests: 8, full: 0.94, apart });
      const target = anotherPlacing(question, chance(seed + 9000));
      if (!target) continue;
      const ordering = { question, start, target };
      const beam = { width: 10, work: 1_000_000 };
      const back = orderByBeam(fromItsEnd(ordering), beam).moves;
      const front = orderByBeam(ordering, beam).moves;
      const orders = { front, back: back && turnedRound(back) };
      const any = stopOversByHand(question, start, target, true) !== null;
      for (const end of ['front', 'back'] as const) {
        const moves = orders[end];
        if (!moves) continue;
        expect([seed, any]).toEqual([seed, true]);
        expect(faultsOfMoves(question, start, moves)).toEqual([]);
        const at = start.slice();
        for (const { unit, to } of moves) at[unit] = to;
        expect(at).toEqual(target);
        found[end] += 1;
      }
      if (any) possible += 1;
      // Nothing to be found, and known to be so, from either end.
      else found.none += Number(walkPlacings(fromItsEnd(ordering), 100_000) === 'none');
      expect(walkPlacings(fromItsEnd(ordering), 100_000) === 'none').toBe(!any);
    }
    expect(Math.min(found.front, found.back)).toBeGreaterThan(possible * 0.9);
    expect(found.none).toBeGreaterThanOrEqual(5);
  });

  it('may be found from an end that the beginning is worse than: overfull, or with a rule broken', () => {
    let [found, overfull, broken] = [0, 0, 0];
    for (const seed of seeds(300)) {
      const { question: asked, start } = standing(seed, { guests: 8, full: 0.9, apart: 0.6 });
      const target = anotherPlacing(asked, chance(seed + 9000));
      if (!target) continue;
      // A host has become smaller than what stands there; a rule was made that does not hold yet.
      const room = asked.room.slice();
      const tight = seed % 2 === 0 ? takenOf(asked, target, 0)[0]! : room[0]!;
      const over = takenOf(asked, start, 0)[0]! > tight;
      room[0] = tight;
      const [first, second] = [start.indexOf(start[7]!), 7];
      const apart = first !== second && target[first] !== target[second] && seed % 3 === 0;
      const limits = apart ? [rule([first, second], [0, 1, 2, 3], 1)] : asked.limits;
      const question = { ...asked, room, limits };
      const any = stopOversByHand(question, start, target, true) !== null;
      const back = walkPlacings(fromItsEnd({ question, start, target }), 1_000_000);
      // More may be possible from the end; never less.
      if (any) expect([seed, back === 'none']).toEqual([seed, false]);
      const { moves } = orderMoves({ question, start, target });
      expect([seed, moves !== null]).toEqual([seed, any]);
      if (moves) expect(faultsOfMoves(question, start, moves)).toEqual([]);
      found += Number(moves !== null);
      overfull += Number(over && any);
      broken += Number(apart && any);
    }
    expect(Math.min(found, overfull, broken)).toBeGreaterThanOrEqual(5);
  });

  it('breaks a circle by a stop-over, and proves that there is none without', () => {
    const question = questionOf({ units: [[6], [6], [1]], hosts: [[7], [7], [6]] });
    const [start, target] = [Int32Array.of(0, 1, 2), Int32Array.of(1, 0, 2)];
    expect(orderMoves({ question, start, target, most: 0 })).toEqual({
      moves: null,
      proven: true,
      stopOvers: 0,
    });
    // Another that need not move steps aside.
    const aside = orderMoves({ question, start, target });
    expect([aside.stopOvers, aside.moves?.length]).toEqual([2, 5]);
    expect(faultsOfMoves(question, start, aside.moves!)).toEqual([]);
    const narrow = questionOf({ units: [[6], [6], [0]], hosts: [[7], [7], [6]] });
    const { moves, stopOvers } = orderMoves({ question: narrow, start, target });
    expect(stopOvers).toBe(1);
    expect(moves).toHaveLength(3);
    expect(faultsOfMoves(narrow, start, moves!)).toEqual([]);
  });
});

describe('no order, however many stop over', () => {
  it('where a rule is full in every zone and somebody under it would have to change zones', () => {
    const everywhere = [0, 1, 2];
    const question = questionOf({
      units: Array.from({ length: 20 }, () => [1]),
      hosts: Array.from({ length: 3 }, () => [40]),
      limits: [rule([0, 1, 2], everywhere, 1)],
    });
    const start = Int32Array.from({ length: 20 }, (_, unit) => unit % 3);
    const turned = start.map((host) => (host + 1) % 3);
    const none = { moves: null, proven: true, stopOvers: 2 };
    expect(orderMoves({ question, start, target: turned, budget: 10 })).toEqual(none);
    // With one more host there is an order.
    const wider = questionOf({
      units: Array.from({ length: 20 }, () => [1]),
      hosts: Array.from({ length: 4 }, () => [40]),
      limits: [rule([0, 1, 2], [0, 1, 2, 3], 1)],
    });
    const { moves } = orderMoves({ question: wider, start, target: turned });
    expect(faultsOfMoves(wider, start, moves!)).toEqual([]);
  });

  it('where no move can be the last: at the end no host has room for one of another', () => {
    const question = questionOf({
      units: [[4], [2], [3], [3], [5], [1]],
      hosts: [[6], [6], [10]],
    });
    const start = Int32Array.of(0, 2, 1, 2, 2, 0);
    const target = Int32Array.of(0, 0, 1, 1, 2, 2);
    const { moves } = orderMoves({ question, start, target });
    expect(faultsOfMoves(question, start, moves!)).toEqual([]);
    // All full at the end, and none of them overfull at the beginning.
    const tight = questionOf({ units: [[4], [2], [3], [3]], hosts: [[6], [6], [0]] });
    const [full, changed] = [Int32Array.of(0, 0, 1, 1), Int32Array.of(1, 1, 0, 0)];
    const none = { moves: null, proven: true, stopOvers: 2 };
    expect(orderMoves({ question: tight, start: full, target: changed, budget: 1 })).toEqual(none);
  });
});

/** Hosts the other way round, so that a placing differs from where guests stand. */
function reversed(question: PackingQuestion): PackingQuestion {
  const { dims, hosts, room } = question;
  const rooms = Array.from({ length: hosts }, (_, host) =>
    Array.from(room.subarray((hosts - 1 - host) * dims, (hosts - host) * dims)),
  );
  return { ...question, room: Float64Array.from(rooms.flat()) };
}

describe('emptying a host', () => {
  it('finds a plan wherever a solver finds a placing with an order, nearly always; each move is legal', () => {
    let [possible, found, impossible] = [0, 0, 0];
    for (const seed of seeds(120)) {
      const { question, start } = standing(seed, { hosts: 4, guests: 12, full: 0.72, apart: 0.15 });
      const emptied = emptyHosts({
        question,
        start,
        closed: new Set([0]),
        costOf: memoryOf(question),
      });
      expect(faultsOfMoves(question, start, emptied.moves)).toEqual([]);
      const inside = narrowedTo(question, new Set([1, 2, 3]));
      const exact = exactlyBy(solve, 20)(inside);
      if (exact === 'none') {
        expect(emptied.stuck).not.toEqual([]);
        expect(settle(inside).answer).toBe('does not fit');
        impossible += 1;
      } else if (
        exact &&
        orderMoves({ question, start, target: exact, closed: new Set([0]) }).moves
      ) {
        possible += 1;
        found += Number(emptied.stuck.length === 0);
      }
    }
    expect(impossible).toBeGreaterThan(5);
    expect(possible).toBeGreaterThan(30);
    expect(found / possible).toBeGreaterThan(0.95);
  });

  it('others make room: a chain of three', () => {
    // Host 0 goes; its guest of 6 fits nowhere before another has gone, which fits nowhere before a third has.
    const question = questionOf({ units: [[6], [4], [2]], hosts: [[6], [7], [5], [2]] });
    const start = Int32Array.of(0, 1, 2);
    const { moves, stuck } = emptyHosts({ question, start, closed: new Set([0]), costOf: () => 1 });
    expect(stuck).toEqual([]);
    expect(moves).toEqual([
      { unit: 2, from: 2, to: 3 },
      { unit: 1, from: 1, to: 2 },
      { unit: 0, from: 0, to: 1 },
    ]);
  });
});

describe('the linear model', () => {
  it('means the same as the question: 80 failovers, rules in racks and hosts included', () => {
    for (const seed of seeds(80)) {
      const { question } = standing(seed, { hosts: 3, guests: 8, full: 0.95 });
      const inside = narrowedTo(
        { ...question, limits: [...question.limits, rule([0, 1], [0, 1, 1], null)] },
        new Set([0, 1, 2]),
      );
      const answer = solve(linearModel(inside), 20);
      const { answer: ours } = settle(inside);
      expect(ours).toBe(answer.status === 'infeasible' ? 'does not fit' : 'fits');
      if (answer.status === 'optimal') expect(placingOf(inside, answer)).not.toBeNull();
    }
  });
  it('what stands elsewhere holds those that stay together', () => {
    const limit = rule([0], [0, 1], null);
    limit.standing[1] = 1;
    const question = questionOf({ units: [[1]], hosts: [[5], [5]], limits: [limit] });
    expect(exactlyBy(solve, 5)(question)).toEqual(Int32Array.of(1));
    limit.standing[0] = 1;
    expect(settle(question).answer).toBe('does not fit');
  });
});

describe('evening out', () => {
  it('lowers the spread with every move, says what each gains, and stops at a bound', () => {
    for (const seed of seeds(60)) {
      const { question, start } = standing(seed, { hosts: 5, guests: 20, full: 0.6 });
      const { before, moves, bound } = evenOut({
        question,
        start,
        fullness: byGiven(question, start),
        mostMoves: 6,
      });
      expect(faultsOfMoves(question, start, moves)).toEqual([]);
      let spread = before.spread;
      for (const move of moves) {
        expect(move.fullest).toBeGreaterThanOrEqual(bound - 1e-9);
        if (move.withNext) continue;
        expect(move.spread).toBeLessThan(spread);
        spread = move.spread;
      }
    }
  });
  it('worked by hand: 60 and 20 of 100 become 40 and 40, in one move', () => {
    const question = questionOf({ units: [[40, 0], [20, 0], [20, 0]], hosts: [[100, 1], [100, 1]] }); // prettier-ignore
    const start = Int32Array.of(0, 0, 1);
    const found = evenOut({ question, start, fullness: byGiven(question, start), mostMoves: 5 });
    expect(found.before).toEqual({ spread: 20, fullest: 60 });
    expect(found.moves).toEqual([
      { unit: 1, from: 0, to: 1, spread: 0, fullest: 40, withNext: false },
    ]);
    expect(found.bound).toBe(40);
  });
  it('no more travels than is allowed, and what is allowed is used', () => {
    const question = questionOf({ units: [[40, 0], [20, 0], [20, 0]], hosts: [[100, 1], [100, 1]] }); // prettier-ignore
    const from = Int32Array.of(0, 0, 1);
    // Stood up anew each time: moves are counted in it.
    const asked = () => ({
      ...{ question, start: from, mostMoves: 5 },
      fullness: byGiven(question, from),
    });
    const cost = [9, 3, 3];
    const costOf = (unit: number) => cost[unit]!;
    expect(evenOut({ ...asked(), costOf, mostCost: 2 }).moves).toEqual([]);
    expect(evenOut({ ...asked(), costOf, mostCost: 3 }).moves.map(({ unit }) => unit)).toEqual([1]);
    for (const seed of seeds(20)) {
      const { question: other, start } = standing(seed, { hosts: 5, guests: 20, full: 0.6 });
      const whole = () => ({
        ...{ question: other, start, mostMoves: 20 },
        fullness: byGiven(other, start),
      });
      const all = evenOut(whole()).moves.length;
      const few = evenOut({ ...whole(), costOf: () => 1, mostCost: 2 }).moves.length;
      // Two that change places are not begun where only one may move.
      expect([Math.min(all, 1), Math.min(all, 2)]).toContain(few);
    }
  });
  it('where no move alone helps, two change places, in an order that is legal', () => {
    // Worked by hand: 50 and 30 against 40 and 20; 30 and 20 for one another make 70 and 70.
    const question = questionOf({ units: [[50], [30], [40], [20]], hosts: [[95], [95]] });
    const start = Int32Array.of(0, 0, 1, 1);
    const found = evenOut({ question, start, fullness: byHundred(question, start), mostMoves: 5 });
    expect(found.moves).toMatchObject([
      { unit: 1, from: 0, to: 1, withNext: true },
      { unit: 3, from: 1, to: 0, spread: 0, fullest: 70, withNext: false },
    ]);
    expect(faultsOfMoves(question, start, found.moves)).toEqual([]);
    const alone = { question, start, fullness: byHundred(question, start), mostMoves: 1 };
    expect(evenOut(alone).moves).toEqual([]);
    // Neither fits beside the other: it would take a stop-over.
    const tight = questionOf({ units: [[50], [30], [40], [20]], hosts: [[85], [72]] });
    const held = evenOut({
      question: tight,
      start,
      fullness: byHundred(tight, start),
      mostMoves: 5,
    });
    expect(held.moves).toEqual([]);
  });
  it('by use: those that work at other hours share a host, though they were given the same', () => {
    // Worked by hand: two work in the first half of the day, two in the second; both of a kind stand together.
    const question = questionOf({ units: [[4], [4], [4], [4]], hosts: [[12], [12]] });
    const start = Int32Array.of(0, 0, 1, 1);
    const use = {
      dims: 2,
      hours: 2,
      ofUnit: Float64Array.of(40, 0, 40, 0, 0, 40, 0, 40),
      has: Float64Array.of(100, 100, 100, 100),
    };
    const given = evenOut({ question, start, fullness: byGiven(question, start), mostMoves: 5 });
    expect(given.moves).toEqual([]);
    const found = evenOut({ question, start, fullness: usedFullness(use, start), mostMoves: 5 });
    // In either hour one host is at 80 and the other at nothing.
    expect([found.before, found.bound]).toEqual([{ spread: 40, fullest: 80 }, 40]);
    expect(found.moves).toHaveLength(2);
    expect(found.moves.at(-1)).toMatchObject({ fullest: 40, spread: 0 });
  });
  it('stopped on the way, what was found by then is the answer', () => {
    const { question, start } = crowd(5, { hosts: 20, guests: 200, kinds: 2 });
    const asked = () => ({ question, start, fullness: byGiven(question, start), mostMoves: 6 });
    const all = evenOut(asked());
    const told: number[] = [];
    const cut = evenOut({ ...asked(), tell: ({ moves }) => told.push(moves.length) < 2 });
    expect(told[0]).toBeGreaterThan(0);
    expect(cut.moves).toEqual(all.moves.slice(0, told[1]));
    expect(cut.moves.length).toBeLessThan(all.moves.length);
    expect(cut.at).not.toEqual(start);
  });
  it('a thousand guests on a hundred hosts: ten moves, each of which lowers the spread', () => {
    const { question, start } = crowd(5, { hosts: 100, guests: 1000, kinds: 2 });
    const fullness = byGiven(question, start);
    const found = evenOut({ question, start, fullness, mostMoves: 10 });
    expect(found.moves).toHaveLength(10);
    expect(faultsOfMoves(question, start, found.moves)).toEqual([]);
    expect(found.moves.at(-1)!.spread).toBeLessThan(found.before.spread);
  });
});

describe('many guests', () => {
  it.each([
    [1, 60, 1200],
    [4, 60, 1200],
    [4, 120, 2500],
  ])(
    'of %i kinds of host, %i hosts and %i guests: within 1 %% of the bound, every move legal',
    (kinds, hosts, guests) => {
      for (const seed of seeds(3)) {
        const { question, start } = crowd(seed, { hosts, guests, kinds });
        const found = fewestHosts({ question, start, costOf: memoryOf(question) });
        expect(faultsOfMoves(question, start, found.moves)).toEqual([]);
        expect(faultsOf(question, found.at)).toEqual([]);
        expect(found.used).toBeLessThanOrEqual(Math.ceil(found.bound.hosts * 1.01));
        expect(new Set(found.at).size).toBe(found.used);
      }
    },
  );
  it('a placing that may not stand is not taken: where a tenth must stay in use, it does', () => {
    const { question, start } = crowd(1, { hosts: 60, guests: 1200, kinds: 1 });
    const accept = (at: Placing) => new Set(at).size >= 55;
    const found = fewestHosts({ question, start, costOf: () => 1, accept });
    expect(found.used).toBe(55);
    expect(found.proven).toBe(false);
  });
  it('rules hold: of forty that stay apart, each keeps a host of its own', () => {
    const { question, start } = crowd(2, { hosts: 60, guests: 1200, kinds: 1 });
    const members = Array.from({ length: 40 }, (_, i) => i);
    const limits = [
      rule(
        members,
        Array.from({ length: 60 }, (_, host) => host),
        1,
      ),
    ];
    const found = fewestHosts({ question: { ...question, limits }, start, costOf: () => 1 });
    expect(found.used).toBeGreaterThanOrEqual(40);
    expect(faultsOf({ ...question, limits }, found.at)).toEqual([]);
  });
  it('who fits nowhere is let in by one that moves on', () => {
    // Gaps of 5, 3 and 2 for what leaves, 6: the 2 on the first goes to the last, and 7 are free there.
    const question = questionOf({
      units: [[6], [5], [2], [8], [7]],
      hosts: [[10], [12], [11], [9]],
    });
    const start = Int32Array.of(0, 1, 1, 2, 3);
    const found = closeMany({ question, start, closed: new Set([0]) });
    expect(found?.moves).toEqual([
      { unit: 2, from: 1, to: 3 },
      { unit: 0, from: 0, to: 1 },
    ]);
  });
});
