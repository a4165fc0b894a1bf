/** One private cluster for all test files, with a migrated template database. fsync is off: nothing here is kept. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, chmodSync } from 'node:fs';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';
// @ts-expect-error plain JavaScript, shared with the start command
import * as postgres from '../../../../scripts/postgres.mjs';

export interface Cluster {
  port: number;
  superPassword: string;
  bin: string;
}

declare module 'vitest' {
  export interface ProvidedContext {
    cluster: Cluster;
  }
}

export const MIGRATE = new URL('../../dist/cli/migrate.js', import.meta.url).pathname;

export default async function setUp(project: TestProject): Promise<() => void> {
  const bin = postgres.ensurePrograms() as string;
  const home = mkdtempSync('/var/tmp/insel-test-');
  chmodSync(home, 0o755);
  const data = join(home, 'pg');
  postgres.initCluster(bin, data, 'test-super');
  const cluster = (await postgres.startCluster(bin, data, { fsync: false })) as {
    port: number;
    stop: () => void;
  };
  postgres.createRoles(bin, cluster.port, 'test-super', 'test-owner', 'test-app');
  postgres.createDatabase(bin, cluster.port, 'test-super', 'template_insel');
  const migrated = spawnSync(process.execPath, [MIGRATE], {
    encoding: 'utf8',
    env: {
      ...process.env,
      INSEL_OWNER_URL: postgres.url('insel_owner', 'test-owner', cluster.port, 'template_insel'),
    },
  });
  if (migrated.status !== 0) throw new Error(`${migrated.stdout}${migrated.stderr}`);
  project.provide('cluster', { port: cluster.port, superPassword: 'test-super', bin });
  return () => {
    cluster.stop();
    rmSync(home, { recursive: true, force: true });
  };
}
