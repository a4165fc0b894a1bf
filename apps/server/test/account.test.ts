import { CHANGE_TYPES } from '@insel/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
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
  for (const role of ['reader', 'planner'])
    await administrator.call('POST', 'people', { name: role, role, password: PASSWORD });
});
afterAll(() => here.end());

const fresh = () => new Person(server.base);

describe('the set-up token', () => {
  it('works once', async () => {
    const again = await fresh().call<{ code: string }>('POST', 'set-up', {
      token: server.setUpToken,
      name: 'thief',
      password: PASSWORD,
    });
    expect(again.status).toBe(403);
    expect(again.body.code).toBe('bad-set-up-token');
  });
});

describe('roles', () => {
  it('nobody reads without signing in', async () => {
    for (const path of [
      'hosts',
      'guests',
      'log',
      'findings',
      'events',
      'search?q=a',
      'waterline',
      'people',
      'this-machine',
    ])
      expect([path, (await fresh().call('GET', path)).status]).toEqual([path, 401]);
  });
  it('a reader reads and alters nothing', async () => {
    const reader = await fresh().signIn('reader');
    expect((await reader.call('GET', 'hosts')).status).toBe(200);
    for (const type of CHANGE_TYPES) {
      expect([type, (await reader.saying(type, {})).status]).toEqual([type, 403]);
    }
    const planner = await fresh().signIn('planner');
    expect((await planner.saying('platform.edit', {})).status).toBe(422);
  });
  it('a planner plans, but manages no people and reads no machine', async () => {
    const planner = await fresh().signIn('planner');
    expect((await planner.make('guest.plan', guestBody(small, 'mist'))).status).toBe(201);
    expect([
      (await planner.call('GET', 'people')).status,
      (await planner.call('GET', 'this-machine')).status,
    ]).toEqual([403, 403]);
  });
  it('the last administrator stays', async () => {
    const { body } = await administrator.call<{ id: string; name: string }[]>('GET', 'people');
    const keeper = body.find((person) => person.name === 'keeper')!;
    expect(
      (
        await administrator.call<{ code: string }>('PATCH', `people/${keeper.id}`, {
          role: 'reader',
        })
      ).body.code,
    ).toBe('last-administrator');
  });
  it('somebody switched off is out at once', async () => {
    await administrator.call('POST', 'people', {
      name: 'guest',
      role: 'reader',
      password: PASSWORD,
    });
    const gone = await fresh().signIn('guest');
    const { body } = await administrator.call<{ id: string; name: string }[]>('GET', 'people');
    await administrator.call(
      'PATCH',
      `people/${body.find((person) => person.name === 'guest')!.id}`,
      { active: false },
    );
    expect((await gone.call('GET', 'hosts')).status).toBe(401);
  });
});

describe('signing in', () => {
  it('is limited after five failures, also with the right password', async () => {
    for (let i = 0; i < 5; i += 1)
      expect(
        (await fresh().call('POST', 'session', { name: 'reader', password: 'wrong' })).status,
      ).toBe(401);
    expect(
      (await fresh().call('POST', 'session', { name: 'reader', password: PASSWORD })).status,
    ).toBe(429);
  });
  it('gives a cookie that scripts of a page cannot read and other sites do not send', async () => {
    const answer = await fresh().call('POST', 'session', { name: 'planner', password: PASSWORD });
    expect(answer.headers.get('set-cookie')).toMatch(/HttpOnly.*SameSite=Strict/);
  });
  it('stores passwords as argon2id only', async () => {
    const client = await here.connect();
    const { rows } = await client.query<{ password_hash: string }>(
      'select password_hash from person',
    );
    expect(rows.every((row) => row.password_hash.startsWith('$argon2id$'))).toBe(true);
    await client.end();
  });
  it('ends with signing out', async () => {
    const planner = await fresh().signIn('planner');
    await planner.call('DELETE', 'session');
    expect((await planner.call('GET', 'hosts')).status).toBe(401);
  });
});

describe('tokens for scripts', () => {
  it('act as their owner until revoked, and are stored hashed', async () => {
    const planner = await fresh().signIn('planner');
    const { body } = await planner.call<{ id: string; token: string }>('POST', 'tokens', {
      label: 'export',
    });
    const script = (path: string) =>
      fresh().call('GET', path, undefined, { Authorization: `Bearer ${body.token}` });
    expect((await script('hosts')).status).toBe(200);
    const client = await here.connect();
    expect(
      (await client.query('select 1 from api_token where token_hash = $1', [body.token])).rowCount,
    ).toBe(0);
    await client.end();
    await planner.call('DELETE', `tokens/${body.id}`);
    expect((await script('hosts')).status).toBe(401);
  });
  it('let a calendar program subscribe by name and password, and do nothing else (RFC 7617)', async () => {
    const planner = await fresh().signIn('planner');
    const { body } = await planner.call<{ id: string; token: string }>('POST', 'tokens', {
      label: 'calendar',
    });
    const ask = (path: string, token: string, method = 'GET') =>
      fetch(`${server.base}/api/${path}`, {
        method,
        headers: { Authorization: `Basic ${Buffer.from(`planner:${token}`).toString('base64')}` },
      });
    const calendar = 'migrations/migrations.ics';
    const found = await ask(calendar, body.token);
    expect(found.status).toBe(200);
    expect(await found.text()).toMatch(/^BEGIN:VCALENDAR\r\n/);
    const stranger = await ask(calendar, 'a guess');
    expect(stranger.status).toBe(401);
    expect(stranger.headers.get('WWW-Authenticate')).toBe('Basic realm="Insel", charset="UTF-8"');
    const other = await ask('hosts', body.token);
    expect([other.status, other.headers.get('WWW-Authenticate')]).toEqual([401, null]);
    await planner.call('DELETE', `tokens/${body.id}`);
    expect((await ask(calendar, body.token)).status).toBe(401);
  });
});

describe('the door', () => {
  it('answers only under its own names', async () => {
    const { request } = await import('node:http');
    const status = await new Promise<number>((resolve) => {
      request(`${server.base}/api/health`, { headers: { Host: 'evil.example' } }, (response) =>
        resolve(response.statusCode!),
      ).end();
    });
    expect(status).toBe(403);
  });
  it('takes no writes from another site', async () => {
    const answer = await administrator.make<{ code: string }>(
      'site.record',
      { name: 'x' },
      { Origin: 'http://evil.example' },
    );
    expect(answer.body.code).toBe('foreign-origin');
  });
  it('sends security headers', async () => {
    const { headers } = await fresh().call('GET', 'health');
    expect(headers.get('content-security-policy')).toContain("default-src 'self'");
    expect(headers.get('content-security-policy')).not.toContain('upgrade-insecure-requests');
    expect(headers.get('x-content-type-options')).toBe('nosniff');
  });
  it('describes itself', async () => {
    const { body } = await fresh().call<{
      paths: Record<string, unknown>;
      components: {
        schemas: Record<string, { required?: string[]; properties: Record<string, unknown> }>;
      };
    }>('GET', 'openapi.json');
    expect(Object.keys(body.paths)).toEqual(
      expect.arrayContaining([
        '/api/hosts',
        '/api/changes/guest.plan',
        '/api/changes/undo/preview',
      ]),
    );
    expect(body.components.schemas['guest.plan']!.required).toEqual(
      expect.arrayContaining(['name', 'hostId', 'vcpu', 'memoryMiB']),
    );
    expect(body.components.schemas['host.edit']!.required).toEqual(['id']);
    expect(body.components.schemas['guest.plan.volumes']!.properties.bytes).toMatchObject({
      type: 'integer',
      minimum: 1,
    });
  });
});

describe('the machine Insel runs on', () => {
  it('is read as the live system says, and recognised if it is a guest', async () => {
    const { body } = await administrator.call<{
      visibleMiB: number;
      sockets: number;
      coresPerSocket: number;
      threadsPerCore: number;
      isGuest: string | null;
      disks: { bytes: number }[];
    }>('GET', 'this-machine');
    const { readFileSync } = await import('node:fs');
    const { execFileSync } = await import('node:child_process');
    const total = Number(/MemTotal:\s+(\d+)/.exec(readFileSync('/proc/meminfo', 'utf8'))![1]);
    expect(body.visibleMiB).toBe(Math.floor(total / 1024));
    // Outside check: nproc counts the threads that are online.
    expect(body.sockets * body.coresPerSocket * body.threadsPerCore).toBe(
      Number(execFileSync('nproc', ['--all'], { encoding: 'utf8' })),
    );
    expect(body.isGuest !== null).toBe(
      readFileSync('/proc/cpuinfo', 'utf8').includes(' hypervisor'),
    );
  });
});
