/** Plans through the door: a change with a plan in its address is drawn, every read shows it, carrying out does it. */
import type { PlanSheet, Preview, Problem, Written } from '@insel/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { guestBody, Installation, Person, recordSmall, type Small } from './support/server.js';

let here: Installation;
let keeper: Person;
let small: Small;
let planId: string;

beforeAll(async () => {
  here = new Installation();
  ({ administrator: keeper } = await here.begin());
  small = await recordSmall(keeper);
  const { body } = await keeper.make<Written>('plan.record', { name: 'autumn' });
  planId = body.created.find(({ kind }) => kind === 'plan')!.id;
});
afterAll(() => here.end());

const draw = <T = Written>(type: string, input: object, plan = planId) =>
  keeper.call<T>('POST', `changes/${type}?plan=${plan}`, { input });
const sheet = async () => (await keeper.call<PlanSheet>('GET', `plans/${planId}`)).body;
const names = async (query: string) => {
  const { body } = await keeper.call<{ rows: { name: string }[] }>('GET', `guests?${query}`);
  return body.rows.map(({ name }) => name);
};

describe('a change with a plan in its address', () => {
  it('is drawn: the record stays, every read with the plan shows what would be', async () => {
    const drawn = await draw('guest.plan', guestBody(small, 'tide'));
    expect([drawn.status, drawn.body.title]).toEqual([
      201,
      expect.stringMatching(/^drew in autumn: planned guest tide/),
    ]);
    expect(await names('')).toEqual([]);
    expect(await names(`plan=${planId}`)).toEqual(['tide']);
    const host = (query: string) =>
      keeper.call<{ guests: unknown[] }>('GET', `hosts/${small.hostId}${query}`);
    const [now, then] = [await host(''), await host(`?plan=${planId}`)];
    expect(JSON.stringify(then.body)).toContain('tide');
    expect(JSON.stringify(now.body)).not.toContain('tide');
    for (const path of ['findings', 'tolerance', 'waterline', 'chart', 'pools'])
      expect([path, (await keeper.call('GET', `${path}?plan=${planId}`)).status]).toEqual([
        path,
        200,
      ]);
  });
  it('is checked by its class, and refused by what stands in the plan', async () => {
    const bad = await draw<Problem>('guest.plan', { ...guestBody(small, 'ebb'), vcpu: 'many' });
    expect([bad.status, bad.body.code, bad.body.field]).toEqual([422, 'bad-field', 'vcpu']);
    const twice = await draw<Problem>('guest.plan', guestBody(small, 'tide'));
    expect([twice.status, twice.body.code]).toEqual([422, 'name-taken']);
    const told = await draw<Problem>('log.note', { text: 'later' });
    expect(told.body.code).toBe('not-drawable');
    for (const plan of ['nonsense', small.hostId]) {
      const none = await draw<Problem>('guest.plan', guestBody(small, 'ebb'), plan);
      expect([plan, none.status]).toEqual([
        plan,
        expect.toSatisfy((n: number) => n >= 400 && n < 500),
      ]);
      const read = await keeper.call<Problem>('GET', `guests?plan=${plan}`);
      expect([read.status, read.body.code]).toEqual([404, 'not-found']);
    }
  });
  it('is previewed on the plan', async () => {
    const { body } = await keeper.call<Preview>(
      'POST',
      `changes/guest.plan/preview?plan=${planId}`,
      {
        input: guestBody(small, 'tide'),
      },
    );
    expect(body.objections.map(({ code }) => code)).toContain('name-taken');
  });
  it('stands on the sheet of the plan with what it comes to', async () => {
    const { steps, marks, moves, addresses, plan } = await sheet();
    // For the chart and the ruler: what it takes where, and the address that it is given.
    expect(moves).toMatchObject([
      { name: 'tide', was: null, is: { hostId: small.hostId }, goesTo: null },
    ]);
    expect(addresses.map(({ how }) => how)).toEqual(['new']);
    expect(plan.name).toBe('autumn');
    expect(steps.map(({ change, outcome }) => [change, outcome!.title])).toEqual([
      ['Plan a guest', expect.stringContaining('planned guest tide')],
    ]);
    expect(marks).toContainEqual(expect.objectContaining({ name: 'tide', how: 'new' }));
  });
});

describe('carrying out', () => {
  it('gives what was shown, with the same ids, and the log names plan and step', async () => {
    const { rows } = (
      await keeper.call<{ rows: { id: string; name: string }[] }>('GET', `guests?plan=${planId}`)
    ).body;
    const [step] = (await sheet()).steps;
    const done = await keeper.make<Written>('plan-step.carry-out', { id: step!.id });
    expect([done.status, done.body.title]).toEqual([
      201,
      expect.stringMatching(/tide.*\(autumn, step 1\)$/),
    ]);
    const now = (await keeper.call<{ rows: { id: string; name: string }[] }>('GET', 'guests')).body;
    expect(now.rows.map(({ id, name }) => [id, name])).toEqual(
      rows.map(({ id, name }) => [id, name]),
    );
    const { plan, steps } = await sheet();
    expect([plan.state, steps[0]!.outcome]).toEqual(['carried out', null]);
    expect(here.checkRecord().stdout).toContain('The three agree.');
  });
  it('of a step that the record has overtaken is refused, and the sheet says why', async () => {
    await keeper.make('plan.edit', { id: planId, state: 'drawn' });
    await draw('guest.plan', guestBody(small, 'ebb'));
    await keeper.make('guest.plan', guestBody(small, 'ebb'));
    const step = (await sheet()).steps.at(-1)!;
    expect(step.outcome!.refusal!.sentence).toContain('ebb');
    const { status, body } = await keeper.make<Problem>('plan-step.carry-out', { id: step.id });
    expect([status, body.code]).toEqual([422, 'name-taken']);
  });
  it('twice at once is done once', async () => {
    const { id } = (await sheet()).steps.at(-1)!;
    await keeper.make('plan-step.remove', { id });
    await draw('guest.plan', guestBody(small, 'flood'));
    const step = (await sheet()).steps.at(-1)!;
    const answers = await Promise.all(
      [1, 2].map(() => keeper.make<Problem>('plan-step.carry-out', { id: step.id })),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([
      201,
      expect.toSatisfy((n: number) => n >= 409),
    ]);
    expect((await names('')).filter((name) => name === 'flood')).toHaveLength(1);
  });
});
