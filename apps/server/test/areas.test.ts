import { SHAPE } from '@insel/core';
import { spawn } from 'node:child_process';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readThisMachine } from '../src/this-machine/read.js';
import {
  guestBody,
  Installation,
  Person,
  recordSmall,
  type Server,
  type Small,
} from './support/server.js';

let here: Installation;
let person: Person;
let server: Server;
let small: Small;

beforeAll(async () => {
  here = new Installation();
  ({ server, administrator: person } = await here.begin());
  small = await recordSmall(person);
  for (let i = 0; i < 12; i += 1)
    await person.make(
      'guest.plan',
      guestBody(small, `tide-${String(i).padStart(2, '0')}`, { memoryMiB: 1024 * (1 + (i % 5)) }),
    );
});
afterAll(() => here.end());

describe('lists', () => {
  interface Rows {
    rows: { name: string; memoryMiB: number }[];
    total: number;
  }
  it('are windows of one order', async () => {
    const all = (await person.call<Rows>('GET', 'guests?sort=memory&order=down&take=200')).body;
    const sizes = all.rows.map((row) => row.memoryMiB);
    expect(sizes).toEqual([...sizes].sort((a, b) => b - a));
    const parts = [];
    for (const from of [0, 5, 10])
      parts.push(
        ...(await person.call<Rows>('GET', `guests?sort=memory&order=down&from=${from}&take=5`))
          .body.rows,
      );
    expect(parts.map((row) => row.name)).toEqual(all.rows.map((row) => row.name));
    expect(all.total).toBe(12);
  });
  it('are narrowed by words, state and address', async () => {
    expect(
      (await person.call<Rows>('GET', 'guests?q=tide-03')).body.rows.map((row) => row.name),
    ).toEqual(['tide-03']);
    expect((await person.call<Rows>('GET', 'guests?state=stopped')).body.total).toBe(0);
    expect((await person.call<Rows>('GET', 'guests?q=192.0.2.2')).body.total).toBe(1);
  });
  it('refuse a window that is none', async () =>
    expect((await person.call('GET', 'guests?take=100000')).status).toBe(422));
});

describe('search', () => {
  const hits = async (q: string) =>
    (
      await person.call<{ label: string; path: string; detail: string }[]>(
        'GET',
        `search?q=${encodeURIComponent(q)}`,
      )
    ).body;
  it('finds names, addresses held and not held, and MACs in any notation', async () => {
    expect((await hits('gann')).map((hit) => hit.label)).toContain('gannet');
    expect((await hits('192.0.2.2'))[0]).toMatchObject({ detail: 'held by tide-00' });
    expect((await hits('192.0.2.200'))[0]).toMatchObject({
      detail: 'not held; in shore 192.0.2.0/24',
    });
    const guests = await person.call<{ rows: { id: string }[] }>('GET', 'guests?take=1');
    const sheet = await person.call<{ adapters: { mac: string }[]; guest: { name: string } }>(
      'GET',
      `guests/${guests.body.rows[0]!.id}`,
    );
    expect(
      (await hits(sheet.body.adapters[0]!.mac.replaceAll(':', '-').toUpperCase()))[0]!.detail,
    ).toBe(`adapter of ${sheet.body.guest.name}`);
  });
});

describe('a preview', () => {
  it('shows what would be, and alters nothing', async () => {
    const before = (await person.call<{ revision: number }>('GET', 'health')).body.revision;
    const { body } = await person.preview<{
      objections: unknown[];
      places: { name: string; before: { value: number }; after: { value: number } }[];
      made: { name: string; ip: string }[];
    }>('guest.plan', guestBody(small, 'storm', { memoryMiB: 4096 }));
    expect(body.objections).toEqual([]);
    const memory = body.places.find((place) => place.name === 'gannet, memory')!;
    // 4,096 MiB and the overhead of a guest of 1 vCPU: 128 + 8 + 40.96 + 16, rounded up to 193.
    expect(memory.before.value - memory.after.value).toBe(4096 + 193);
    expect(body.made).toMatchObject([{ name: 'storm', ip: '192.0.2.14' }]);
    expect((await person.call<{ revision: number }>('GET', 'health')).body.revision).toBe(before);
  });
});

it('the stream of events tells a change, its records, and which answers no longer hold', async () => {
  const session = await fetch(`${server.base}/api/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ name: 'keeper', password: 'a long enough password' }),
  });
  const abort = new AbortController();
  const window = '00000000-0000-4000-8000-00000000000a';
  const stream = await fetch(`${server.base}/api/events?window=${window}`, {
    headers: { Cookie: session.headers.get('set-cookie')!.split(';')[0]! },
    signal: abort.signal,
  });
  const reader = stream.body!.getReader();
  let text = '';
  const readUntil = async (wanted: string) => {
    while (!text.includes(wanted)) text += new TextDecoder().decode((await reader.read()).value);
  };
  await readUntil('"known":false');
  const markOf = async (path: string, headers = {}) =>
    (await person.call('GET', path, undefined, headers)).headers.get('x-insel-mark');
  const asked = { 'X-Insel-Window': `${window} 7` };
  const [sites, host] = [
    await markOf('sites', asked),
    await markOf(`hosts/${small.hostId}`, asked),
  ];
  expect([sites, host]).toEqual([expect.any(String), expect.any(String)]);
  // What is asked by nobody's window, of another time or answered elsewhere is watched by nobody.
  expect(await markOf('sites')).toBeNull();
  expect(await markOf('sites?asOf=1', asked)).toBeNull();
  expect(await markOf('tolerance', asked)).toBeNull();
  const written = await person.make<{ revision: number; created: { id: string }[] }>(
    'site.record',
    { name: 'Annex' },
  );
  await readUntil('"altered":[');
  abort.abort();
  expect(text).toContain(`"revision":${written.body.revision}`);
  expect(text).toContain(written.body.created[0]!.id);
  expect(text).toContain(`"altered":["${sites}"]`);
  expect(text).not.toContain(host!);
});

it('what a window shows already is not sent once more', async () => {
  const window = { 'X-Insel-Window': '0e7a3c52-9b1d-4c6e-8a2f-6f1f2f3a4b5c 1' };
  const ask = (known?: string) =>
    person.call<{ hosts: unknown[] }>('GET', 'tolerance', undefined, {
      ...window,
      ...(known && { 'X-Insel-Known': known }),
    });
  const first = await ask();
  const digest = first.headers.get('x-insel-digest')!;
  expect([first.status, (await ask(digest)).status]).toEqual([200, 204]);
  expect((await ask('another')).body).toEqual(first.body);
  await person.make('site.record', { name: 'Mole' });
  expect((await ask(digest)).status).toBe(204);
  await person.make('host.edit', { id: small.hostId, name: 'kittiwake' });
  expect((await ask(digest)).status).toBe(200);
  // Who is no window has nothing to show.
  expect((await person.call('GET', 'tolerance')).headers.get('x-insel-digest')).toBeNull();
});

it('answers are never kept by a browser: a sheet shows figures of other records', async () => {
  expect((await person.call('GET', `hosts/${small.hostId}`)).headers.get('cache-control')).toBe(
    'no-store',
  );
});

it('a process of another shape refuses to run', async () => {
  const client = await here.connect();
  await client.query('update revision set shape = 99');
  const child = spawn(process.execPath, [new URL('../dist/main.js', import.meta.url).pathname], {
    stdio: ['ignore', 'ignore', 'pipe'],
    env: { ...process.env, INSEL_DATABASE_URL: here.url('app'), INSEL_PORT: '0' },
  });
  let said = '';
  child.stderr.on('data', (chunk) => (said += String(chunk)));
  const code = await new Promise((resolve) => child.on('exit', resolve));
  await client.query(`update revision set shape = ${SHAPE}`);
  await client.end();
  expect(code).not.toBe(0);
  expect(said).toContain('has shape 99');
});

describe('reading a machine', () => {
  const files: Record<string, string> = {
    '/proc/meminfo': 'MemTotal:       24684096 kB\n',
    '/sys/class/dmi/id/chassis_type': '10',
    '/etc/resolv.conf': 'nameserver 192.0.2.53\n',
  };
  const reader = (json: Record<string, unknown>) => ({
    file: (path: string) => Promise.resolve(files[path] ?? null),
    names: () => Promise.resolve([]),
    json: (command: string) => Promise.resolve(json[command] ?? null),
  });
  it('recognises a laptop, and says what could not be read instead of 0', async () => {
    const machine = await readThisMachine(reader({}));
    // 24,684,096 kB of /proc/meminfo are KiB (proc(5)): 24,105 whole MiB.
    expect(machine).toMatchObject({
      visibleMiB: 24_105,
      sockets: null,
      installedMiB: null,
      nameServers: ['192.0.2.53'],
      isGuest: null,
    });
    expect(machine.isLaptop).toContain('portable');
    expect(machine.unread.length).toBe(4);
  });
  it('recognises a guest by the hypervisor field, nested or not', async () => {
    const lscpu = {
      lscpu: [
        { field: 'Socket(s):', data: '2', children: [{ field: 'Core(s) per socket:', data: '8' }] },
        { field: 'Hypervisor vendor:', data: 'some' },
      ],
    };
    expect(await readThisMachine(reader({ lscpu }))).toMatchObject({
      sockets: 2,
      coresPerSocket: 8,
      isGuest: expect.stringContaining('itself a guest') as string,
    });
  });
});

it('a server ends although a browser listens to its events', async () => {
  const own = await here.startServer();
  const listener = await new Person(own.base).signIn('keeper');
  const stream = await fetch(`${own.base}/api/events`, {
    headers: { Cookie: (listener as unknown as { cookie: string }).cookie },
  });
  const reader = stream.body!.getReader();
  await reader.read();
  own.process.kill('SIGTERM');
  // Were it to wait for the browser, it would never end.
  await new Promise((resolve) => own.process.once('exit', resolve));
  await reader.cancel().catch(() => undefined);
});
