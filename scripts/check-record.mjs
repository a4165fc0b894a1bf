/** `npm run check-record`: starts this installation's database, compares log, tables and keeper, stops it again. */
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as postgres from './postgres.mjs';
import { ROOT } from './start.mjs';

const file = join(ROOT, '.insel', 'settings.json');
if (!existsSync(file)) {
  console.error('There is no record here yet: run npm start first.');
  process.exit(1);
}
const settings = JSON.parse(readFileSync(file, 'utf8'));
const bin = postgres.ensurePrograms();
const pidFile = join(settings.data, 'postmaster.pid');
const running = existsSync(pidFile)
  ? { port: Number(readFileSync(pidFile, 'utf8').split('\n')[3]), stop: () => undefined }
  : undefined;
const cluster = running ?? (await postgres.startCluster(bin, settings.data));
try {
  const database = process.argv.includes('--empty') ? 'insel_empty' : 'insel';
  const done = spawnSync(process.execPath, [join(ROOT, 'apps/server/dist/cli/check-record.js')], {
    stdio: 'inherit',
    env: {
      ...process.env,
      INSEL_DATABASE_URL: postgres.url('insel_app', settings.appPassword, cluster.port, database),
    },
  });
  process.exitCode = done.status ?? 1;
} finally {
  cluster.stop();
}
