/** How often a change and a question go to the database, and how soon other servers know. */
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { Proxy } from './support/proxy.js';
import { guestBody, Installation, PASSWORD, Person, recordSmall } from './support/server.js';

let here: Installation;
let proxy: Proxy;
let keeper: Person;
let other: Person;
let guestId: string;

beforeAll(async () => {
  here = new Installation();
  proxy = new Proxy(inject('cluster').port);
  const port = await proxy.listen();
  ({ administrator: keeper } = await here.begin({
    INSEL_DATABASE_URL: here.url('app').replace(/:\d+\//, `:${port}/`),
  }));
  const small = await recordSmall(keeper);
  const written = await keeper.make('guest.plan', guestBody(small, 'tide'));
  guestId = written.body.created.find(({ kind }) => kind === 'guest')!.id;
  // Not through the proxy: what it asks is not counted.
  other = await new Person((await here.startServer()).base).signIn('keeper');
});
afterAll(async () => {
  await here.end();
  proxy.close();
});

/** What goes to the database for a request: not the looks of the keeper, which come by themselves. */
async function trips(work: () => Promise<unknown>): Promise<string[]> {
  proxy.statements = [];
  await work();
  const { statements } = proxy;
  proxy.statements = undefined;
  return statements.filter((text) => !text.startsWith('select coalesce((select revision'));
}
const sheet = async (person: Person) =>
  (
    await person.call<{ guest: { id: string; revision: number; notes: string } }>(
      'GET',
      `guests/${guestId}`,
    )
  ).body.guest;

/** What the door wants to be told that was read. */
const seen = async (input: Record<string, unknown>) =>
  (await keeper.saying<{ current: unknown }>('guest.edit', input)).body.current;

describe('an ordinary change', () => {
  it('takes six trips at most, of which none asks who it is', async () => {
    const input = { id: guestId, notes: 'seen' };
    const expects = await seen(input);
    let status = 0;
    const made = await trips(async () => {
      ({ status } = await keeper.call(
        'POST',
        'changes/guest.edit',
        { input, expects },
        { 'Idempotency-Key': 'a'.repeat(32) },
      ));
    });
    expect(status).toBe(201);
    expect(made.length, made.join('\n')).toBeLessThanOrEqual(6);
    expect(made.join()).not.toContain('from session');
    expect((await sheet(keeper)).notes).toBe('seen');
  });
  it('is known to other servers at once', async () => {
    const input = { id: guestId, notes: 'heard of' };
    const [expects, began] = [await seen(input), performance.now()];
    expect((await keeper.saying('guest.edit', input, expects)).status).toBe(201);
    while ((await sheet(other)).notes !== 'heard of')
      if (performance.now() - began > 10_000) throw new Error('never heard of');
  });
});

describe('a question', () => {
  it('takes none while it is known who asks', async () => {
    await sheet(keeper);
    expect(await trips(() => sheet(keeper))).toEqual([]);
  });
});

describe('who is known for seconds', () => {
  it('is not once switched off, whichever server did it', async () => {
    for (const [name, switched] of [
      ['elsewhere', other],
      ['here', keeper],
    ] as const) {
      const { body } = await keeper.call<{ id: string }>('POST', 'people', {
        ...{ name, role: 'planner', password: PASSWORD },
      });
      const person = await new Person(keeper.base).signIn(name);
      expect((await person.call('GET', `guests/${guestId}`)).status).toBe(200);
      expect((await switched.call('PATCH', `people/${body.id}`, { active: false })).status).toBe(
        204,
      );
      const began = performance.now();
      while ((await person.call('GET', `guests/${guestId}`)).status !== 401)
        if (performance.now() - began > 1000) throw new Error(`${name}: still known`);
    }
  });
  it('has the new role, and has signed out where it was done elsewhere', async () => {
    const { body } = await keeper.call<{ id: string }>('POST', 'people', {
      ...{ name: 'mover', role: 'planner', password: PASSWORD },
    });
    const person = await new Person(keeper.base).signIn('mover');
    const twin = person.at(other.base);
    for (const one of [person, twin])
      expect((await one.call('GET', `guests/${guestId}`)).status).toBe(200);
    await other.call('PATCH', `people/${body.id}`, { role: 'reader' });
    const began = performance.now();
    const edit = () => person.call('POST', 'changes/log.note', { input: { text: 'x' } });
    while ((await edit()).status !== 403)
      if (performance.now() - began > 1000) throw new Error('still a planner');
    await twin.call('DELETE', 'session');
    const left = performance.now();
    while ((await person.call('GET', `guests/${guestId}`)).status !== 401)
      if (performance.now() - left > 1000) throw new Error('still signed in');
  });
});
