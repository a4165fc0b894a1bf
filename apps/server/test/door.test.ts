/** What is asked of a request before anything is made of it: role, size, depth, counts; and what is never said of it. */
import { randomUUID } from 'node:crypto';
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

interface Problem {
  status: number;
  code: string;
  sentence: string;
  field?: string;
  errors?: unknown[];
}

let here: Installation;
let server: Server;
let keeper: Person;
let small: Small;

beforeAll(async () => {
  here = new Installation();
  ({ server, administrator: keeper } = await here.begin());
  small = await recordSmall(keeper);
  await keeper.call('POST', 'people', { name: 'reader', role: 'reader', password: PASSWORD });
});
afterAll(() => here.end());

const many = <T>(n: number, make: (i: number) => T): T[] =>
  Array.from({ length: n }, (_, i) => make(i));
const nested = (depth: number): string => '['.repeat(depth) + ']'.repeat(depth);

/** The longest that another request waited while this one was being answered, in ms. */
async function longestWait(work: Promise<unknown>): Promise<number> {
  let longest = 0;
  let going = true;
  const done = work.finally(() => (going = false));
  while (going) {
    const began = performance.now();
    await fetch(`${server.base}/api/health`);
    longest = Math.max(longest, performance.now() - began);
  }
  await done;
  return longest;
}

describe('before signing in', () => {
  it('a hundred thousand fields are too much to say', async () => {
    const body = Object.fromEntries(many(100_000, (i) => [`field${i}`, 1]));
    const answer = await new Person(server.base).call<Problem>('POST', 'session', body);
    expect([answer.status, answer.body.code]).toEqual([413, 'too-large']);
  });
  it('five hundred get twenty complaints', async () => {
    const body = Object.fromEntries(many(500, (i) => [`field${i}`, 1]));
    const answer = await new Person(server.base).call<Problem>('POST', 'session', body);
    expect([answer.status, answer.body.errors!.length]).toEqual([422, 20]);
  });
  it('a name that is a well of brackets is no name', async () => {
    const body = `{"name": ${nested(3000)}, "password": "x"}`;
    const answer = await new Person(server.base).call<Problem>('POST', 'session', body);
    expect(answer.body).toMatchObject({ status: 422, field: 'name' });
  });
});

describe('a body', () => {
  it.each<[string, string, () => object | string, object]>([
    [
      'sixty thousand parts',
      'guest.plan',
      () => guestBody(small, 'x', { volumes: many(60_000, () => ({})) }),
      { field: 'volumes', sentence: 'At most 64.' },
    ],
    [
      'more parts in all than anybody types',
      'guest.record-many',
      () => ({ guests: many(400, () => ({ volumes: many(60, () => ({})) })) }),
      { sentence: 'At most 10,000 parts in one request.' },
    ],
    [
      'more guests than a list takes',
      'guest.record-many',
      () => ({ guests: many(5000, () => ({})) }),
      { field: 'guests', sentence: 'At most 500.' },
    ],
    [
      'fields that nobody knows',
      'site.record',
      () => Object.fromEntries(many(100_000, (i) => [`field${i}`, 1])),
      { field: 'field0', sentence: 'There is no field "field0" here.' },
    ],
    [
      'a list for an object',
      'site.record',
      () => [],
      { sentence: 'An object is wanted here, no list.' },
    ],
    [
      'an object for a text',
      'site.record',
      () => ({ name: { constructor: 1 } }),
      { field: 'name', sentence: 'A single value is wanted here.' },
    ],
    [
      'a text for a list',
      'guest.plan',
      () => guestBody(small, 'x', { volumes: 'none' }),
      { field: 'volumes', sentence: 'Give a list.' },
    ],
    [
      'a key that is none',
      'site.record',
      () => JSON.parse('{"__proto__": {"name": "x"}}') as object,
      { field: '__proto__' },
    ],
    [
      'a well of brackets',
      'site.record',
      () => `{"name": ${nested(100_000)}}`,
      { field: 'name', sentence: 'A single value is wanted here, no list.' },
    ],
  ])('%s: one sentence, and nobody waits', async (_, type, body, wanted) => {
    const given = body();
    const text = typeof given === 'string' ? `{"input": ${given}}` : { input: given };
    let answer!: { body: Problem };
    const waited = await longestWait(
      keeper.call<Problem>('POST', `changes/${type}`, text).then((found) => (answer = found)),
    );
    expect(answer.body).toMatchObject({ status: 422, ...wanted });
    expect(answer.body.errors!.length).toBeLessThanOrEqual(20);
    // A tenth of a second on a quiet machine (the bench measures it); what this is against took 24 s.
    expect(waited).toBeLessThan(2000);
  });
  it('five hundred guests are checked in turns', async () => {
    const guests = many(500, (i) => guestBody(small, `many-${i}`, { state: 'sunk' }));
    let answer!: { body: Problem };
    await longestWait(
      keeper.make<Problem>('guest.record-many', { guests }).then((found) => (answer = found)),
    );
    expect(answer.body).toMatchObject({ status: 422, field: 'guests.0.state' });
    expect(answer.body.errors).toHaveLength(20);
  });
  it('of somebody who only reads is not looked at', async () => {
    const reader = await new Person(server.base).signIn('reader');
    const answer = await reader.make<Problem>('guest.record-many', { nonsense: 1 });
    expect([answer.status, answer.body.code]).toEqual([403, 'not-your-role']);
    const asked = await reader.preview('guest.plan', guestBody(small, 'x'));
    expect(asked.status).toBe(200);
  });
});

describe('the log of the server', () => {
  it('tells of a failed insert, not what was to be inserted', async () => {
    const owner = await here.connect('owner');
    await owner.query("alter table person add constraint nobody_zed check (name <> 'zed')");
    await owner.end();
    const person = { name: 'zed', role: 'reader', password: 'zed and nobody else' };
    const answer = await keeper.call<Problem>('POST', 'people', person);
    expect(answer.body.sentence).not.toContain('nothing was altered');
    await vi.waitFor(() => expect(server.output()).toContain('constraint nobody_zed'));
    const said = server.output();
    expect(said).not.toContain('argon2');
    expect(said).not.toContain('zed and');
  });
  it('tells of requests, not of their cookies and tokens', async () => {
    const made = await keeper.call<{ token: string }>('POST', 'tokens', { label: 'night script' });
    const { token } = made.body;
    await fetch(`${server.base}/api/sites`, { headers: { Authorization: `Bearer ${token}` } });
    await vi.waitFor(() => expect(server.output()).toContain('"url":"/api/sites"'));
    const said = server.output();
    expect(said).not.toContain(token);
    expect(said).not.toContain('insel_session=');
  });
});

describe('a text of 50,000 names', () => {
  const text = many(
    50_000,
    (i) => `h${i} IN A 10.${(i >> 16) & 255}.${(i >> 8) & 255}.${i & 255}`,
  ).join('\n');
  it(
    'is decided and previewed in the worker: nobody else waits, and it is recorded once',
    { timeout: 240_000 },
    async () => {
      const input = { text, source: 'harbour.example.zone', origin: 'harbour.example.' };
      const began = performance.now();
      const asked = keeper.preview<{ objections: unknown[] }>('names.take', input);
      const waited = await longestWait(asked);
      expect((await asked).body.objections).toEqual([]);
      // Decided on the main thread everybody would wait for nearly all of it.
      expect(waited).toBeLessThan((performance.now() - began) / 2);
      const recording = keeper.make<{ title: string }>('names.take', input);
      const recordingBegan = performance.now();
      const waitedForRows = await longestWait(recording);
      // Nor do they wait for its rows: those are written in parts (how long: `bench/`).
      expect(waitedForRows).toBeLessThan((performance.now() - recordingBegan) / 2);
      const { status, body } = await recording;
      expect([status, body.title]).toEqual([201, 'took 50,000 names of harbour.example.zone in']);
      expect(here.checkRecord().stdout).toContain('The three agree.');
    },
  );
  it(
    'that somebody overtook is decided again on the record as it is then',
    { timeout: 240_000 },
    async () => {
      const input = {
        text: text.slice(0, 200_000),
        source: 'short.zone',
        origin: 'harbour.example.',
      };
      const [taken, planned] = await Promise.all([
        keeper.make('names.take', input),
        keeper.make('guest.plan', guestBody(small, 'overtaking')),
      ]);
      expect([taken.status, planned.status]).toEqual([201, 201]);
      expect(here.checkRecord().stdout).toContain('The three agree.');
    },
  );
});

describe('bodies that take their time', () => {
  it('hold no connection to the database: a hundred idle ones leave it to everybody else', async () => {
    const { connect } = await import('node:net');
    const { hostname, port } = new URL(server.base);
    const cookie = (keeper as unknown as { cookie: string }).cookie;
    const idle = Array.from({ length: 98 }, () => {
      const socket = connect(Number(port), hostname);
      socket.on('error', () => undefined);
      socket.write(
        `POST /api/samples/imports/${randomUUID()} HTTP/1.1\r\nHost: ${hostname}\r\nCookie: ${cookie}\r\nContent-Type: text/csv\r\nContent-Length: 100000\r\n\r\ntime,guest,cpu %\n`,
      );
      return socket;
    });
    await new Promise((resolve) => setTimeout(resolve, 1500));
    const client = await here.connect();
    const { rows } = await client.query<{ n: number }>(
      'select count(*)::int as n from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
    );
    await client.end();
    expect(rows[0]!.n).toBeLessThan(20);
    expect((await keeper.call('GET', 'log')).status).toBe(200);
    for (const socket of idle) socket.destroy();
  });
  it('an id that was used before, lines of nothing, and a NUL in a path are told', async () => {
    const send = (id: string, body: string) =>
      keeper.call<Problem & { state: string; faults: { sentence: string }[] }>(
        'POST',
        `samples/imports/${id}`,
        body,
        { 'Content-Type': 'text/csv' },
      );
    const id = randomUUID();
    const guest = 'time,guest,cpu %\n';
    // The hundred before may still be about to be missed.
    await expect.poll(async () => (await send(randomUUID(), guest)).status).toBe(201);
    expect((await send(id, guest)).status).toBe(201);
    expect((await send(id, guest)).body.code).toBe('import-begun');
    const empty = await send(randomUUID(), `${guest}${'\n'.repeat(200_000)}`);
    expect(empty.body.state).toBe('faulty');
    expect(empty.body.faults[0]!.sentence).toBe('From here on the lines are empty.');
    for (const path of ['log/attachments/%00', 'guests?q=%00', 'changes/answers/%00'])
      expect([path, (await keeper.call('GET', path)).status]).toEqual([path, 404]);
  });
  it('an Infinity as revision, and a key that is too long or empty', async () => {
    expect(
      (await keeper.call('GET', 'hosts', undefined, { 'X-Insel-Revision': 'Infinity' })).status,
    ).toBe(200);
    const { status, body } = await keeper.make<Problem>(
      'site.record',
      { name: 'key' },
      { 'Idempotency-Key': 'x'.repeat(201) },
    );
    expect([status, body.code]).toEqual([422, 'bad-key']);
  });
});
