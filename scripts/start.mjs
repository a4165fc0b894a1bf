/**
 * `npm start`: installs what is missing, builds, starts the private database and Insel, prints address and account.
 * Ctrl-C stops all of it. `npm start -- --empty` keeps a record of its own without demo data.
 */
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import * as postgres from './postgres.mjs';

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

/** What this installation remembers: where its database lies and its passwords. Readable by its owner only. */
function settingsOf(home) {
  const file = join(home, 'settings.json');
  if (existsSync(file)) return JSON.parse(readFileSync(file, 'utf8'));
  mkdirSync(home, { recursive: true });
  const settings = {
    data: postgres.chooseDataFolder(home),
    superPassword: postgres.newSecret(),
    ownerPassword: postgres.newSecret(),
    appPassword: postgres.newSecret(),
    demoPassword: postgres.newSecret(),
  };
  remember(home, settings);
  return settings;
}

const remember = (home, settings) =>
  writeFileSync(join(home, 'settings.json'), JSON.stringify(settings, null, 2), { mode: 0o600 });

async function main() {
  const empty = process.argv.includes('--empty');
  const home = join(ROOT, '.insel');
  const bin = postgres.ensurePrograms();
  installPackages();
  build();
  const settings = settingsOf(home);
  const fresh = !existsSync(join(settings.data, 'PG_VERSION'));
  if (fresh) {
    rmSync(settings.data, { recursive: true, force: true });
    settings.demoWritten = false;
    postgres.initCluster(bin, settings.data, settings.superPassword);
  } else postgres.stopLeftover(bin, settings.data);
  const cluster = await postgres.startCluster(bin, settings.data);
  let server;
  let stopping = false;
  const stop = (code) => {
    if (stopping) return;
    stopping = true;
    const end = () => {
      cluster.stop();
      process.exit(code);
    };
    if (!server || server.exitCode !== null || server.signalCode !== null) return end();
    const force = setTimeout(() => server.kill('SIGKILL'), 5000);
    server.once('exit', () => {
      clearTimeout(force);
      end();
    });
    server.kill('SIGTERM');
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => stop(0));
  try {
    if (fresh)
      postgres.createRoles(
        bin,
        cluster.port,
        settings.superPassword,
        settings.ownerPassword,
        settings.appPassword,
      );
    const database = empty ? 'insel_empty' : 'insel';
    const known = postgres.sql(
      bin,
      cluster.port,
      settings.superPassword,
      'postgres',
      `select 1 from pg_database where datname = '${database}'`,
    );
    if (!known) postgres.createDatabase(bin, cluster.port, settings.superPassword, database);
    const cli = (name) => join(ROOT, 'apps', 'server', 'dist', 'cli', name);
    const env = {
      INSEL_OWNER_URL: postgres.url('insel_owner', settings.ownerPassword, cluster.port, database),
      INSEL_DATABASE_URL: postgres.url('insel_app', settings.appPassword, cluster.port, database),
    };
    quiet(cli('migrate.js'), env);
    if (!empty && !settings.demoWritten) {
      quiet(cli('seed-demo.js'), { ...env, INSEL_DEMO_PASSWORD: settings.demoPassword });
      remember(home, { ...settings, demoWritten: true });
    }
    server = spawn(process.execPath, [join(ROOT, 'apps', 'server', 'dist', 'main.js')], {
      stdio: ['ignore', 'pipe', 'inherit'],
      // A process group of its own: Ctrl-C reaches this process, which stops the server and then the database.
      detached: true,
      env: {
        ...process.env,
        INSEL_DATABASE_URL: env.INSEL_DATABASE_URL,
        INSEL_WEB: join(ROOT, 'apps', 'web', 'dist'),
        INSEL_PORT: process.env.INSEL_PORT ?? '8420',
      },
    });
    server.on('exit', (code) => stop(code ?? 1));
    report(server, empty ? undefined : settings.demoPassword);
  } catch (error) {
    console.error(error.message);
    stop(1);
  }
}

function quiet(script, env) {
  const done = spawnSync(process.execPath, [script], {
    encoding: 'utf8',
    env: { ...process.env, ...env },
  });
  if (done.status !== 0) throw new Error(`${script} failed.\n${done.stdout}${done.stderr}`);
}

/** Turns the server's marks into sentences. */
function report(server, demoPassword) {
  let port = '';
  let token = '';
  let text = '';
  server.stdout.on('data', (chunk) => {
    text += chunk;
    const lines = text.split('\n');
    text = lines.pop();
    for (const line of lines) {
      const [mark, value] = line.split(' ');
      if (mark === 'INSEL_LISTENING') port = value;
      else if (mark === 'INSEL_SET_UP_TOKEN') token = value;
      else if (mark === 'INSEL_READY') {
        console.log(`\nInsel is ready:  http://127.0.0.1:${port}/`);
        if (demoPassword)
          console.log(
            `Sign in as       planner, administrator or reader\nPassword         ${demoPassword}`,
          );
        else if (token) console.log(`First set-up     http://127.0.0.1:${port}/set-up#${token}`);
        console.log('Ctrl-C stops it.');
      } else console.log(line);
    }
  });
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  main().catch((error) => {
    console.error(error.message);
    process.exit(1);
  });
}
