/**
 * Placement, measured on cases by a recipe (core's packing/cases.ts) and on a fleet of 1,000 hosts and 10,000 guests in one
 * group: `node bench/placement.mjs` after a build. Truth beside ours from the solver library, where it says optimal.
 */
import highs from 'highs';
import { Fleet, failureDomains, failureFates, solverOf, exactlyBy } from '@insel/core';
import { chance } from '../packages/core/dist/packing/chance.js';
import { crowd, failoverCase, questionOf, standing } from '../packages/core/dist/packing/cases.js';
import { PUBLISHED_CLASSES, publishedCase } from '../packages/core/dist/packing/published-cases.js';
import {
  beside,
  emptyHosts,
  fewestHosts,
  fewestHostsBound,
  linearModel,
  narrowedTo,
  orderMoves,
  placeUnits,
  placingOf,
  settle,
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
function published(sizes, count) {
  for (const units of sizes) {
    const found = { used: 0, bound: 0, proved: 0, cases: 0, asOptimum: 0 };
    const times = [];
    for (const number of PUBLISHED_CLASSES)
      for (let seed = 0; seed < count; seed += 1) {
        const { question, optimum } = publishedCase(number, units, seed);
        const start = Int32Array.from({ length: question.units }, (_, unit) => unit);
        const { value, ms } = timed(() => fewestHosts({ question, start, costOf: () => 1, solve }));
        times.push(ms);
        found.cases += 1;
        found.used += value.used;
        found.bound += value.bound.hosts;
        found.proved += Number(value.proven);
        found.asOptimum += Number(optimum !== null && value.used === optimum);
      }
    console.log(
      `published classes, ${found.cases} cases of ${units} items: ${found.proved} proved best, ${found.used} hosts in all, none below ${found.bound} (${round(found.used / found.bound, 4)}); ${found.asOptimum} of ${count} at the optimum their recipe gives; median ${round(percentile(times, 0.5))} ms, p95 ${round(percentile(times, 0.95))} ms`,
    );
  }
}

function evacuations(count) {
  const found = { possible: 0, ours: 0, impossible: 0, proved: 0, bytes: 0, compared: 0 };
  const times = [];
  for (let seed = 0; seed < count; seed += 1) {
    const { question, start } = standing(seed, {
      hosts: 6,
      guests: 30,
      full: 0.7 + (seed % 20) / 100,
    });
    const closed = new Set([0]);
    const costOf = (unit) => question.need[unit * 2];
    const { value, ms } = timed(() => emptyHosts({ question, start, closed, costOf }));
    times.push(ms);
    const inside = narrowedTo(question, new Set([1, 2, 3, 4, 5]));
    const truth = solve(
      linearModel(inside, { of: (unit, host) => (start[unit] === host ? 0 : costOf(unit)) }),
      10,
    );
    if (truth.status === 'infeasible') {
      found.impossible += 1;
      found.proved += Number(settle(inside).answer === 'does not fit');
      continue;
    }
    const target = placingOf(inside, truth);
    if (!target || !orderMoves({ question, start, target, closed }).moves) continue;
    found.possible += 1;
    found.ours += Number(value.stuck.length === 0);
    if (value.stuck.length === 0 && truth.bound > 0) {
      found.bytes += value.moves.reduce((sum, { unit }) => sum + costOf(unit), 0) / truth.bound;
      found.compared += 1;
    }
  }
  console.log(
    `emptying one of six hosts: ${found.ours} of ${found.possible} by chains alone, ${round(found.bytes / found.compared, 3)} of the least bytes; ${found.proved} of ${found.impossible} impossible ones proved by our own search; median ${round(percentile(times, 0.5), 1)} ms`,
  );
}

function orders(count) {
  const found = { orders: 0, none: 0, open: 0 };
  const times = [];
  for (let seed = 0; seed < count; seed += 1) {
    const { question, start } = standing(seed, { hosts: 5, guests: 22, full: 0.88 });
    const random = chance(seed + 1000);
    // Another placing: hosts change places.
    const shift = 1 + Math.floor(random() * 4);
    const turned = { ...question, room: question.room.slice() };
    for (let host = 0; host < 5; host += 1)
      for (let d = 0; d < 2; d += 1)
        turned.room[((host + shift) % 5) * 2 + d] = question.room[host * 2 + d];
    const target = settle(question).at.map((host) => host);
    const alternative = start.map((host) => (host + shift) % 5);
    const goal = target.includes(-1) ? alternative : target;
    const { value, ms } = timed(() => orderMoves({ question, start, target: goal }));
    times.push(ms);
    if (value.moves) found.orders += 1;
    else if (value.proven) found.none += 1;
    else found.open += 1;
  }
  console.log(
    `order of moves, ${count} cases: ${found.orders} found, ${found.none} proved that none is with two stop-overs, ${found.open} open; median ${round(percentile(times, 0.5), 1)} ms, p95 ${round(percentile(times, 0.95))} ms`,
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
  create('site', id('002', 0), { name: 'shore' });
  create('hostGroup', id('003', 0), {
    name: 'all',
    vcpuPerCore: 4,
    memoryPercent: 100,
    reservePercent: 0,
  });
  create('pool', id('004', 0), { name: 'quay', usableBytes: 1e15, remote: 'shelf' });
  for (let n = 0; n < 50; n += 1)
    create('rack', id('005', n), { name: `r${n}`, siteId: id('002', 0), units: 42 });
  for (let n = 0; n < hosts; n += 1) {
    create('host', id('006', n), {
      name: `h${n}`,
      state: 'in service',
      siteId: id('002', 0),
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
  const now = new Date().toISOString();
  const domains = failureDomains(fleet);
  for (const kind of ['host', 'rack', 'site']) {
    const some = domains.filter((domain) => domain.kind === kind);
    const { value, ms } = timed(() =>
      some.map((domain) => failureFates(fleet, domain, now, { exactly })),
    );
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
if (!process.argv[2]) published([24, 48, 99], 4);
if (!process.argv[2]) evacuations(80);
if (!process.argv[2]) orders(120);
wholeGroup();
