/**
 * `npm run backup [FOLDER]`: one file with the database as it is at one moment, the settings, and a manifest with digests;
 * Insel may go on running. `npm run backup -- --check FILE` puts one into a scratch database, replays its log and compares.
 */
import { createHash } from 'node:crypto';
import { spawnSync } from 'node:child_process';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { openInstallation, readWords } from './installation.mjs';
import * as postgres from './postgres.mjs';
import { ROOT } from './packages.mjs';

/** Automatic ones that are kept: of the last days, and the newest of each of the weeks before. */
const KEPT = { days: 7, weeks: 4 };
const AUTOMATIC = /^insel-auto-(\d{4}-\d{2}-\d{2})\.tar$/;
const PARTS = ['database.dump', 'settings.json', 'manifest.json'];

const digest = (file) => createHash('sha256').update(readFileSync(file)).digest('hex');

function run(program, args, env = {}) {
  const done = spawnSync(program, args, { encoding: 'utf8', env: { ...process.env, ...env } });
  if (done.status !== 0)
    throw new Error(
      `${basename(program)}: ${(done.stderr || done.error?.message || '').trim().split('\n')[0]}`,
    );
  return done.stdout;
}

/** @returns the path of the file; attachments are rows of the database, so they are in it */
export function writeBackup(
  { bin, port, settings, database },
  folder,
  name = `insel-${new Date().toISOString().slice(0, 19).replaceAll(':', '')}.tar`,
) {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const work = mkdtempSync(join(tmpdir(), 'insel-backup-'));
  try {
    const dump = join(work, 'database.dump');
    // One snapshot of the whole database, however much is written meanwhile.
    run(
      join(bin, 'pg_dump'),
      [
        '-h',
        '127.0.0.1',
        '-p',
        String(port),
        '-U',
        'insel_owner',
        '-d',
        database,
        '-Fc',
        '-f',
        dump,
      ],
      { PGPASSWORD: settings.ownerPassword },
    );
    writeFileSync(join(work, 'settings.json'), JSON.stringify(settings, null, 2), { mode: 0o600 });
    const [revision, shape] = postgres
      .sql(bin, port, settings.superPassword, database, 'select revision, shape from revision')
      .split('|');
    const manifest = {
      made: new Date().toISOString(),
      database,
      // As it was just after: the dump holds this revision or the one before.
      revision: Number(revision),
      shape: Number(shape),
      digests: Object.fromEntries(
        ['database.dump', 'settings.json'].map((part) => [part, digest(join(work, part))]),
      ),
    };
    writeFileSync(join(work, 'manifest.json'), JSON.stringify(manifest, null, 2));
    const file = join(folder, name);
    run('tar', ['-C', work, '-cf', `${file}.part`, ...PARTS]);
    chmodSync(`${file}.part`, 0o600);
    renameSync(`${file}.part`, file);
    return file;
  } finally {
    rmSync(work, { recursive: true, force: true });
  }
}

/** Unpacks into a folder and compares the digests. @throws Error with a sentence where the file is none, or damaged */
export function openBackup(file) {
  if (!existsSync(file)) throw new Error(`There is no file ${file}.`);
  const work = mkdtempSync(join(tmpdir(), 'insel-restore-'));
  const close = () => rmSync(work, { recursive: true, force: true });
  try {
    run('tar', ['-C', work, '-xf', file, ...PARTS]);
    const manifest = JSON.parse(readFileSync(join(work, 'manifest.json'), 'utf8'));
    for (const [part, wanted] of Object.entries(manifest.digests))
      if (digest(join(work, part)) !== wanted) throw new Error(`its ${part} is not what it was`);
    const settings = JSON.parse(readFileSync(join(work, 'settings.json'), 'utf8'));
    return { work, manifest, settings, close };
  } catch (error) {
    close();
    throw new Error(`${file} is no backup of Insel, or it is damaged: ${error.message}.`);
  }
}

/** Puts a dump into a database that is there and empty. */
export function loadDump(bin, port, settings, database, dump) {
  postgres.sql(
    bin,
    port,
    settings.superPassword,
    database,
    'create extension if not exists btree_gist; create extension if not exists citext',
  );
  run(
    join(bin, 'pg_restore'),
    [
      '-h',
      '127.0.0.1',
      '-p',
      String(port),
      '-U',
      'insel_super',
      '-d',
      database,
      '--exit-on-error',
      dump,
    ],
    { PGPASSWORD: settings.superPassword },
  );
}

/** Replays the log of a backup in a scratch database and compares it with its tables. @returns what was printed, and whether it holds */
export function checkBackup({ bin, port, settings }, file) {
  const backup = openBackup(file);
  const scratch = `insel_check_${postgres.newSecret().slice(0, 12)}`;
  try {
    postgres.createDatabase(bin, port, settings.superPassword, scratch);
    loadDump(bin, port, settings, scratch, join(backup.work, 'database.dump'));
    const done = spawnSync(process.execPath, [join(ROOT, 'apps/server/dist/cli/check-record.js')], {
      encoding: 'utf8',
      env: {
        ...process.env,
        INSEL_DATABASE_URL: postgres.url('insel_app', settings.appPassword, port, scratch),
      },
    });
    return { text: `${done.stdout}${done.stderr}`.trim(), whole: done.status === 0 };
  } finally {
    backup.close();
    postgres.sql(
      bin,
      port,
      settings.superPassword,
      'postgres',
      `drop database if exists ${scratch} with (force)`,
    );
  }
}

/** The backup of today, if there is none yet; then old ones go. @returns its path, or undefined where there was one */
export function dailyBackup(installation, folder, now = new Date()) {
  const today = now.toISOString().slice(0, 10);
  const name = `insel-auto-${today}.tar`;
  if (existsSync(join(folder, name))) return undefined;
  const file = writeBackup(installation, folder, name);
  for (const gone of superfluous(readdirSync(folder), today)) rmSync(join(folder, gone));
  return file;
}

/** Of automatic backups: those that are older than the days kept and not the newest of their week. */
function superfluous(names, today) {
  const DAY = 86_400_000;
  const age = (day) => Math.round((Date.parse(today) - Date.parse(day)) / DAY);
  const weekOf = (day) => Math.floor((Date.parse(day) / DAY + 3) / 7);
  const days = names
    .flatMap((name) => AUTOMATIC.exec(name)?.[1] ?? [])
    .sort()
    .reverse();
  const weeks = new Set();
  return days
    .filter((day) => {
      if (age(day) < KEPT.days) return false;
      const week = weekOf(day);
      if (weeks.has(week) || weeks.size >= KEPT.weeks) return true;
      weeks.add(week);
      return false;
    })
    .map((day) => `insel-auto-${day}.tar`);
}

async function main() {
  const { home, database, flags, rest } = readWords(process.argv.slice(2), ROOT, ['--check']);
  const installation = { ...(await openInstallation(home)), database };
  try {
    if (flags.has('--check')) {
      if (!rest[0]) throw new Error('Say which file: npm run backup -- --check FILE');
      const { text, whole } = checkBackup(installation, resolve(rest[0]));
      console.log(text);
      console.log(whole ? 'The backup is whole.' : 'THE BACKUP IS NOT WHOLE.');
      process.exitCode = whole ? 0 : 1;
      return;
    }
    const file = writeBackup(installation, resolve(rest[0] ?? join(home, 'backups')));
    console.log(`${file} (${Math.ceil(statSync(file).size / 1024).toLocaleString('en-GB')} KiB)`);
    console.log('It holds the passwords of the database: keep it where nobody else reads.');
  } finally {
    installation.stop();
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  main().catch((error) => {
    console.error(error.message);
    process.exit(1);
  });
}
