/** Answers that are lost on the way: what was recorded is known, and what cannot be known is said. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, inject, it, vi } from 'vitest';
import { Proxy } from './support/proxy.js';
import { Installation, Person } from './support/server.js';

interface Answered {
  code?: string;
  sentence?: string;
  title?: string;
  revision: number;
}

let here: Installation;
let proxy: Proxy;
let keeper: Person;
let other: Person;

beforeAll(async () => {
  here = new Installation();
  const { administrator } = await here.begin();
  other = administrator;
  const { port } = inject('cluster');
  proxy = new Proxy(port);
  const through = here.url('app').replace(`:${port}/`, `:${await proxy.listen()}/`);
  const server = await here.startServer({ INSEL_DATABASE_URL: through });
  keeper = await new Person(server.base).signIn('keeper');
});
afterAll(async () => {
  await here.end();
  proxy.close();
});

const site = (name: string, key = randomUUID()) =>
  keeper.make<Answered>('site.record', { name }, { 'Idempotency-Key': key });
const sites = async () => {
  // Time for the other server to hear of it.
  await new Promise((resolve) => setTimeout(resolve, 600));
  return (await other.call<{ name: string }[]>('GET', 'sites')).body.map(({ name }) => name);
};

describe('a connection to the database that is cut', () => {
  it('after the commit: the change is told as recorded, since it is', async () => {
    for (let i = 0; i < 8; i += 1) {
      proxy.cutAt = { statement: 'commit', when: 'after' };
      const answer = await site(`After ${i}`);
      expect(proxy.cutAt).toBeUndefined();
      expect([answer.status, answer.body.title]).toEqual([201, `recorded site After ${i}`]);
    }
    // The other server hears of it a moment later.
    const after = async () => (await sites()).filter((name) => name.startsWith('After'));
    await vi.waitFor(async () => expect(await after()).toHaveLength(8), 20_000);
  });
  it('before the commit: nothing was altered, and that is said', async () => {
    proxy.cutAt = { statement: 'commit', when: 'before' };
    const answer = await site('Before');
    expect([answer.status, answer.body.sentence]).toEqual([
      503,
      'The database does not answer. Nothing was altered.',
    ]);
    expect(await sites()).not.toContain('Before');
    expect((await site('Before')).status).toBe(201);
  });
  it('after the commit, and the database stays away: it is said that nobody knows', async () => {
    const key = randomUUID();
    proxy.cutAt = { statement: 'commit', when: 'after', all: true };
    proxy.shut = true;
    expect((await site('Perhaps', key)).body).toMatchObject({
      status: 503,
      code: 'perhaps-recorded',
      sentence: 'Insel failed at this. It may have been recorded; look before you repeat.',
    });
    proxy.shut = false;
    const found = await keeper.call<Answered>('GET', `changes/answers/${key}`);
    expect([found.status, found.body.title]).toEqual([200, 'recorded site Perhaps']);
    const again = await site('Perhaps', key);
    expect([again.status, again.body.revision]).toEqual([201, found.body.revision]);
  });
  it('a key under which nothing was recorded is told as such, to nobody else', async () => {
    const key = randomUUID();
    expect((await keeper.call<Answered>('GET', `changes/answers/${key}`)).body.code).toBe(
      'not-recorded',
    );
  });
  it('leaves log, tables and memory in agreement', () => {
    expect(here.checkRecord().stdout).toContain('The three agree.');
  });
});
