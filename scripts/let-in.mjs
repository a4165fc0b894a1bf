/** `npm run let-in -- NAME`: lets somebody in from the console who is locked out; prints a one-time address for a new password. */
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { openInstallation, readWords } from './installation.mjs';
import * as postgres from './postgres.mjs';
import { ROOT } from './packages.mjs';

async function main() {
  const { home, database, rest } = readWords(process.argv.slice(2), ROOT);
  if (!rest[0]) throw new Error('Say whom to let in: npm run let-in -- NAME');
  const { settings, port, stop } = await openInstallation(home);
  try {
    const done = spawnSync(
      process.execPath,
      [join(ROOT, 'apps/server/dist/cli/let-in.js'), rest[0]],
      {
        encoding: 'utf8',
        env: {
          ...process.env,
          INSEL_DATABASE_URL: postgres.url('insel_app', settings.appPassword, port, database),
        },
      },
    );
    const [, token, name] = /INSEL_LET_IN (\S+) (.*)/.exec(done.stdout) ?? [];
    if (!token) throw new Error(done.stderr.trim() || 'It did not work.');
    const running = join(home, 'running.json');
    const address =
      (existsSync(running) && JSON.parse(readFileSync(running, 'utf8')).address) ||
      'http://127.0.0.1:8420/';
    console.log(`For the next 30 minutes ${name} may take a new password at:`);
    console.log(`${address}set-up#${token}`);
  } finally {
    stop();
  }
}

main().catch((error) => {
  console.error(error.message);
  process.exit(1);
});
