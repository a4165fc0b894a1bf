/** What has to be there before anything of ours runs: the packages of the lock file, and the application built from its sources. */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

/** Runs npm ci if the packages are not those of the lock file. */
export function installPackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  const mark = join(ROOT, 'node_modules', '.insel-lock');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === lock) return;
  console.log('Installing packages …');
  run('npm', ['ci', '--no-fund', '--no-audit', '--loglevel=error']);
  writeFileSync(mark, lock);
}

function newest(folder, latest = 0) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (['node_modules', 'dist', 'dist-types'].includes(entry.name)) continue;
    const path = join(folder, entry.name);
    latest = Math.max(latest, entry.isDirectory() ? newest(path, latest) : statSync(path).mtimeMs);
  }
  return latest;
}

/** Builds if a source is newer than the last build. */
export function build() {
  const mark = join(ROOT, 'apps', 'web', 'dist', 'index.html');
  if (
    existsSync(mark) &&
    statSync(mark).mtimeMs > Math.max(newest(join(ROOT, 'packages')), newest(join(ROOT, 'apps')))
  )
    return;
  console.log('Building …');
  run('npm', ['run', 'build', '--silent']);
}

function run(command, args, env = {}) {
  const done = spawnSync(command, args, {
    cwd: ROOT,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env },
  });
  if (done.status !== 0)
    throw new Error(`${command} ${args.join(' ')} ended with ${done.status ?? done.signal}.`);
}
