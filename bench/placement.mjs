/**
 * Placement, measured on cases by a recipe (core's packing/cases.ts) and on a fleet of 1,000 hosts and 10,000 guests in one
 * group: `node bench/placement.mjs` after a build. Truth beside ours from the solver library, where it says optimal.
 */
import highs from 'highs';
import { Fleet, failureDomains, failureFates, solverOf, exactlyBy } from '@insel/core';
import { chance } from '../packages/core/dist/packing/chance.js';
import { solveRearrangement } from '../packages/core/dist/rearrange/solve.js';
import { crowd, failoverCase, questionOf, standing } from '../packages/core/dist/packing/cases.js';
import { PUBLISHED_CLASSES, publishedCase } from '../packages/core/dist/packing/published-cases.js';
import {
  beside,
  faultsOfMoves,
  fewestHosts,
  fewestHostsBound,
  linearModel,
  narrowedTo,
  orderMoves,
  placeUnits,
  settle,
  takenOf,
} from '../packages/core/dist/packing/index.js';

const solve = solverOf(await highs());
const exactly = exactlyBy(solve, 20);
const round = (value, digits = 0) => Number(value.toFixed(digits));
const percentile = (numbers, share) =>
  [...numbers].sort((a, b) => a - b)[
    Math.min(numbers.length - 1, Math.floor(numbers.length * share))
  ];

function timed(run) {
  const began = performance.now();
  const value = run();
  return { value, ms: performance.now() - began };
}

function failovers(count) {
  const times = [];
  const found = { settled: 0, alone: 0 };
  for (let seed = 0; seed < count; seed += 1) {
    const question = failoverCase(seed);
    let asked = false;
    const { value, ms } = timed(() =>
      settle(question, undefined, (same) => ((asked = true), exactly(same))),
    );
    times.push(ms);
    found.settled += Number(value.answer !== 'not settled');
    found.alone += Number(!asked);
  }
  console.log(
    `failover, ${count} cases: ${found.settled} settled, ${found.alone} by our own search; median ${round(percentile(times, 0.5), 2)} ms, p95 ${round(percentile(times, 0.95), 1)} ms, all ${round(times.reduce((a, b) => a + b, 0) / 1000, 1)} s`,
  );
}

function packings(count) {
  let [ratio, best, tight, settled] = [0, 0, 0, 0];
  const times = [];
  for (let seed = 0; seed < count; seed += 1) {
    const random = chance(seed);
    const guests = 12 + Math.floor(random() * 20);
    const units = Array.from({ length: guests }, () => [
      [1, 2, 2, 4, 4, 8, 8, 16, 24][Math.floor(random() * 9)] * 1024 + 200,
      [1, 2, 2, 4, 8][Math.floor(random() * 5)],
    ]);
    const room = [65_536 - 4_096, 28];
    const hosts = Array.from({ length: Math.min(guests, 12) }, () => room);
    const question = questionOf({ units, hosts });
    const start = settle(question).at;
    if (start.includes(-1)) continue;
    const { value, ms } = timed(() => fewestHosts({ question, start, costOf: () => 1 }));
    const truth = solve(linearModel(question, { ofHost: () => 1 }), 10);
    times.push(ms);
    if (truth.status !== 'optimal') continue;
    settled += 1;
    const least = Math.round(truth.bound);
    ratio += value.used / least;
    best += Number(value.used === least);
    tight += Number(fewestHostsBound(question).hosts === least);
  }
  console.log(
    `fewest hosts, ${settled} cases with a proven optimum: mean ratio ${round(ratio / settled, 4)}, at the optimum ${best}, bound equal ${tight}; median ${round(percentile(times, 0.5))} ms, p95 ${round(percentile(times, 0.95))} ms`,
  );
}

/** Classes whose recipe is published (core's packing/published-cases.ts), each item on a host of its own at the beginning. */
function published(units, count) {
  const found = { used: 0, bound: 0, proved: 0, cases: 0, asOptimum: 0 };
  const early = { used: 0, best: 0, proved: 0 };
  const times = [];
  for (const number of PUBLISHED_CLASSES)
    for (let seed = 0; seed < count; seed += 1) {
      const { question, optimum } = publishedCase(number, units, seed);
      const start = Int32Array.from({ length: question.units }, (_, unit) => unit);
      const began = performance.now();
      const spent = () => performance.now() - began;
      let at2s = { used: Infinity, proven: false };
      const tell = (best) => {
        if (spent() < 2_000) at2s = best;
        return spent() < 10_000;
      };
      const value = fewestHosts({ question, start, costOf: () => 1, solve, tell });
      if (spent() < 2_000) at2s = value;
      times.push(spent());
      found.cases += 1;
      found.used += value.used;
      found.bound += value.bound.hosts;
      found.proved += Number(value.proven);
      found.asOptimum += Number(optimum !== null && value.used === optimum);
      early.used += at2s.used;
      early.best += Number(at2s.used === value.used);
      early.proved += Number(at2s.proven);
    }
  const ratio = (used) => round(used / found.bound, 4);
  console.log(
    `published classes, ${found.cases} cases of ${units} items, 10 s at most: ${found.proved} proved best, ${found.used} hosts in all, none below ${found.bound} (${ratio(found.used)}); ${found.asOptimum} of ${count} at the optimum their recipe gives; after 2 s ${ratio(early.used)}, ${early.best} as good, ${early.proved} proved; median ${round(percentile(times, 0.5))} ms, p95 ${round(percentile(times, 0.95))} ms`,
  );
}

function evacuations(count) {
  const found = { possible: 0, ours: 0, impossible: 0, proved: 0, bytes: 0, least: 0 };
  const times = [];
  for (let seed = 0; seed < count; seed += 1) {
    const full = 0.7 + (seed % 20) / 100;
    const { question, start } = standing(seed, { hosts: 6, guests: 30, full });
    const cost = Float64Array.from(start, (_, unit) => question.need[unit * 2]);
    const problem = { aim: 'empty', question, start, cost, closed: [0], mostRoom: question.room };
    const { value, ms } = timed(() => solveRearrangement(problem, { solve, exactly, seconds: 2 }));
    times.push(ms);
    const inside = narrowedTo(question, new Set([1, 2, 3, 4, 5]));
    const truth = solve(
      linearModel(inside, { of: (unit, host) => (start[unit] === host ? 0 : cost[unit]) }),
      20,
    );
    if (truth.status === 'infeasible') {
      found.impossible += 1;
      found.proved += Number(value.proven === 'impossible');
      continue;
    }
    found.possible += 1;
    if (value.stuck.length > 0) continue;
    const bytes = value.moves.reduce((sum, { unit }) => sum + cost[unit], 0);
    found.ours += 1;
    found.bytes += truth.bound > 0 ? bytes / truth.bound : 1;
    found.least += Number(bytes <= truth.bound + 1e-6);
  }
  console.log(
    `emptying one of six hosts: ${found.ours} of ${found.possible} that have a placing, ${round(found.bytes / found.ours, 3)} of the least bytes, ${found.least} with the least; ${found.proved} of ${found.impossible} impossible ones proved; median ${round(percentile(times, 0.5), 1)} ms, at most ${round(Math.max(...times))} ms`,
  );
}

/** Everybody changes hosts, which then have the room for it; or all are placed anew. */
function orders(count, { hosts, guests, fulls }) {
  const found = { orders: 0, none: 0, open: 0 };
  const times = [];
  for (let seed = 0; seed < count; seed += 1) {
    const full = fulls[seed % fulls.length];
    const { question, start } = standing(seed, { hosts, guests, full });
    const shift = 1 + Math.floor(chance(seed + 1000)() * (hosts - 1));
    const anew = seed % 2 === 0 ? settle(question).at : start;
    const turning = seed % 2 === 1 || anew.includes(-1);
    const target = turning ? start.map((host) => (host + shift) % hosts) : anew;
    const asked = turning ? { ...question, room: question.room.slice() } : question;
    if (turning)
      for (let d = 0; d < question.dims; d += 1) {
        const taken = takenOf(question, target, d);
        for (let host = 0; host < hosts; host += 1)
          asked.room[host * 2 + d] = Math.max(asked.room[host * 2 + d], taken[host]);
      }
    const { value, ms } = timed(() => orderMoves({ question: asked, start, target }));
    times.push(ms);
    if (value.moves && faultsOfMoves(asked, start, value.moves).length > 0)
      throw new Error(`an order that is not legal: ${seed}`);
    if (value.moves) found.orders += 1;
    else if (value.proven) found.none += 1;
    else found.open += 1;
  }
  console.log(
    `order of moves, ${count} cases of ${guests} guests on ${hosts} hosts: ${found.orders} found, ${found.none} proved that there is none, ${found.open} open; median ${round(percentile(times, 0.5), 1)} ms, p95 ${round(percentile(times, 0.95))} ms, at most ${round(Math.max(...times))} ms`,
  );
}

/** Hosts of 512 GiB with ten guests each, all in one group with one pool. */
function largeGroup(hosts, guests) {
  const fleet = new Fleet();
  const id = (kind, n) => `00000000-0000-7000-8${kind}-${String(n).padStart(12, '0')}`;
  const patches = [];
  const create = (kind, rowId, after) => patches.push({ op: 'create', kind, id: rowId, after });
  create('platform', id('001', 0), {
    name: 'Generic',
    bareMetal: true,
    keepsMiB: 2048,
    keepsPercent: 5,
    overheadMiB: 128,
    overheadPerVcpuMiB: 8,
    overheadPercent: 1,
    videoMiB: 16,
  });
  for (let n = 0; n < 4; n += 1) create('site', id('002', n), { name: `site${n}` });
  const siteOf = (rack) => id('002', Math.floor((rack * 4) / 50));
  create('hostGroup', id('003', 0), {
    name: 'all',
    vcpuPerCore: 4,
    memoryPercent: 100,
    reservePercent: 0,
  });
  create('pool', id('004', 0), { name: 'quay', usableBytes: 1e15, remote: 'shelf' });
  for (let n = 0; n < 50; n += 1)
    create('rack', id('005', n), { name: `r${n}`, siteId: siteOf(n), units: 42 });
  for (let n = 0; n < hosts; n += 1) {
    create('host', id('006', n), {
      name: `h${n}`,
      state: 'in service',
      siteId: siteOf(n % 50),
      rackId: id('005', n % 50),
      platformId: id('001', 0),
      groupId: id('003', 0),
      sockets: 2,
      coresPerSocket: 32,
      threadsPerCore: 2,
      installedMiB: 524_288,
    });
    create('poolReach', id('007', n), { poolId: id('004', 0), hostId: id('006', n) });
  }
  const random = chance(7);
  for (let n = 0; n < guests; n += 1) {
    const gib = [8, 16, 16, 32, 32, 64, 64, 96][Math.floor(random() * 8)];
    create('guest', id('008', n), {
      name: `g${n}`,
      state: 'in service',
      hostId: id('006', n % hosts),
      family: 'Linux',
      vcpu: Math.max(1, gib / 8),
      memoryMiB: gib * 1024,
    });
    create('volume', id('009', n), {
      guestId: id('008', n),
      poolId: id('004', 0),
      label: 'system',
      bytes: 1e10,
      thin: false,
    });
  }
  fleet.apply(patches, 1);
  return fleet;
}

function wholeGroup() {
  const fleet = largeGroup(1000, 10_000);
  const domains = failureDomains(fleet);
  for (const kind of ['host', 'rack', 'site']) {
    const some = domains.filter((domain) => domain.kind === kind);
    const { value, ms } = timed(() => some.map((domain) => failureFates(fleet, domain, exactly)));
    const answers = new Map();
    for (const { answer } of value) answers.set(answer, (answers.get(answer) ?? 0) + 1);
    console.log(
      `1,000 hosts, 10,000 guests: ${some.length} ${kind} failures in ${round(ms)} ms (${[...answers].map(([answer, n]) => `${n} ${answer}`).join(', ')})`,
    );
  }
}

function crowds() {
  for (const kinds of [1, 4]) {
    const { question, start } = crowd(7, { hosts: 500, guests: 10_000, kinds });
    const { value, ms } = timed(() => fewestHosts({ question, start, costOf: () => 1 }));
    console.log(
      `10,000 guests on 500 hosts of ${kinds} kinds: ${value.used} in use, bound ${value.bound.hosts} (gap ${round((value.used / value.bound.hosts - 1) * 100, 2)} %), ${value.moves.length} moves, ${round(ms)} ms`,
    );
  }
}

function batches() {
  for (const [hosts, guests] of [
    [100, 200],
    [1000, 500],
  ]) {
    const { question, start } = crowd(3, { hosts, guests: hosts * 10, kinds: 4 });
    const fresh = Array.from({ length: guests }, (_, i) => i);
    // They come in lots: those of one are all alike.
    for (const unit of fresh) {
      const gib = [4, 8, 8, 16, 32][unit % 5];
      question.need.set([gib * 1024 + 160, gib / 4], unit * question.dims);
    }
    const asked = beside({ question, at: start, units: fresh });
    const used = new Uint8Array(hosts).fill(1);
    for (let host = 0; host < hosts; host += 3) used[host] = 0;
    const { value, ms } = timed(() =>
      placeUnits({ question: asked, aim: { by: 'fewest', used }, solve, seconds: 5 }),
    );
    console.log(
      `${guests} new guests on ${hosts} hosts, the fewest more: ${value.value} in use, bound ${value.bound}, ${value.proven ? 'proved' : 'open'}, ${round(ms)} ms`,
    );
  }
}

if (!process.argv[2]) failovers(600);
crowds();
batches();
if (!process.argv[2]) packings(120);
if (!process.argv[2])
  for (const [units, count] of [
    [24, 4],
    [48, 4],
    [99, 4],
    [198, 2],
  ])
    published(units, count);
if (!process.argv[2]) evacuations(80);
if (!process.argv[2]) orders(120, { hosts: 5, guests: 22, fulls: [0.88] });
if (!process.argv[2]) orders(120, { hosts: 8, guests: 60, fulls: [0.8, 0.84, 0.88, 0.92] });
wholeGroup();
