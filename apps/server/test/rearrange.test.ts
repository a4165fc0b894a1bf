/** Moves that are looked for: in a thread of their own, looked at, stopped, drawn as a plan. */
import type {
  GuestSheet,
  PlacedBatchView,
  PlanSheet,
  Problem,
  RearrangedView,
  Searching,
  Written,
} from '@insel/contract';
import type { RearrangeProblem } from '@insel/core';
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  lookAt,
  NothingFound,
  search,
  stopSearch,
  TooManySearches,
} from '../dist/computation/searches.js';
import {
  guestBody,
  Installation,
  Person,
  recordSmall,
  recordTern,
  type Small,
} from './support/server.js';

let here: Installation;
let keeper: Person;
let small: Small;

beforeAll(async () => {
  here = new Installation();
  ({ administrator: keeper } = await here.begin());
  small = await recordSmall(keeper);
  await recordTern(keeper, small);
  for (const name of ['tide', 'ebb'])
    expect(
      (await keeper.make('guest.record', guestBody(small, name, { state: 'in service' }))).status,
    ).toBe(201);
});
afterAll(() => here.end());

const body = (more: object = {}) => ({
  aim: 'empty',
  groupId: null,
  emptiedIds: [small.hostId],
  mostMoves: 5,
  keepTolerance: false,
  linkBitsPerSecond: 1e9,
  seconds: 30,
  search: 'one',
  ...more,
});
const look = <T = RearrangedView>(more: object = {}) =>
  keeper.call<T>('POST', 'hosts/rearranged', body(more));

describe('emptying a host', () => {
  it('is answered with moves in order, their proof, and hosts before and after', async () => {
    const { status, body: found } = await look();
    expect(status).toBe(200);
    expect(found.headline).toBe('gannet can be emptied by 2 moves.');
    expect(found.proof).toBe('Proved: no plan moves less.');
    expect(found.cutShort).toBe(false);
    expect(found.moves.map(({ name, to, toPool }) => [name, to, toPool]).sort()).toEqual([
      ['ebb', 'tern', 'tern-data'],
      ['tide', 'tern', 'tern-data'],
    ]);
    // 10 GiB of disk each; stopped for the move, since nobody knows which processor they see.
    expect(found.bytes).toBe(2 * 10 * 1024 ** 3);
    expect(found.hosts.map(({ name, after }) => [name, after.guests])).toEqual([
      ['gannet', 0],
      ['tern', 2],
    ]);
  });

  it('is drawn as a plan, whose steps decide', async () => {
    const { body: found } = await look();
    const drawn = await keeper.make<Written>('plan.draw-moves', {
      name: 'empty gannet',
      purpose: found.headline,
      linkBitsPerSecond: 1e9,
      moves: found.moves.map((move) => ({
        guestId: move.guestId,
        targetHostId: move.toHostId,
        targetPoolId: move.toPoolId,
        running: move.running,
        remark: move.why,
      })),
    });
    expect(drawn.status).toBe(201);
    const { id } = drawn.body.created.find(({ kind }) => kind === 'plan')!;
    const { body: sheet } = await keeper.call<PlanSheet>('GET', `plans/${id}`);
    expect(sheet.steps.map(({ outcome }) => outcome?.refusal ?? null)).toEqual([null, null]);
    expect(sheet.steps[0]!.outcome!.title).toMatch(
      /^planned to migrate (tide|ebb) from gannet to tern/,
    );
  });

  it('within a plan it is asked of what would be', async () => {
    const { body: plans } = await keeper.call<{ id: string }[]>('GET', 'plans');
    const { body: found } = await keeper.call<RearrangedView>(
      'POST',
      `hosts/rearranged?plan=${plans[0]!.id}`,
      body(),
    );
    expect(found.stuck.map(({ why }) => why)).toEqual([
      'it has a migration to tern that is planned',
      'it has a migration to tern that is planned',
    ]);
    expect(found.proof).toMatch(/^Proved: no placement of all guests/);
  });

  it.each([
    ['no host', { emptiedIds: [] }, 422, 'rearrange'],
    [
      'a host that is none',
      { emptiedIds: ['0198a0c0-0000-7000-8000-000000000000'] },
      404,
      'not-found',
    ],
    ['another aim', { aim: 'all' }, 422, 'bad-field'],
    ['a group that is none', { groupId: '0198a0c0-0000-7000-8000-000000000000' }, 404, 'not-found'],
  ])('with %s is refused with a sentence', async (_, more, status, code) => {
    const refused = await look<Problem>(more);
    expect([refused.status, refused.body.code]).toEqual([status, code]);
    expect(refused.body.sentence).toMatch(/\.$/);
  });
});

describe('placing new guests', () => {
  const lot = (more: object = {}) => ({
    ...{ pattern: 'net-{n}', count: 3, family: 'Linux', profileId: null, labels: [] },
    guestGroupId: null,
    ...{ vcpu: 1, memoryMiB: 1024, bytes: 1e9, thin: false, poolId: null, networkIds: [] },
    ...{ processorMode: 'unknown', apart: 'none' },
    ...more,
  });
  const place = <T = PlacedBatchView>(more: object = {}) =>
    keeper.call<T>('POST', 'hosts/placed-batch', {
      ...{ groupId: null, lots: [lot()], aim: 'fewest', prices: [], makesRoom: false },
      ...{ keepTolerance: false, linkBitsPerSecond: 1e9, seconds: 10, search: 'batch' },
      ...more,
    });

  it('is answered with hosts and names, proved, and drawn as a plan whose steps decide', async () => {
    const { status, body: found } = await place();
    expect(status).toBe(200);
    expect(found.headline).toBe('3 guests go to 1 host; no empty host is taken into use.');
    expect(found.proof).toBe('Proved: no placing gets by with fewer than 1 host in use.');
    expect(found.guests.map(({ name }) => name)).toEqual(['net-1', 'net-2', 'net-3']);
    const drawn = await keeper.make<Written>('plan.draw-batch', {
      ...{ name: 'three nets', linkBitsPerSecond: 1e9, moves: [] },
      lots: [
        {
          ...{ family: 'Linux', vcpu: 1, memoryMiB: 1024, bytes: 1e9, thin: false },
          ...{ networkIds: [], apart: 'none', labels: ['nets'] },
        },
      ],
      guests: found.guests.map(({ lot: of, name, hostId, poolId }) => ({
        ...{ lot: of, name, hostId, poolId },
      })),
    });
    expect(drawn.status).toBe(201);
    const id = drawn.body.created.find(({ kind }) => kind === 'plan')!.id;
    const sheet = (await keeper.call<PlanSheet>('GET', `plans/${id}`)).body;
    expect(sheet.steps.map(({ outcome }) => outcome?.refusal)).toEqual([null, null, null]);
    const { rows } = (
      await keeper.call<{ rows: { id: string; name: string }[] }>('GET', `guests?plan=${id}`)
    ).body;
    const first = rows.find(({ name }) => name === 'net-1')!;
    const { guest } = (await keeper.call<GuestSheet>('GET', `guests/${first.id}?plan=${id}`)).body;
    expect(guest.labels).toEqual(['nets']);
  });

  it.each<[string, object, number, string]>([
    ['nobody', { lots: [] }, 422, 'rearrange'],
    ['names that are none', { lots: [lot({ pattern: 'net-{' })] }, 422, 'rearrange'],
    ['too many', { lots: [1, 2, 3].map(() => lot({ count: 200 })) }, 422, 'rearrange'],
    ['a lot that is too large', { lots: [lot({ count: 201 })] }, 422, 'bad-field'],
    [
      'a pool that is nowhere',
      { lots: [lot({ poolId: '00000000-0000-7000-8000-000000000009' })] },
      404,
      'not-found',
    ],
  ])('of %s is refused', async (_, more, status, code) => {
    const refused = await place<Problem>(more);
    expect([refused.status, refused.body.code]).toEqual([status, code]);
    expect(refused.body.sentence).toMatch(/\.$/);
  });
});

describe('evening out by use', () => {
  /** Both stand on one host; one is measured for eight days, the other for five. */
  const upload = async (lines: string[]) => {
    const { cookie } = keeper as unknown as { cookie: string };
    const path = `/api/samples/imports/${randomUUID()}?source=use.csv`;
    const { status } = await fetch(`${keeper.base}${path}`, {
      method: 'POST',
      headers: { 'Content-Type': 'text/csv', Cookie: cookie },
      body: `time,guest,cpu %,memory MiB\n${lines.join('\n')}`,
    });
    expect(status).toBe(201);
  };
  const samples = (name: string, days: number): string[] =>
    Array.from({ length: days * 48 }, (_, i) => {
      const at = new Date(Date.now() - i * 1_800_000);
      return `${at.toISOString()},${name},${at.getUTCHours() === 9 ? 80 + (i % 3) : 10},${200 + (i % 5)}`;
    });

  it('counts the percentiles of each hour, and says who was not measured long enough', async () => {
    await upload([...samples('tide', 8), ...samples('ebb', 5)]);
    const { body: found } = await look({ aim: 'even', emptiedIds: [], by: 'used' });
    expect(found.assumes).toContain('Measured: 1 of the 2 guests that count');
    expect(found.assumes).toContain('the other one counts with all that was given');
    expect(found.hosts.every(({ used }) => used !== null)).toBe(true);
    const { body: given } = await look({ aim: 'even', emptiedIds: [] });
    expect(given.assumes).toBe('');
    expect(given.hosts.map(({ used }) => used)).toEqual(given.hosts.map(() => null));
  });

  it('as PostgreSQL counts them: the percentile of an hour is that of its samples', async () => {
    const client = await here.connect();
    const { rows } = await client.query<{ cpu: number }>(
      `select percentile_cont(0.95) within group (order by cpu_percent) cpu from sample s join guest g on g.id = s.subject_id
        where g.name = 'tide' and extract(hour from at at time zone 'UTC') = 9`,
    );
    await client.end();
    const { body: found } = await look({ aim: 'even', emptiedIds: [], by: 'used', mostMoves: 1 });
    const gannet = found.hosts.find(({ name }) => name === 'gannet')!;
    // At nine: that share of tide's processor and all of ebb's, of 32 cores; memory is less than that.
    expect(rows[0]!.cpu).toBeGreaterThan(80);
    expect(gannet.used!.before).toBeCloseTo(((rows[0]!.cpu / 100 + 1) / 32) * 100, 9);
  });
});

it('what is not under way is neither looked at nor stopped', async () => {
  const far = await keeper.call<Searching>('GET', 'hosts/rearranged/nothing');
  expect(far.body).toEqual({ underWay: false, since: 0, best: null, settled: null });
  const stopped = await keeper.call<{ stopped: boolean }>(
    'POST',
    'hosts/rearranged/nothing/stop',
    {},
  );
  expect(stopped.body).toEqual({ stopped: false });
});

describe('searches that are under way', () => {
  /** Forty guests on four hosts: more than a moment's work, less than its time. */
  const problem = (): RearrangeProblem => {
    const [hosts, guests] = [4, 40];
    return {
      aim: 'even',
      mostMoves: 30,
      mostMiB: Infinity,
      use: null,
      keepTolerance: false,
      question: {
        ...{ units: guests, hosts, dims: 3, classes: 1, limits: [] },
        classOf: new Int32Array(hosts),
        need: Float64Array.from({ length: guests * 3 }, (_, i) => (i % 3 === 2 ? 0 : 1 + (i % 7))),
        room: Float64Array.from({ length: hosts * 3 }, () => 400),
        candidates: Array.from({ length: guests }, () => Int32Array.of(0, 1, 2, 3)),
      },
      mostRoom: Float64Array.from({ length: hosts * 3 }, () => 400),
      guestIds: Array.from({ length: guests }, (_, i) => `g${i}`),
      hostIds: ['a', 'b', 'c', 'd'],
      start: new Int32Array(guests),
      closed: [],
      has: Float64Array.from({ length: hosts * 3 }, () => 400),
      reserve: new Float64Array(hosts * 3),
      cost: new Float64Array(guests).fill(1),
      restarts: new Uint8Array(guests).fill(1),
    };
  };

  it('are seen by their names, at most three at once; one that is stopped ends, the others answer', async () => {
    const three = ['a', 'b', 'c'].map((name) => search(name, problem(), 50));
    expect(() => search('d', problem(), 50)).toThrow(TooManySearches);
    expect(['a', 'b', 'c', 'd'].map((name) => lookAt(name) !== null)).toEqual([
      ...[true, true, true, false],
    ]);
    expect([stopSearch('c'), stopSearch('d')]).toEqual([true, false]);
    const [one, other, stopped] = await Promise.allSettled(three);
    for (const answer of [one, other])
      expect(answer).toMatchObject({ status: 'fulfilled', value: { cutShort: false } });
    // It may have had something by then, or nothing.
    if (stopped!.status === 'rejected') expect(stopped!.reason).toBeInstanceOf(NothingFound);
    else expect(stopped!.value.solution.moves.length).toBeGreaterThan(0);
    expect(lookAt('a')).toBeNull();
  });
});
