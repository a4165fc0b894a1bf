/** A private cluster: an empty record, and the demo once for each worker; one server on each. */
import type { FullConfig } from '@playwright/test';
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { appendFileSync, chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
// @ts-expect-error plain JavaScript, shared with the start command
import * as postgres from '../scripts/postgres.mjs';

const ROOT = new URL('..', import.meta.url).pathname;
const DIST = join(ROOT, 'apps/server/dist');
export const PASSWORD = 'a password for the tests';

export default async function setUp({ workers }: FullConfig): Promise<() => Promise<void>> {
  const bin = postgres.ensurePrograms();
  const home = mkdtempSync('/var/tmp/insel-e2e-');
  chmodSync(home, 0o755);
  const data = join(home, 'pg');
  postgres.initCluster(bin, data, 'e2e-super');
  const cluster = await postgres.startCluster(bin, data, { fsync: false });
  postgres.createRoles(bin, cluster.port, 'e2e-super', 'e2e-owner', 'e2e-app');
  const servers: ChildProcess[] = [];
  const environments = new Map<string, NodeJS.ProcessEnv>();
  const demos = Array.from({ length: workers }, (_, worker) => `demo_${worker}`);
  for (const name of ['empty', ...demos]) {
    const isDemo = name !== 'empty';
    const seeded = isDemo && name !== demos[0];
    postgres.createDatabase(bin, cluster.port, 'e2e-super', name, seeded ? demos[0] : undefined);
    const env = {
      ...process.env,
      INSEL_OWNER_URL: postgres.url('insel_owner', 'e2e-owner', cluster.port, name),
      INSEL_DATABASE_URL: postgres.url('insel_app', 'e2e-app', cluster.port, name),
      INSEL_DEMO_PASSWORD: PASSWORD,
      INSEL_NOW: isDemo ? '2026-11-20T09:00:00.000Z' : '',
      INSEL_WEB: join(ROOT, 'apps/web/dist'),
      INSEL_PORT: '0',
      INSEL_LOG: 'info',
    };
    for (const script of seeded ? [] : isDemo ? ['migrate.js', 'seed-demo.js'] : ['migrate.js']) {
      const done = spawnSync(process.execPath, [join(DIST, 'cli', script)], {
        env,
        encoding: 'utf8',
      });
      if (done.status !== 0) throw new Error(`${script}: ${done.stdout}${done.stderr}`);
    }
    environments.set(name, env);
  }
  const start = async (name: string, env: NodeJS.ProcessEnv) => {
    const server = spawn(process.execPath, [join(DIST, 'main.js')], {
      env,
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    for (const stream of [server.stdout, server.stderr]) stream.on('data', keepOutput);
    servers.push(server);
    const text = await ready(server);
    process.env[`INSEL_E2E_${name.toUpperCase()}`] =
      `http://127.0.0.1:${/INSEL_LISTENING (\d+)/.exec(text)![1]}`;
    const token = /INSEL_SET_UP_TOKEN (\S+)/.exec(text)?.[1];
    if (token) process.env.INSEL_E2E_TOKEN = token;
  };
  await Promise.all([...environments].map(([name, env]) => start(name, env)));
  return async () => {
    await Promise.all(
      servers.map(
        (server) =>
          new Promise((resolve) => (server.once('exit', resolve), server.kill('SIGTERM'))),
      ),
    );
    cluster.stop();
    rmSync(home, { recursive: true, force: true });
  };
}

/** What servers say is kept for the end of the whole suite, where it is searched for secrets. */
function keepOutput(chunk: Buffer): void {
  const folder = process.env.INSEL_TEST_OUTPUT;
  if (folder) appendFileSync(join(folder, 'servers-of-journeys.log'), chunk);
  else if (!/^(?:INSEL_|\{"level":30)/.test(String(chunk))) process.stderr.write(chunk);
}

function ready(server: ChildProcess): Promise<string> {
  let text = '';
  return new Promise((resolve, reject) => {
    server.stdout!.on('data', (chunk) => {
      text += String(chunk);
      if (text.includes('INSEL_READY')) resolve(text);
    });
    server.on('exit', (code) => reject(new Error(`the server ended with ${code}: ${text}`)));
  });
}
