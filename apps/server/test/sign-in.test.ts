/** Signing in under attack, passwords of one's own, tokens, and the log of accounts. */
import type { AccountEntry, ApiToken, Person as Listed, Problem } from '@insel/contract';
import { spawnSync } from 'node:child_process';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Installation, PASSWORD, Person, type Server } from './support/server.js';

let here: Installation;
let server: Server;
let keeper: Person;

beforeAll(async () => {
  here = new Installation();
  // A proxy that is named is believed: tests come from wherever they like.
  server = await here.startServer({ INSEL_PROXY: '127.0.0.1' });
  keeper = new Person(server.base);
  await keeper.call('POST', 'set-up', {
    token: server.setUpToken,
    name: 'keeper',
    password: PASSWORD,
  });
  await keeper.signIn('keeper');
  for (const name of ['planner', 'reader'])
    await keeper.call('POST', 'people', { name, role: name, password: PASSWORD });
});
afterAll(() => here.end());

const from = (source: string) => ({ 'X-Forwarded-For': source });
const attempt = (name: string, password: string, source: string) =>
  new Person(server.base).call<Problem>('POST', 'session', { name, password }, from(source));
const idOf = async (name: string) => {
  const { body } = await keeper.call<Listed[]>('GET', 'people');
  return body.find((person) => person.name === name)!.id;
};

describe('an attack on one name', () => {
  it('of 200 at once compares a handful, wherever the rest came in between', async () => {
    const answers = await Promise.all(
      Array.from({ length: 200 }, () => attempt('reader', 'wrong', '192.0.2.1')),
    );
    const compared = answers.filter(({ status }) => status === 401).length;
    // Five, and one for each second or two that the crowd itself takes.
    expect(compared).toBeLessThanOrEqual(10);
    const told = answers.find(({ status }) => status === 429)!;
    expect(told.body.code).toBe('too-many-attempts');
    expect(Number(told.headers.get('retry-after'))).toBeGreaterThan(0);
  });
  it('keeps nobody out who comes from elsewhere, not even for a second', async () => {
    expect((await attempt('reader', PASSWORD, '192.0.2.2')).status).toBe(201);
  });
  it('waits twice as long each time, a minute at most, and then lets the right word in', async () => {
    const client = await here.connect();
    await client.query(`update sign_in_attempt set at = at - interval '61 seconds'`);
    await client.end();
    expect((await attempt('reader', PASSWORD, '192.0.2.1')).status).toBe(201);
  });
  it('from many places makes strangers wait, and never who was there before', async () => {
    for (let i = 0; i < 31; i += 1) await attempt('planner', 'wrong', `198.51.100.${i}`);
    const client = await here.connect();
    await client.query(
      `insert into sign_in_attempt (name, source, at, outcome) values ('planner', '203.0.113.5', now() - interval '2 days', 'right')`,
    );
    await client.end();
    expect((await attempt('planner', PASSWORD, '203.0.113.6')).status).toBe(429);
    expect((await attempt('planner', PASSWORD, '203.0.113.5')).status).toBe(201);
  });
  it('many names from one place have to wait as well', async () => {
    for (let i = 0; i < 31; i += 1) await attempt(`nobody-${i}`, 'wrong', '192.0.2.9');
    expect((await attempt('keeper', PASSWORD, '192.0.2.9')).status).toBe(429);
  });
});

it('strangers by the hundred never keep a real sign-in waiting until all of them are through', async () => {
  const client = await here.connect();
  await client.query('delete from sign_in_attempt');
  await client.query(
    `insert into sign_in_attempt (name, source, at, outcome) values ('keeper', '203.0.113.9', now(), 'right')`,
  );
  await client.end();
  // Strangers whose password was compared, so far.
  let compared = 0;
  const crowd = Array.from({ length: 120 }, async (_, i) => {
    const { status } = await attempt(`nobody-${i}`, 'wrong', `198.51.100.${i}`);
    compared += Number(status === 401);
    return status;
  });
  await new Promise((resolve) => setTimeout(resolve, 100));
  expect((await attempt('keeper', PASSWORD, '203.0.113.9')).status).toBe(201);
  const before = compared;
  expect(await Promise.all(crowd)).toContain(503);
  // In seconds this would ask how fast the machine is: counted is whether it waits for the crowd.
  expect(before).toBeLessThan(compared);
});

it('a wrong name takes as long as a wrong password', async () => {
  const client = await here.connect();
  const median = async (name: string) => {
    const times: number[] = [];
    for (let i = 0; i < 9; i += 1) {
      await client.query('delete from sign_in_attempt');
      const began = performance.now();
      await attempt(name, 'wrong', '192.0.2.77');
      times.push(performance.now() - began);
    }
    return times.sort((a, b) => a - b)[4]!;
  };
  const [known, unknown] = [await median('keeper'), await median('nobody')];
  await client.end();
  // Without the comparison a wrong name would take a tenth of it; other tests run beside this one.
  expect(Math.min(known, unknown) / Math.max(known, unknown)).toBeGreaterThan(0.2);
});

describe('from the console', () => {
  it('somebody who is locked out is let in, once, with a new password', async () => {
    for (let i = 0; i < 7; i += 1) await attempt('keeper', 'wrong', '192.0.2.1');
    const cli = new URL('../dist/cli/let-in.js', import.meta.url).pathname;
    const run = (name: string) =>
      spawnSync(process.execPath, [cli, name], {
        encoding: 'utf8',
        env: { ...process.env, INSEL_DATABASE_URL: here.url('app') },
      });
    const token = /INSEL_LET_IN (\S+) keeper/.exec(run('keeper').stdout)![1]!;
    const use = () =>
      new Person(server.base).call<{ name: string; code: string }>('POST', 'set-up', {
        token,
        name: 'whoever',
        password: PASSWORD,
      });
    expect((await use()).body.name).toBe('keeper');
    expect((await use()).body.code).toBe('bad-set-up-token');
    expect((await attempt('keeper', PASSWORD, '192.0.2.1')).status).toBe(201);
    await keeper.signIn('keeper');
    const nobody = run('nobody');
    expect([nobody.status, nobody.stderr]).toEqual([
      1,
      expect.stringContaining('There is nobody named nobody.'),
    ]);
  });
});

describe('administrators', () => {
  it('two who demote each other at once leave one, ten times of ten', async () => {
    await keeper.call('POST', 'people', {
      name: 'second',
      role: 'administrator',
      password: PASSWORD,
    });
    const ids = [await idOf('keeper'), await idOf('second')];
    for (let i = 0; i < 10; i += 1) {
      const client = await here.connect();
      await client.query(`update person set role = 'administrator' where id = any($1)`, [ids]);
      await client.query('delete from sign_in_attempt');
      await client.end();
      const second = await new Person(server.base).signIn('second');
      const [first] = [await new Person(server.base).signIn('keeper')];
      await Promise.all([
        first.call('PATCH', `people/${ids[1]}`, { role: 'reader' }),
        second.call('PATCH', `people/${ids[0]}`, { role: 'reader' }),
      ]);
      const check = await here.connect();
      const { rows } = await check.query(
        `select count(*)::int as n from person where role = 'administrator' and active`,
      );
      await check.query(`update person set role = 'administrator' where id = $1`, [ids[0]]);
      await check.end();
      expect(rows[0].n).toBeGreaterThanOrEqual(1);
    }
  });
  it('an id that is none names nobody', async () => {
    for (const id of ['x', '%00', "'", '00000000-0000-0000-0000-000000000000'])
      expect([id, (await keeper.call('PATCH', `people/${id}`, { role: 'reader' })).status]).toEqual(
        [id, 404],
      );
  });
  it('the same new person twice at once is one, and a sentence', async () => {
    const body = { name: 'twice', role: 'reader', password: PASSWORD };
    const answers = await Promise.all(
      [1, 2, 3].map(() => keeper.call<Problem>('POST', 'people', body)),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 422, 422]);
  });
});

describe('one’s own password', () => {
  const NEW = 'another long enough password';
  it('is changed with the old one; other sessions end, tokens by choice', async () => {
    const [one, other] = [
      await new Person(server.base).signIn('reader'),
      await new Person(server.base).signIn('reader'),
    ];
    const { body } = await one.call<{ token: string }>('POST', 'tokens', { label: 'export' });
    const script = () =>
      new Person(server.base).call('GET', 'hosts', undefined, {
        Authorization: `Bearer ${body.token}`,
      });
    const change = (old: string, password: string, tokens = false) =>
      one.call<Problem>('POST', 'password', { old, password, tokens });
    expect((await change('wrong', NEW)).body).toMatchObject({ status: 422, field: 'old' });
    expect((await change(PASSWORD, NEW)).status).toBe(204);
    expect((await one.call('GET', 'hosts')).status).toBe(200);
    expect((await other.call('GET', 'hosts')).status).toBe(401);
    expect((await script()).status).toBe(200);
    expect((await change(NEW, PASSWORD, true)).status).toBe(204);
    expect((await script()).status).toBe(401);
  });
});

describe('tokens', () => {
  it('are listed and revoked by their owner and by administrators, not by others', async () => {
    const planner = await new Person(server.base).signIn('planner');
    const made = await planner.call<{ id: string }>('POST', 'tokens', { label: 'nightly' });
    const all = async (who: Person) =>
      (await who.call<ApiToken[]>('GET', 'tokens')).body.map(({ label, owner, mine }) => [
        label,
        owner,
        mine,
      ]);
    expect(await all(planner)).toEqual([['nightly', 'planner', true]]);
    expect(await all(keeper)).toEqual([['nightly', 'planner', false]]);
    const reader = await new Person(server.base).signIn('reader');
    expect(await all(reader)).toEqual([]);
    expect((await reader.call('DELETE', `tokens/${made.body.id}`)).status).toBe(404);
    expect((await keeper.call('DELETE', `tokens/${made.body.id}`)).status).toBe(204);
    expect(await all(planner)).toEqual([]);
  });
  it('of somebody who was switched off are gone for good', async () => {
    const planner = await new Person(server.base).signIn('planner');
    const { body } = await planner.call<{ token: string }>('POST', 'tokens', { label: 'old' });
    const id = await idOf('planner');
    await keeper.call('PATCH', `people/${id}`, { active: false });
    await keeper.call('PATCH', `people/${id}`, { active: true });
    const script = await new Person(server.base).call('GET', 'hosts', undefined, {
      Authorization: `Bearer ${body.token}`,
    });
    expect(script.status).toBe(401);
  });
});

describe('what is open', () => {
  it('ends with its session at once', async () => {
    const reader = await new Person(server.base).signIn('reader');
    const cookie = (reader as unknown as { cookie: string }).cookie;
    const stream = await fetch(`${server.base}/api/events`, { headers: { Cookie: cookie } });
    const text = stream.text();
    await reader.call('DELETE', 'session');
    const began = performance.now();
    expect(await text).toContain('signed-out');
    expect(performance.now() - began).toBeLessThan(10_000);
  });
  it('behind a proxy that speaks TLS has a cookie that goes over TLS only', async () => {
    const { headers } = await attempt('reader', PASSWORD, '203.0.113.40');
    expect(headers.get('set-cookie')).toMatch(/; Secure/);
  });
});

it('all that was done to accounts stands in a log that can only be added to', async () => {
  const { body } = await keeper.call<AccountEntry[]>('GET', 'people/log');
  const told = body.map(({ actor, about, what }) => `${actor}: ${about} ${what}`);
  for (const line of [
    'the console: keeper added as the first administrator',
    'keeper: reader added as reader',
    'the console: keeper given a new password from the console',
    'reader: reader changed the password; other sessions ended, and all tokens',
    'keeper: planner revoked the token nightly',
    'keeper: planner switched off; sessions and tokens ended',
  ])
    expect(told).toContain(line);
  const client = await here.connect();
  for (const sql of ['update account_log set what = $$x$$', 'delete from account_log'])
    await expect(client.query(sql)).rejects.toThrow(/permission denied|append-only/);
  await client.end();
});
