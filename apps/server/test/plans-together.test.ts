/** One plan, two servers: shown alike, carried out by both at once, and by one that is killed on the way: never half, never twice. */
import type { PlanSheet, Problem, Written } from '@insel/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  guestBody,
  Installation,
  type Person,
  recordSmall,
  type Server,
  type Small,
} from './support/server.js';

let here: Installation;
let one: Person;
let small: Small;
let second: Server;
let other: Person;

beforeAll(async () => {
  here = new Installation();
  ({ administrator: one } = await here.begin());
  small = await recordSmall(one);
  second = await here.startServer();
  other = one.at(second.base);
});
afterAll(() => here.end());

async function planOf(name: string, guests: number): Promise<string> {
  const { body } = await one.make<Written>('plan.record', { name });
  const planId = body.created.find(({ kind }) => kind === 'plan')!.id;
  for (let n = 1; n <= guests; n += 1) {
    const input = guestBody(small, `${name}-${n}`);
    const drawn = await one.call('POST', `changes/guest.plan?plan=${planId}`, { input });
    expect(drawn.status).toBe(201);
  }
  return planId;
}

const sheetOf = async (by: Person, planId: string) =>
  (await by.call<PlanSheet>('GET', `plans/${planId}`)).body;
const openOf = ({ steps }: PlanSheet) => steps.filter(({ outcome }) => outcome !== null);
const namesOf = async (by: Person) =>
  (await by.call<{ rows: { name: string }[] }>('GET', 'guests?take=200')).body.rows.map(
    ({ name }) => name,
  );

/**
 * Carries out one open step after another, as long as there are some; what another did meanwhile is passed over.
 * @param before hears of how many are done, before each
 */
async function carryOutAll(
  by: Person,
  planId: string,
  before: (done: number) => void = () => {},
): Promise<number> {
  let done = 0;
  for (;;) {
    const open = openOf(await sheetOf(by, planId));
    if (open.length === 0) return done;
    for (const { id } of open) {
      before(done);
      const { status, body } = await by.make<Problem>('plan-step.carry-out', { id });
      if (status === 201) done += 1;
      else expect([status, body.code]).toEqual([expect.toSatisfy((n: number) => n >= 409), expect.any(String)]); // prettier-ignore
    }
  }
}

async function caughtUp(): Promise<void> {
  const revisionOf = async (by: Person) =>
    (await by.call<{ revision: number }>('GET', 'chart')).body.revision;
  await expect.poll(async () => (await revisionOf(one)) === (await revisionOf(other))).toBe(true);
}

describe('one plan', () => {
  it('is shown the same way by both', async () => {
    const planId = await planOf('alike', 3);
    await caughtUp();
    expect(await sheetOf(other, planId)).toEqual(await sheetOf(one, planId));
    for (const path of ['guests', 'hosts', 'chart', 'findings', 'waterline']) {
      const [here, there] = await Promise.all(
        [one, other].map((by) => by.call<object>('GET', `${path}?plan=${planId}`)),
      );
      expect([path, there!.body]).toEqual([path, here!.body]);
    }
  });

  it('carried out by both at once, each step is done once', async () => {
    const planId = await planOf('both', 8);
    await caughtUp();
    const done = await Promise.all([carryOutAll(one, planId), carryOutAll(other, planId)]);
    expect(done[0]! + done[1]!).toBe(8);
    const names = (await namesOf(one)).filter((name) => name.startsWith('both-'));
    expect(names.sort()).toEqual(Array.from({ length: 8 }, (_, i) => `both-${i + 1}`));
    await caughtUp();
    expect((await sheetOf(other, planId)).plan.state).toBe('carried out');
    expect(here.checkRecord().stdout).toContain('The three agree.');
  });

  it('carried out by one that is killed on the way, the other ends it: nothing half, nothing twice', async () => {
    const planId = await planOf('killed', 24);
    await caughtUp();
    // It dies while the sixth is on its way to it, or just done.
    const killed = carryOutAll(other, planId, (done) => {
      if (done === 5) setTimeout(() => second.process.kill('SIGKILL'), 5);
    });
    await expect(killed).rejects.toThrow();
    // What was done stands whole, as soon as the other server has heard of it: as many guests as steps that are no longer open.
    await expect
      .poll(async () => {
        const left = openOf(await sheetOf(one, planId)).length;
        const names = (await namesOf(one)).filter((name) => name.startsWith('killed-'));
        return [names.length + left, left <= 19];
      })
      .toEqual([24, true]);
    await carryOutAll(one, planId);
    const all = (await namesOf(one)).filter((name) => name.startsWith('killed-'));
    expect(all.sort()).toEqual(Array.from({ length: 24 }, (_, i) => `killed-${i + 1}`).sort());
    expect((await sheetOf(one, planId)).plan.state).toBe('carried out');
    expect(here.checkRecord().stdout).toContain('The three agree.');
  });
});

describe('what was shown', () => {
  it('is what is there when all was carried out', async () => {
    const planId = await planOf('shown', 4);
    const host = { id: small.hostId, notes: 'as drawn' };
    const edited = await one.call('POST', `changes/host.edit?plan=${planId}`, { input: host });
    expect(edited.status).toBe(201);
    const look = async (query: string) => {
      const bodies = await Promise.all(
        ['guests', 'hosts', `hosts/${small.hostId}`, 'waterline', 'pools'].map((path) =>
          one.call<object>('GET', `${path}${query}`),
        ),
      );
      return bodies.map(({ body }) => plain(body));
    };
    const shown = await look(`?plan=${planId}`);
    await carryOutAll(one, planId);
    expect(await look('')).toEqual(shown);
  });
});

/** Without revisions, times and marks of what is drawn: those of the plan are its own. */
const plain = (body: object): unknown =>
  JSON.parse(
    JSON.stringify(body, (key, value: unknown) =>
      ['revision', 'at', 'since', 'marks', 'drawn'].includes(key) ? undefined : value,
    ),
  );
