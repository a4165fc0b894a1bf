/**
 * `npm start`: installs what is missing, builds, starts the private database and Insel, prints address and account.
 * Ctrl-C stops all of it. `npm start -- --empty` keeps a record of its own without demo data, and so does every start after
 * somebody has left the demo (`--demo` shows it again); `--port N` and `--folder PATH`
 * run a second one beside the first.
 */
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { DATABASES, remember, settingsOf } from './installation.mjs';
import { build, installPackages, ROOT } from './packages.mjs';
import * as postgres from './postgres.mjs';
import { readArguments } from './start-arguments.mjs';

/** An hour after the start, then looked for every few hours; at most one a day is made. */
const FIRST_BACKUP_MS = 3_600_000;
const LOOK_FOR_BACKUP_MS = 4 * 3_600_000;

/** Another start that keeps this folder: its process, and the address once it is ready. */
function runningIn(home) {
  const file = join(home, 'running.json');
  if (!existsSync(file)) return undefined;
  let held;
  try {
    held = JSON.parse(readFileSync(file, 'utf8'));
    process.kill(held.pid, 0);
  } catch (error) {
    // Somebody else's process is alive all the same.
    if (error.code !== 'EPERM') return undefined;
  }
  const command = `/proc/${held.pid}/cmdline`;
  const other = existsSync(command) && !readFileSync(command, 'utf8').includes('start.mjs');
  return other ? undefined : held;
}

/** Keeps the folder for this process; gives the other one, if there is one. */
function keepFolder(home) {
  mkdirSync(home, { recursive: true });
  const file = join(home, 'running.json');
  for (;;) {
    try {
      writeFileSync(file, JSON.stringify({ pid: process.pid }), { flag: 'wx' });
      process.on('exit', () => rmSync(file, { force: true }));
      return undefined;
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
      const other = runningIn(home);
      if (other) return other;
      rmSync(file, { force: true });
    }
  }
}

async function isFree(port) {
  return new Promise((done) => {
    const probe = createServer();
    probe.once('error', () => done(false));
    probe.listen(Number(port), process.env.INSEL_HOST ?? '127.0.0.1', () => {
      probe.close(() => done(true));
    });
  });
}

async function main() {
  const { database: wanted, port, folder: home } = readArguments(process.argv.slice(2));
  const other = keepFolder(home);
  if (other) {
    console.log(
      other.address
        ? `Insel is running already: ${other.address} (process ${other.pid}).`
        : `Insel is being started already, by process ${other.pid}.`,
    );
    console.log('A second one beside it: npm start -- --port 8421 --folder SOME-FOLDER');
    return;
  }
  if (!(await isFree(port))) {
    throw new Error(`Port ${port} is taken by another program. Run: npm start -- --port 8421`);
  }
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
    const installation = { bin, port: cluster.port, settings, database: '' };
    const serve = (database, setUpToken) => {
      installation.database = database;
      const demo = database === DATABASES.demo;
      const env = openDatabase(installation, home);
      server = spawn(process.execPath, [join(ROOT, 'apps', 'server', 'dist', 'main.js')], {
        stdio: ['ignore', 'pipe', 'inherit'],
        // A process group of its own: Ctrl-C reaches this process, which stops the server and then the database.
        detached: true,
        env: {
          ...process.env,
          INSEL_DATABASE_URL: env.INSEL_DATABASE_URL,
          INSEL_WEB: join(ROOT, 'apps', 'web', 'dist'),
          INSEL_PORT: port,
          ...(demo ? { INSEL_DEMO: '1' } : {}),
          ...(setUpToken ? { INSEL_SET_UP_TOKEN: setUpToken } : {}),
        },
      });
      let left;
      server.on('exit', (code) => {
        if (left === undefined || stopping) return stop(code ?? 1);
        try {
          serve(DATABASES.own, left);
        } catch (error) {
          console.error(error.message);
          stop(1);
        }
      });
      report(server, home, demo ? settings.demoPassword : undefined, (token) => {
        if (!demo || left !== undefined) return;
        left = token;
        settings.database = DATABASES.own;
        remember(home, settings);
        console.log('\nThe demo is left: npm start -- --demo shows it again.');
        server.kill('SIGTERM');
      });
    };
    serve(wanted || (settings.database ?? DATABASES.demo));
    backUpDaily(installation, join(home, 'backups'));
  } catch (error) {
    console.error(error.message);
    stop(1);
  }
}

/** Makes and fills the database where it is not there yet, brings it up to date. Gives the addresses to reach it by. */
function openDatabase({ bin, port, settings, database }, home) {
  const known = postgres.sql(
    bin,
    port,
    settings.superPassword,
    'postgres',
    `select 1 from pg_database where datname = '${database}'`,
  );
  if (!known) postgres.createDatabase(bin, port, settings.superPassword, database);
  const cli = (name) => join(ROOT, 'apps', 'server', 'dist', 'cli', name);
  const env = {
    INSEL_OWNER_URL: postgres.url('insel_owner', settings.ownerPassword, port, database),
    INSEL_DATABASE_URL: postgres.url('insel_app', settings.appPassword, port, database),
  };
  quiet(cli('migrate.js'), env);
  if (database === DATABASES.demo && !settings.demoWritten) {
    quiet(cli('seed-demo.js'), { ...env, INSEL_DEMO_PASSWORD: settings.demoPassword });
    settings.demoWritten = true;
    remember(home, settings);
  }
  return env;
}

/** Once a day, in a process of its own: Insel goes on meanwhile. */
function backUpDaily(installation, folder) {
  const look = () => {
    const child = spawn(process.execPath, [join(ROOT, 'scripts', 'daily-backup.mjs'), folder], {
      stdio: ['pipe', 'ignore', 'inherit'],
    });
    // Passwords go by the pipe, never by a command line.
    child.stdin.end(JSON.stringify(installation));
  };
  setTimeout(look, FIRST_BACKUP_MS).unref();
  setInterval(look, LOOK_FOR_BACKUP_MS).unref();
}

function quiet(script, env) {
  const done = spawnSync(process.execPath, [script], {
    encoding: 'utf8',
    env: { ...process.env, ...env },
  });
  if (done.status !== 0) throw new Error(`${done.stdout}${done.stderr}`.trim());
}

/** Turns the server's marks into sentences. */
function report(server, home, demoPassword, leave) {
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
      else if (mark === 'INSEL_LEAVE_DEMO') leave(value);
      else if (mark === 'INSEL_READY') {
        const address = `http://127.0.0.1:${port}/`;
        writeFileSync(join(home, 'running.json'), JSON.stringify({ pid: process.pid, address }));
        console.log(`\nInsel is ready:  ${address}`);
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
