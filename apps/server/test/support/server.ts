/** A database of its own, real server processes on it, and people who talk to them by HTTP. */
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { inject } from 'vitest';
// @ts-expect-error plain JavaScript, shared with the start command
import * as postgres from '../../../../scripts/postgres.mjs';

const MAIN = new URL('../../dist/main.js', import.meta.url).pathname;
const CHECK = new URL('../../dist/cli/check-record.js', import.meta.url).pathname;
export const PASSWORD = 'a long enough password';

export interface Answer<T = Record<string, never>> {
  status: number;
  body: T;
  headers: Headers;
}

export class Person {
  private cookie = '';
  constructor(private readonly base: string) {}

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
      body: body === undefined ? undefined : JSON.stringify(body),
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

  /** The text of an answer that is no JSON. */
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
}

export class Installation {
  readonly database = `t_${randomUUID().replaceAll('-', '')}`;
  readonly servers: Server[] = [];
  private readonly cluster = inject('cluster');

  constructor() {
    postgres.createDatabase(
      this.cluster.bin,
      this.cluster.port,
      this.cluster.superPassword,
      this.database,
      'template_insel',
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

  /** A connection of the run-time role. */
  async connect(): Promise<pg.Client> {
    const client = new pg.Client({ connectionString: this.url('app') });
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
      env: { ...process.env, INSEL_DATABASE_URL: this.url('app'), INSEL_PORT: '0', ...env },
    });
    let text = '';
    return new Promise((resolve, reject) => {
      const hear = (chunk: Buffer) => {
        text += String(chunk);
        if (!text.includes('INSEL_READY')) return;
        const port = /INSEL_LISTENING (\d+)/.exec(text)![1]!;
        const server = {
          base: `http://127.0.0.1:${port}`,
          pid: child.pid!,
          process: child,
          setUpToken: /INSEL_SET_UP_TOKEN (\S+)/.exec(text)?.[1],
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
  async begin(): Promise<{ server: Server; administrator: Person }> {
    const server = await this.startServer();
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
  const network = await person.call<{ created: { kind: string; id: string }[] }>(
    'POST',
    'networks',
    { name: 'shore', subnet: { prefix, gateway: prefix.replace(/\.0\/\d+$/, '.1') } },
  );
  const platforms = await person.call<{ id: string }[]>('GET', 'platforms');
  const networkId = created(network, 'network');
  const host = await person.call<{ created: { kind: string; id: string }[] }>('POST', 'hosts', {
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
  adapters: [{ networkId: small.networkId, address: { take: 'next' } }],
  ...more,
});
