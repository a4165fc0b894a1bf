/** `npm run check-record`: starts this installation's database if need be, compares log, tables and keeper, stops it again. */
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { openInstallation, readWords } from './installation.mjs';
import * as postgres from './postgres.mjs';
import { ROOT } from './packages.mjs';

async function main() {
  const { home, database } = readWords(process.argv.slice(2), ROOT);
  const { settings, port, stop } = await openInstallation(home);
  try {
    const done = spawnSync(process.execPath, [join(ROOT, 'apps/server/dist/cli/check-record.js')], {
      stdio: 'inherit',
      env: {
        ...process.env,
        INSEL_DATABASE_URL: postgres.url('insel_app', settings.appPassword, port, database),
      },
    });
    process.exitCode = done.status ?? 1;
  } finally {
    stop();
  }
}

main().catch((error) => {
  console.error(error.message);
  process.exit(1);
});
