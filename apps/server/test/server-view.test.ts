/** What an administrator sees of the server, and the ceiling of what it keeps. */
import type { ServerView, ThreadFigures, Written } from '@insel/contract';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import {
  guestBody,
  Installation,
  PASSWORD,
  Person,
  recordSmall,
  type Server,
  type Small,
} from './support/server.js';

let here: Installation;
let server: Server;
let administrator: Person;
let small: Small;

beforeAll(async () => {
  here = new Installation();
  ({ server, administrator } = await here.begin());
  small = await recordSmall(administrator);
});
afterAll(() => here.end());

/** With what its worker says, which is not waited for while that is busy. */
const viewOf = (by: Person): Promise<ServerView & { worker: ThreadFigures }> =>
  vi.waitFor(
    async () => {
      const { body } = await by.call<ServerView>('GET', 'server');
      if (!body.worker) throw new Error('the worker is busy');
      return { ...body, worker: body.worker };
    },
    { timeout: 30_000 },
  );

describe('the server', () => {
  it('tells how long changes waited and took, and what is kept', async () => {
    await administrator.call('GET', `hosts/${small.hostId}`);
    const before = await viewOf(administrator);
    const edits = ['one', 'two', 'three'];
    for (const notes of edits)
      await administrator.make<Written>('host.edit', { id: small.hostId, notes });
    await administrator.call('GET', `hosts/${small.hostId}`);
    const view = await viewOf(administrator);
    const { changes, values, revision, noted } = view;
    const timesOf = (all: ServerView['changes']) =>
      all.find(({ type }) => type === 'host.edit')?.times ?? 0;
    expect(timesOf(changes) - timesOf(before.changes)).toBe(edits.length);
    const { waited, decided } = changes.find(({ type }) => type === 'host.edit')!;
    for (const spread of [waited!, decided!]) {
      expect(spread.median).toBeGreaterThan(0);
      expect(spread.p95).toBeGreaterThanOrEqual(spread.median);
      expect(spread.most).toBeGreaterThanOrEqual(spread.p95);
    }
    expect(revision).toBe(before.revision + edits.length);
    expect(view.heapMiB + view.worker.heapMiB).toBeLessThanOrEqual(view.processMiB);
    expect(view.worker.values.map(({ name }) => name)).toContain('guest|findings');
    expect(noted).toBeGreaterThan(0);
    expect(view.edges).toBeGreaterThan(noted);
    expect(view.worker.bytes).toBeGreaterThan(0);
    const woken = values.filter(({ wokenBy }) => wokenBy.some(({ by }) => by === 'host'));
    expect(woken.length).toBeGreaterThan(0);
    // What was made was asked for.
    for (const { name, uses, made } of values) expect([name, uses >= made]).toEqual([name, true]);
  });

  it('is for administrators only', async () => {
    const planner = { name: 'planner', role: 'planner', password: PASSWORD };
    await administrator.call('POST', 'people', planner);
    const signedIn = await new Person(server.base).signIn('planner');
    expect((await signedIn.call('GET', 'server')).status).toBe(403);
    expect((await new Person(server.base).call('GET', 'server')).status).toBe(401);
  });
});

describe('above its ceiling', () => {
  it('lets go of what it keeps, and answers as before', async () => {
    const low = await here.startServer({ INSEL_HEAP_CEILING_MIB: '1' });
    const there = administrator.at(low.base);
    const look = async (by: Person) => {
      const paths = ['guests', 'hosts', `hosts/${small.hostId}`, 'chart', 'findings', 'waterline'];
      const answers = await Promise.all(paths.map((path) => by.call<object>('GET', path)));
      return answers.map(({ body }) => body);
    };
    await look(there);
    const made = await there.make<Written>('guest.plan', guestBody(small, 'petrel'));
    expect(made.status).toBe(201);
    const { letGo, ceilingMiB, worker } = await viewOf(there);
    expect([letGo, worker.letGo, ceilingMiB]).toEqual([1, 1, 1]);
    // Again is soon enough after a minute.
    await there.make<Written>('guest.plan', guestBody(small, 'shag'));
    expect((await viewOf(there)).letGo).toBe(1);
    await expect
      .poll(async () => (await viewOf(administrator)).revision)
      .toBe((await viewOf(there)).revision);
    expect(await look(there)).toEqual(await look(administrator));
    expect(low.output()).toContain('what is kept was let go');
  });
});
