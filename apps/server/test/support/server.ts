/** A database of its own, real server processes on it, and people who talk to them by HTTP. */
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { appendFileSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { join } from 'node:path';
import type { ChangeExtras, Preview, Problem, Written } from '@insel/contract';
import type { Finding } from '@insel/core';
import pg from 'pg';
import { inject } from 'vitest';
// @ts-expect-error plain JavaScript, shared with the start command
import * as postgres from '../../../../scripts/postgres.mjs';

const MAIN = new URL('../../dist/main.js', import.meta.url).pathname;
const CHECK = new URL('../../dist/cli/check-record.js', import.meta.url).pathname;
const KEPT_OPEN = new Agent({ keepAlive: true });
export const PASSWORD = 'a long enough password';

/** What mends a finding by a change. */
export type ByChange = Extract<NonNullable<Finding['mend']>, { kind: 'change' }>;

export interface Answer<T = Record<string, never>> {
  status: number;
  body: T;
  headers: Headers;
}

/** What may be said of any change stands beside its input. */
function bodyOf({
  reason,
  override,
  happenedAt,
  ...input
}: Record<string, unknown> & Partial<Record<keyof ChangeExtras, unknown>>) {
  return { input, reason, override, happenedAt };
}

/** What servers say is kept for the end of the whole suite, where it is searched for secrets. */
function keepOutput(text: string): void {
  const folder = process.env.INSEL_TEST_OUTPUT;
  if (folder) appendFileSync(join(folder, `servers-${process.pid}.log`), text);
}

export class Person {
  private cookie = '';
  constructor(readonly base: string) {}

  /** The same session at another server. */
  at(base: string): Person {
    const twin = new Person(base);
    twin.cookie = this.cookie;
    return twin;
  }

  async call<T = never>(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer<T>> {
    const response = await fetch(`${this.base}/api/${path}`, {
      method,
      headers: {
        ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
        ...(this.cookie ? { Cookie: this.cookie } : {}),
        ...headers,
      },
      body: body === undefined || typeof body === 'string' ? body : JSON.stringify(body),
    });
    const set = response.headers.get('set-cookie');
    if (set) this.cookie = set.split(';')[0]!;
    const text = await response.text();
    return {
      status: response.status,
      headers: response.headers,
      body: (text ? JSON.parse(text) : {}) as T,
    };
  }

  /**
   * Makes a change as somebody does who has read what it alters: where the door asks which revision was read, it is told
   * the one that stands there now. `saying` leaves that to the test.
   */
  async make<T = Written>(
    type: string,
    input: Record<string, unknown> = {},
    headers: Record<string, string> = {},
  ): Promise<Answer<T>> {
    const body = bodyOf(input);
    const answer = await this.call<T>('POST', `changes/${type}`, body, headers);
    if (answer.status !== 428) return answer;
    const { current } = answer.body as { current: unknown };
    return this.call<T>('POST', `changes/${type}`, { ...body, expects: current }, headers);
  }

  /** Makes a change that names what was read, or nothing. */
  saying<T = Problem>(
    type: string,
    input: Record<string, unknown>,
    expects?: unknown,
  ): Promise<Answer<T>> {
    return this.call<T>('POST', `changes/${type}`, { ...bodyOf(input), expects });
  }

  /** Presses the button of a finding. */
  mend<T = Written>({ change, expects }: Pick<ByChange, 'change' | 'expects'>): Promise<Answer<T>> {
    return this.saying<T>(change.type, { ...change.input }, expects);
  }

  preview<T = Preview>(type: string, input: Record<string, unknown>): Promise<Answer<T>> {
    return this.call<T>('POST', `changes/${type}/preview`, bodyOf(input));
  }

  /** Sends a body as it is, and gives up after a time. With less ado than `fetch`: it is for thousands of them. */
  raw(
    method: string,
    path: string,
    body: string | undefined,
    limitMs: number,
  ): Promise<{ status: number; text: string }> {
    return new Promise((resolve, reject) => {
      const sent = request(
        `${this.base}/api/${path}`,
        {
          method,
          headers: { Cookie: this.cookie, 'Content-Type': 'application/json' },
          agent: KEPT_OPEN,
          signal: AbortSignal.timeout(limitMs),
        },
        (answer) => {
          const parts: Buffer[] = [];
          answer.on('data', (part: Buffer) => parts.push(part));
          answer.on('error', reject);
          answer.on('end', () =>
            resolve({ status: answer.statusCode!, text: Buffer.concat(parts).toString('utf8') }),
          );
        },
      );
      sent.on('error', reject);
      sent.end(body);
    });
  }

  /** The text of an answer that is no JSON. */
  async bytes(path: string): Promise<Buffer> {
    const answer = await fetch(`${this.base}/api/${path}`, { headers: { Cookie: this.cookie } });
    return Buffer.from(await answer.arrayBuffer());
  }

  async page(path: string): Promise<string> {
    return (await fetch(`${this.base}/api/${path}`, { headers: { Cookie: this.cookie } })).text();
  }

  async signIn(name: string, password = PASSWORD): Promise<this> {
    const answer = await this.call('POST', 'session', { name, password });
    if (answer.status !== 201) throw new Error(`sign-in answered ${answer.status}`);
    return this;
  }
}

export interface Server {
  base: string;
  pid: number;
  process: ChildProcess;
  setUpToken: string | undefined;
  /** All that it has said so far. */
  output: () => string;
}

export class Installation {
  readonly database = `t_${randomUUID().replaceAll('-', '')}`;
  readonly servers: Server[] = [];
  private readonly cluster = inject('cluster');

  /** @param template the database it begins as: migrated and empty, unless it says otherwise */
  constructor(template = 'template_insel') {
    postgres.createDatabase(
      this.cluster.bin,
      this.cluster.port,
      this.cluster.superPassword,
      this.database,
      template,
    );
  }

  url(role: 'app' | 'owner'): string {
    return postgres.url(
      `insel_${role}`,
      `test-${role}`,
      this.cluster.port,
      this.database,
    ) as string;
  }

  /** A connection of the run-time role, or of the owner of the tables. */
  async connect(role: 'app' | 'owner' = 'app'): Promise<pg.Client> {
    const client = new pg.Client({ connectionString: this.url(role) });
    await client.connect();
    return client;
  }

  /** Runs the check of the record: log replayed, tables and keeper compared. */
  checkRecord(): { stdout: string; status: number | null } {
    return spawnSync(process.execPath, [CHECK], {
      encoding: 'utf8',
      env: { ...process.env, INSEL_DATABASE_URL: this.url('app') },
    });
  }

  async startServer(env: Record<string, string> = {}): Promise<Server> {
    const child = spawn(process.execPath, [MAIN], {
      stdio: ['ignore', 'pipe', 'pipe'],
      env: {
        ...process.env,
        INSEL_DATABASE_URL: this.url('app'),
        INSEL_PORT: '0',
        INSEL_LOG: 'info',
        ...env,
      },
    });
    let text = '';
    let ready = false;
    return new Promise((resolve, reject) => {
      const hear = (chunk: Buffer) => {
        text += String(chunk);
        keepOutput(String(chunk));
        if (ready || !text.includes('INSEL_READY')) return;
        ready = true;
        const port = /INSEL_LISTENING (\d+)/.exec(text)![1]!;
        const server = {
          base: `http://127.0.0.1:${port}`,
          pid: child.pid!,
          process: child,
          setUpToken: /INSEL_SET_UP_TOKEN (\S+)/.exec(text)?.[1],
          output: () => text,
        };
        this.servers.push(server);
        resolve(server);
      };
      child.stdout.on('data', hear);
      child.stderr.on('data', hear);
      child.on('exit', (code) => reject(new Error(`the server ended with ${code}:\n${text}`)));
    });
  }

  /** Starts a server and signs in its first administrator. */
  async begin(
    env: Record<string, string> = {},
  ): Promise<{ server: Server; administrator: Person }> {
    const server = await this.startServer(env);
    const administrator = new Person(server.base);
    await administrator.call('POST', 'set-up', {
      token: server.setUpToken,
      name: 'keeper',
      password: PASSWORD,
    });
    return { server, administrator: await administrator.signIn('keeper') };
  }

  async end(): Promise<void> {
    await Promise.all(
      this.servers.map(
        ({ process: child }) =>
          new Promise<void>((resolve) => {
            if (child.exitCode !== null || child.signalCode !== null) return resolve();
            child.once('exit', () => resolve());
            child.kill('SIGTERM');
          }),
      ),
    );
  }
}

export interface Small {
  hostId: string;
  poolId: string;
  networkId: string;
  subnetId: string;
}

/** One host and one network, recorded by HTTP. */
export async function recordSmall(person: Person, prefix = '192.0.2.0/24'): Promise<Small> {
  const created = (answer: Answer<{ created: { kind: string; id: string }[] }>, kind: string) =>
    answer.body.created.find((found) => found.kind === kind)!.id;
  const network = await person.make<{ created: { kind: string; id: string }[] }>('network.record', {
    name: 'shore',
    subnet: { prefix, gateway: prefix.replace(/\.0\/\d+$/, '.1') },
  });
  const platforms = await person.call<{ id: string }[]>('GET', 'platforms');
  const networkId = created(network, 'network');
  const host = await person.make<{ created: { kind: string; id: string }[] }>('host.record', {
    name: 'gannet',
    state: 'in service',
    platformId: platforms.body[0]!.id,
    sockets: 2,
    coresPerSocket: 16,
    threadsPerCore: 2,
    installedMiB: 262_144,
    pools: [{ name: 'gannet-data', usableBytes: 8e12 }],
    networks: [{ networkId }],
  });
  return {
    hostId: created(host, 'host'),
    poolId: created(host, 'pool'),
    networkId,
    subnetId: created(network, 'subnet'),
  };
}

export const guestBody = (small: Small, name: string, more: object = {}) => ({
  name,
  hostId: small.hostId,
  family: 'Linux',
  vcpu: 1,
  memoryMiB: 1024,
  volumes: [{ poolId: small.poolId, bytes: 10_737_418_240 }],
  adapters: [{ networkId: small.networkId, address: { as: 'next' } }],
  ...more,
});

/** A second host that carries the same network, with a pool of its own. */
export async function recordTern(by: Person, { networkId }: Small): Promise<void> {
  const [platform] = (await by.call<{ id: string }[]>('GET', 'platforms')).body;
  await by.make('host.record', {
    name: 'tern',
    state: 'in service',
    platformId: platform!.id,
    sockets: 2,
    coresPerSocket: 16,
    threadsPerCore: 2,
    installedMiB: 262_144,
    pools: [{ name: 'tern-data', usableBytes: 8e12 }],
    networks: [{ networkId }],
  });
}

/** Somebody who plans, signed in. */
export async function planner(by: Person): Promise<Person> {
  await by.call('POST', 'people', { name: 'planner', password: PASSWORD, role: 'planner' });
  return new Person(by.base).signIn('planner');
}
