/**
 * `npm run restore FILE`: puts a backup back. The record that stands there now is kept beside it under another name. A
 * server that runs meanwhile notices, and reads anew; an installation without settings takes those of the backup.
 */
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { openBackup, loadDump } from './backup.mjs';
import {
  openInstallation,
  readSettings,
  readWords,
  remember,
  settingsOf,
} from './installation.mjs';
import * as postgres from './postgres.mjs';
import { ROOT } from './packages.mjs';

async function main() {
  const { home, rest } = readWords(process.argv.slice(2), ROOT);
  if (!rest[0]) throw new Error('Say which file: npm run restore FILE');
  const backup = openBackup(resolve(rest[0]));
  try {
    const { database, revision, made } = backup.manifest;
    let held;
    try {
      held = readSettings(home);
    } catch (error) {
      console.log(error.message.split(':')[0]);
    }
    if (!held && existsSync(join(backup.settings.data, 'PG_VERSION'))) {
      remember(home, backup.settings);
      console.log('Put the settings back.');
    } else if (!held) await newInstallation(home);
    const { settings, bin, port, stop } = await openInstallation(home);
    try {
      const aside = await exchange(
        { settings, bin, port },
        database,
        join(backup.work, 'database.dump'),
      );
      console.log(
        `${database} is back as of ${made}, revision ${revision}.${aside ? ` What stood there is kept as the database ${aside}.` : ''}`,
      );
    } finally {
      stop();
    }
  } finally {
    backup.close();
  }
}

/** Loads beside what is there, then exchanges names: a dump that does not load alters nothing. */
export async function exchange({ settings, bin, port }, database, dump) {
  const sql = (text) => postgres.sql(bin, port, settings.superPassword, 'postgres', text);
  const fresh = `${database}_restored`;
  sql(`drop database if exists ${fresh} with (force)`);
  postgres.createDatabase(bin, port, settings.superPassword, fresh);
  loadDump(bin, port, settings, fresh, dump);
  const there = sql(`select 1 from pg_database where datname = '${database}'`) !== '';
  const aside = `${database}_before_${new Date().toISOString().slice(0, 19).replace(/\D/g, '')}`;
  const end = (name) =>
    sql(`select pg_terminate_backend(pid) from pg_stat_activity where datname = '${name}'`);
  if (there) {
    // Whoever is connected comes back at once: the name is closed until it is the new one's.
    sql(`alter database ${database} allow_connections false`);
    end(database);
    sql(`alter database ${database} rename to ${aside}`);
  }
  sql(`alter database ${fresh} rename to ${database}`);
  if (there) sql(`alter database ${aside} allow_connections true`);
  return there ? aside : undefined;
}

async function newInstallation(home) {
  const bin = postgres.ensurePrograms();
  const settings = settingsOf(home);
  postgres.initCluster(bin, settings.data, settings.superPassword);
  const cluster = await postgres.startCluster(bin, settings.data);
  postgres.createRoles(
    bin,
    cluster.port,
    settings.superPassword,
    settings.ownerPassword,
    settings.appPassword,
  );
  cluster.stop();
  // What comes back is no demo to be written anew.
  remember(home, { ...settings, demoWritten: true });
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  main().catch((error) => {
    console.error(error.message);
    process.exit(1);
  });
}
