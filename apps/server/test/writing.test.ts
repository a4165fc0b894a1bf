import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { guestBody, Installation, Person, recordSmall, type Small } from './support/server.js';

interface Written {
  revision: number;
  created: { kind: string; id: string }[];
}
interface Problem {
  code: string;
  sentence: string;
  field?: string;
  remedy?: string;
  figure?: { lines: unknown[] };
  current?: { purpose: string; revision: number };
  errors?: { field: string }[];
}

let here: Installation;
let person: Person;
let other: Person;
let small: Small;

beforeAll(async () => {
  here = new Installation();
  person = (await here.begin()).administrator;
  small = await recordSmall(person);
  other = await new Person((await here.startServer()).base).signIn('keeper');
});
afterAll(() => here.end());

describe('two servers on one database', () => {
  it('give 32 clients that ask at once 32 different addresses', async () => {
    const answers = await Promise.all(
      Array.from({ length: 32 }, (_, i) =>
        (i % 2 ? person : other).call<Written>(
          'POST',
          'guests/plan',
          guestBody(small, `crowd-${i}`),
        ),
      ),
    );
    expect(answers.map((answer) => answer.status)).toEqual(Array(32).fill(201));
    const network = await other.call<{ subnets: { held: { ip: string }[] }[] }>(
      'GET',
      `networks/${small.networkId}`,
      undefined,
      { 'X-Insel-Revision': String(Math.max(...answers.map((answer) => answer.body.revision))) },
    );
    const ips = network.body.subnets[0]!.held.map((held) => held.ip);
    expect(new Set(ips).size).toBe(32);
    expect(ips[0]).toBe('192.0.2.2');
  });

  it('show each what the other wrote, once the reader names the revision', async () => {
    const written = await person.call<Written>('POST', 'sites', { name: 'Harbour house' });
    const seen = await other.call<{ name: string }[]>('GET', 'sites', undefined, {
      'X-Insel-Revision': String(written.body.revision),
    });
    expect(seen.body.map((site) => site.name)).toContain('Harbour house');
  });

  it('agree with log and tables', () => {
    const checked = here.checkRecord();
    expect(checked.stdout).toContain('The three agree.');
    expect(checked.status).toBe(0);
  });
});

describe('refusals and problems', () => {
  it('a plan without room names the figure that fails, and goes through with a reason', async () => {
    const body = guestBody(small, 'whale', { memoryMiB: 300_000 });
    const refused = await person.call<Problem>('POST', 'guests/plan', body);
    expect(refused.status).toBe(409);
    expect(refused.headers.get('content-type')).toContain('application/problem+json');
    expect(refused.body).toMatchObject({ code: 'no-memory', field: 'memoryMiB' });
    expect(refused.body.figure!.lines.length).toBeGreaterThan(3);
    const made = await person.call<Written>('POST', 'guests/plan', {
      ...body,
      override: 'modules arrive tomorrow',
    });
    expect(made.status).toBe(201);
    expect((await person.call('POST', `log/${made.body.revision}/undo`, {})).status).toBe(201);
  });
  it('unknown fields are refused by name', async () => {
    const answer = await person.call<Problem>('POST', 'sites', { name: 'x', colour: 'red' });
    expect(answer.status).toBe(422);
    expect(answer.body).toMatchObject({
      field: 'colour',
      sentence: 'There is no field "colour" here.',
    });
  });
  it('every bad field is named, nested ones too', async () => {
    const answer = await person.call<Problem>(
      'POST',
      'guests/plan',
      guestBody(small, 'x', { vcpu: 0, volumes: [{ poolId: 'nonsense', bytes: 1.5 }] }),
    );
    expect(answer.body.errors!.map((error) => error.field)).toEqual(
      expect.arrayContaining(['vcpu', 'volumes.0.poolId', 'volumes.0.bytes']),
    );
  });
  it('what is no JSON, and what is too large, gets a sentence', async () => {
    expect(
      (await person.call<Problem>('POST', 'log', { text: 'x'.repeat(3_000_000) })).body.code,
    ).toBe('too-large');
    const torn = await fetch(`${here.servers[0]!.base}/api/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{"name": ',
    });
    expect((await torn.json()) as Problem).toMatchObject({ status: 400, code: 'bad-json' });
    expect((await person.call<Problem>('GET', 'nothing-here')).body.code).toBe('no-such-path');
  });
});

describe('If-Match', () => {
  it('lets one of two editors through and shows the other what is there now', async () => {
    const sheet = await person.call<{ host: { revision: number } }>('GET', `hosts/${small.hostId}`);
    const tag = sheet.headers.get('etag')!;
    expect(tag).toBe(`"${sheet.body.host.revision}"`);
    expect(
      (
        await person.call(
          'PATCH',
          `hosts/${small.hostId}`,
          { purpose: 'first' },
          { 'If-Match': tag },
        )
      ).status,
    ).toBe(200);
    const stale = await other.call<Problem>(
      'PATCH',
      `hosts/${small.hostId}`,
      { purpose: 'second' },
      { 'If-Match': tag },
    );
    expect(stale.status).toBe(412);
    expect(stale.body.current!.purpose).toBe('first');
    const mine = await other.call(
      'PATCH',
      `hosts/${small.hostId}`,
      { purpose: 'second' },
      { 'If-Match': `"${stale.body.current!.revision}"` },
    );
    expect(mine.status).toBe(200);
  });
  it('is asked for', async () =>
    expect(
      (await person.call<Problem>('PATCH', `hosts/${small.hostId}`, { purpose: 'x' })).status,
    ).toBe(428));
});

describe('idempotency', () => {
  it('gives the first answer again, also from the other server, and refuses the key for another request', async () => {
    const key = { 'Idempotency-Key': 'once-only' };
    const first = await person.call<Written>('POST', 'sites', { name: 'Annex' }, key);
    const again = await other.call<Written>('POST', 'sites', { name: 'Annex' }, key);
    expect(again.body).toEqual(first.body);
    expect((await person.call<Problem>('POST', 'sites', { name: 'Another' }, key)).body.code).toBe(
      'key-reused',
    );
  });
});

describe('the log', () => {
  it('tells every change with its difference, and takes the last one back', async () => {
    const planned = await person.call<Written>(
      'POST',
      'guests/plan',
      guestBody(small, 'mist', { reason: 'for the fog horn' }),
    );
    const { body } = await person.call<{
      rows: { revision: number; title: string; reason: string; difference: { kind: string }[] }[];
    }>('GET', 'log?take=1');
    expect(body.rows[0]).toMatchObject({
      revision: planned.body.revision,
      title: 'planned guest mist on gannet',
      reason: 'for the fog horn',
    });
    expect(body.rows[0]!.difference.map((line) => line.kind)).toEqual(
      expect.arrayContaining(['guest', 'volume', 'adapter', 'address']),
    );
    expect((await person.call('POST', `log/${planned.body.revision}/undo`, {})).status).toBe(201);
    expect(
      (
        await person.call(
          'GET',
          `guests/${planned.body.created.find((found) => found.kind === 'guest')!.id}`,
        )
      ).status,
    ).toBe(404);
    expect(here.checkRecord().stdout).toContain('The three agree.');
  });
  it('can only be added to, says the database', async () => {
    const client = await here.connect();
    for (const sql of ['update log set title = $$x$$', 'delete from log', 'truncate log'])
      await expect(client.query(sql)).rejects.toThrow(/permission denied|append-only/);
    await client.end();
  });
  it('the database holds what the decisions guarantee', async () => {
    const client = await here.connect();
    const copy = (table: string, change: string) =>
      client.query(
        `insert into ${table} select (jsonb_populate_record(t, jsonb_build_object('id', gen_random_uuid()::text) || '${change}'::jsonb)).* from ${table} t limit 1`,
      );
    await expect(copy('address', '{}')).rejects.toThrow(/address_once/);
    await expect(copy('adapter', '{}')).rejects.toThrow(/mac_once/);
    await expect(copy('guest', '{}')).rejects.toThrow(/guest_name_once/);
    await expect(copy('subnet', '{}')).rejects.toThrow(/subnet_no_overlap/);
    await expect(copy('volume', '{"bytes": -1}')).rejects.toThrow(/volume_bytes_check/);
    await expect(copy('address', '{"ip": "192.0.2.0/24", "assigned": false}')).rejects.toThrow(
      /address_ip_check/,
    );
    await client.end();
  });
});

describe('a server killed in the middle of a write', () => {
  it('leaves all or nothing', async () => {
    const victim = await here.startServer();
    const unlucky = await new Person(victim.base).signIn('keeper');
    const client = await here.connect();
    const before = (await client.query<{ revision: string }>('select revision from revision'))
      .rows[0]!.revision;
    // Holding the row of the host makes the write wait after it has written other rows: it is provably in the middle.
    await client.query('begin');
    await client.query('select 1 from host where id = $1 for update', [small.hostId]);
    const lost = unlucky
      .call('POST', `hosts/${small.hostId}/inside-networks`, {
        name: 'inside',
        mode: 'NAT',
        prefix: '192.168.50.0/24',
      })
      .then(
        () => 'answered',
        () => 'cut off',
      );
    const watcher = await here.connect();
    const waiting = async () =>
      (
        await watcher.query(
          "select 1 from pg_stat_activity where wait_event_type = 'Lock' and datname = current_database()",
        )
      ).rowCount;
    while (!(await waiting())) await new Promise((resolve) => setTimeout(resolve, 20));
    process.kill(victim.pid, 'SIGKILL');
    expect(await lost).toBe('cut off');
    await client.query('commit');
    await client.end();
    const after = await person.call<Written>('POST', 'sites', { name: 'After the kill' });
    expect(after.body.revision).toBe(Number(before) + 1);
    expect((await watcher.query("select 1 from virtual_switch where mode = 'NAT'")).rowCount).toBe(
      0,
    );
    await watcher.end();
    expect(here.checkRecord().stdout).toContain('The three agree.');
  });
});

it('the check of the record notices a row that went past the log', async () => {
  const client = await here.connect();
  await client.query("update host set purpose = 'smuggled'");
  const checked = here.checkRecord();
  await client.end();
  expect(checked.status).toBe(1);
  expect(checked.stdout).toContain('THE THREE DIFFER.');
});

it('events are for those who signed in', async () => {
  const cookieless = await fetch(`${here.servers[0]!.base}/api/events`);
  expect(cookieless.status).toBe(401);
});
