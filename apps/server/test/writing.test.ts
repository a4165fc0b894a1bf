import type { Problem, ReadAnswer, Written } from '@insel/contract';
import type { Expectation } from '@insel/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { guestBody, Installation, Person, recordSmall, type Small } from './support/server.js';

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
        (i % 2 ? person : other).make<Written>('guest.plan', guestBody(small, `crowd-${i}`)),
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
    const written = await person.make<Written>('site.record', { name: 'Harbour house' });
    const seen = await other.call<{ name: string }[]>('GET', 'sites', undefined, {
      'X-Insel-Revision': String(written.body.revision),
    });
    expect(seen.body.map((site) => site.name)).toContain('Harbour house');
  });

  it('find at once what was made at the other a moment ago, in questions and in changes', async () => {
    for (let i = 0; i < 10; i += 1) {
      const made = await person.make<Written>('guest.plan', guestBody(small, `moment-${i}`));
      const id = made.body.created.find(({ kind }) => kind === 'guest')!.id;
      const told = { 'X-Insel-Revision': String(made.body.revision) };
      const input = { input: { id, notes: 'seen at once' } };
      const asked = await other.call<{ objections: unknown[] }>(
        'POST',
        'changes/guest.edit/preview',
        input,
        told,
      );
      expect([asked.status, asked.body.objections]).toEqual([200, []]);
      const expects = [{ id, revision: made.body.revision }];
      const done = await other.call('POST', 'changes/guest.edit', { ...input, expects });
      expect(done.status).toBe(201);
    }
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
    const refused = await person.make<Problem>('guest.plan', body);
    expect(refused.status).toBe(409);
    expect(refused.headers.get('content-type')).toContain('application/problem+json');
    expect(refused.body).toMatchObject({ code: 'no-memory', field: 'memoryMiB' });
    expect(refused.body.figure!.lines.length).toBeGreaterThan(3);
    const made = await person.make<Written>('guest.plan', {
      ...body,
      override: 'modules arrive tomorrow',
    });
    expect(made.status).toBe(201);
    expect((await person.make('undo', { revision: made.body.revision })).status).toBe(201);
  });
  it('unknown fields are refused by name', async () => {
    const answer = await person.make<Problem>('site.record', { name: 'x', colour: 'red' });
    expect(answer.status).toBe(422);
    expect(answer.body).toMatchObject({
      field: 'colour',
      sentence: 'There is no field "colour" here.',
    });
  });
  it('every bad field is named, nested ones too', async () => {
    const answer = await person.make<Problem>(
      'guest.plan',
      guestBody(small, 'x', { vcpu: 0, volumes: [{ poolId: 'nonsense', bytes: 1.5 }] }),
    );
    expect(answer.body.errors!.map((error) => error.field)).toEqual(
      expect.arrayContaining(['vcpu', 'volumes.0.poolId', 'volumes.0.bytes']),
    );
  });
  it('what is no JSON, and what is too large, gets a sentence', async () => {
    expect(
      (await person.make<Problem>('log.note', { text: 'x'.repeat(3_000_000) })).body.code,
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

describe('what was read of the rows that a change alters', () => {
  const host = async () =>
    (await person.call<{ host: Expectation }>('GET', `hosts/${small.hostId}`)).body.host;
  const edit = (who: Person, purpose: string, read?: Expectation) =>
    who.saying('host.edit', { id: small.hostId, purpose }, read && [asRead(read)]);
  const asRead = ({ id, revision }: Expectation) => ({ id, revision });

  it('lets one of two editors through and shows the other what is there now', async () => {
    const read = await host();
    expect((await edit(person, 'first', read)).status).toBe(201);
    const stale = await edit(other, 'second', read);
    expect(stale.status).toBe(412);
    expect(stale.body.current).toMatchObject({ purpose: 'first' });
    expect((await edit(other, 'second', await host())).status).toBe(201);
  });
  it('is asked for, and told', async () => {
    const answer = await edit(person, 'x');
    expect([answer.status, answer.body.code]).toEqual([428, 'not-said']);
    expect(answer.body.current).toEqual([asRead(await host())]);
  });
  it('counts although its id came in capitals', async () => {
    const { id, revision } = await host();
    const shouted = { id: id.toUpperCase(), revision };
    expect((await edit(person, 'shouted', shouted)).status).toBe(201);
    expect((await edit(other, 'again', shouted)).status).toBe(412);
  });
  it('is asked of every row of several, and of no row that is only added to', async () => {
    const [one, two] = [await host(), await host()];
    const many = { ids: [one.id, (await another()).id], purpose: 'together' };
    const answer = await person.saying('host.edit-many', many, [asRead(two)]);
    expect([answer.status, answer.body.code]).toEqual([428, 'not-said']);
    expect((await person.saying('site.record', { name: 'Spit' })).status).toBe(201);
  });
  const another = async () =>
    (
      await person.make<Written>('host.record', {
        name: 'petrel',
        state: 'planned',
        platformId: (await person.call<{ id: string }[]>('GET', 'platforms')).body[0]!.id,
        sockets: 1,
        coresPerSocket: 4,
        threadsPerCore: 1,
        installedMiB: 8192,
        pools: [],
      })
    ).body.created[0]!;
});

describe('the door of changes', () => {
  it('says that there is no such change', async () => {
    const answer = await person.saying('host.explode', { id: small.hostId });
    expect([answer.status, answer.body.code]).toEqual([404, 'no-such-change']);
  });
  it('wants the input of the change, by itself', async () => {
    const flat = await person.call<Problem>('POST', 'changes/site.record', { name: 'Flat' });
    expect(flat.status).toBe(422);
    expect(flat.body.errors!.map(({ field }) => field)).toEqual(['name']);
    const none = await person.call<Problem>('POST', 'changes/site.record', {});
    expect([none.status, none.body.field]).toEqual([422, 'input']);
  });
  it('takes one of several by its tag, and says which there are', async () => {
    const wrong = guestBody(small, 'tagged', {
      adapters: [{ networkId: small.networkId, address: { as: 'borrowed' } }],
    });
    const answer = await person.saying('guest.plan', wrong);
    expect([answer.status, answer.body.field]).toEqual([422, 'adapters.0.address.as']);
    expect(answer.body.sentence).toContain('next');
  });
  it('shows before it what a change would do, and alters nothing', async () => {
    const before = (await person.call<{ rows: unknown[] }>('GET', 'log')).body.rows.length;
    const whale = guestBody(small, 'whale', { memoryMiB: 300_000 });
    const { status, body } = await person.preview('guest.plan', whale);
    expect([status, body.objections[0]!.code]).toEqual([200, 'no-memory']);
    expect((await person.call<{ rows: unknown[] }>('GET', 'log')).body.rows.length).toBe(before);
  });
});

describe('idempotency', () => {
  it('gives the first answer again, also from the other server, and refuses the key for another request', async () => {
    const key = { 'Idempotency-Key': 'once-only' };
    const first = await person.make<Written>('site.record', { name: 'Annex' }, key);
    const again = await other.make<Written>('site.record', { name: 'Annex' }, key);
    expect(again.body).toEqual(first.body);
    expect((await person.make<Problem>('site.record', { name: 'Another' }, key)).body.code).toBe(
      'key-reused',
    );
  });
});

describe('the log', () => {
  it('tells every change with its difference, and takes the last one back', async () => {
    const planned = await person.make<Written>(
      'guest.plan',
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
    expect((await person.make('undo', { revision: planned.body.revision })).status).toBe(201);
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
  it('says in a line what differs, and is narrowed by kind of change, day, person and place', async () => {
    const { body } = await person.make<Written>('guest.plan', guestBody(small, 'haar'));
    const id = body.created.find(({ kind }) => kind === 'guest')!.id;
    await person.make('guest.edit', { id, memoryMiB: 4096, notes: 'for the fog' });
    const rows = async (query: string) => {
      const found = await person.call<ReadAnswer<'log'>>('GET', `log?${query}`);
      expect(found.status).toBe(200);
      return found.body.rows.map(({ type, summary }) => [type, summary]);
    };
    expect(await rows('take=2')).toEqual([
      ['guest.edit', 'notes nothing → for the fog, memory 1 GiB → 4 GiB'],
      ['guest.plan', '1 guest added, 1 volume added, 1 adapter added, 1 address added'],
    ]);
    expect(await rows(`type=guest.edit&subject=${id}`)).toHaveLength(1);
    const [today] = new Date().toISOString().split('T');
    expect(await rows(`subject=${id}&from=${today}&until=${today}`)).toHaveLength(2);
    expect(await rows(`subject=${id}&from=2199-01-01`)).toEqual([]);
    expect(await rows(`subject=${id}&actor=${encodeURIComponent('nobody\\')}`)).toEqual([]);
    const made = await person.make<Written>('site.record', { name: 'the mole' });
    const siteId = made.body.created.find(({ kind }) => kind === 'site')!.id;
    await person.make('host.edit', { id: small.hostId, siteId });
    expect((await rows(`site=${siteId}&take=4`)).map(([type]) => type)).toEqual([
      'host.edit',
      'site.record',
      'guest.edit',
      'guest.plan',
    ]);
    const away = await person.call<Problem>('GET', 'log?from=yesterday');
    expect([away.status, away.body.field]).toEqual([422, 'from']);
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
      .make('host.add-inside', {
        hostId: small.hostId,
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
    const after = await person.make<Written>('site.record', { name: 'After the kill' });
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
