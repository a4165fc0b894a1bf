/** What an installation remembers: where its database lies and its passwords. Written by rename; readable by its owner only. */
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  writeFileSync,
} from 'node:fs';
import { join, resolve } from 'node:path';
import * as postgres from './postgres.mjs';

const WANTED = ['data', 'superPassword', 'ownerPassword', 'appPassword', 'demoPassword'];

const fileOf = (home) => join(home, 'settings.json');

/** @throws Error with a sentence where the file is damaged; undefined where there is none */
export function readSettings(home) {
  const file = fileOf(home);
  if (!existsSync(file)) return undefined;
  let held;
  try {
    held = JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    throw damaged(file, 'is damaged');
  }
  const missing = WANTED.find((name) => typeof held?.[name] !== 'string');
  if (missing) throw damaged(file, `has no ${missing}`);
  return held;
}

const damaged = (file, how) =>
  new Error(
    `The settings ${file} ${how}: they hold the passwords of the database. Put the copy of a backup back: npm run restore FILE, or start another installation with --folder.`,
  );

/** Those that are there, else new ones. @throws Error where there is a database but nothing that opens it */
export function settingsOf(home) {
  const held = readSettings(home);
  if (held) return held;
  const orphan = join(home, 'pg');
  if (existsSync(orphan) && readdirSync(orphan).length > 0)
    throw new Error(
      `The settings ${fileOf(home)} are missing, but there is a database in ${orphan}. Put settings.json back from a backup, or start another installation with --folder.`,
    );
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

/** Replaced as a whole: a cut in the middle leaves the old one. */
export function remember(home, settings) {
  const beside = `${fileOf(home)}.new`;
  writeFileSync(beside, JSON.stringify(settings, null, 2), { mode: 0o600 });
  renameSync(beside, fileOf(home));
}

/** The database of an installation, started if it is not: its port and a way to stop what was started. */
export async function openInstallation(home) {
  const settings = readSettings(home);
  if (!settings || !existsSync(join(settings.data, 'PG_VERSION')))
    throw new Error(`There is no record in ${home} yet: run npm start first.`);
  const bin = postgres.ensurePrograms();
  const port = postgres.runningPort(bin, settings.data);
  const cluster = port
    ? { port, stop: () => undefined }
    : await postgres.startCluster(bin, settings.data);
  return { settings, bin, ...cluster, running: port !== undefined };
}

/** Databases of an installation: the demo, and a record of one's own. */
export const DATABASES = { demo: 'insel', own: 'insel_empty' };

/** The one that is meant where nobody says: the demo, until somebody has left it. */
function usualDatabase(home) {
  try {
    return readSettings(home)?.database ?? DATABASES.demo;
  } catch {
    return DATABASES.demo;
  }
}

/** `--folder PATH`, `--empty` and `--demo` of a command, and the words that are left. @throws Error for what nobody knows */
export function readWords(words, root, known = []) {
  const found = { home: join(root, '.insel'), database: '', flags: new Set(), rest: [] };
  const left = [...words];
  for (let word = left.shift(); word !== undefined; word = left.shift()) {
    const [name, inline] = word.split(/=(.*)/s);
    if (name === '--folder') {
      const value = inline ?? left.shift();
      if (!value) throw new Error('--folder wants a folder.');
      found.home = resolve(value);
    } else if (name === '--empty') found.database = DATABASES.own;
    else if (name === '--demo') found.database = DATABASES.demo;
    else if (known.includes(name)) found.flags.add(name);
    else if (name.startsWith('--'))
      throw new Error(
        `There is no ${name} here. Known: ${['--folder PATH', '--empty', '--demo', ...known].join(', ')}.`,
      );
    else found.rest.push(word);
  }
  found.database ||= usualDatabase(found.home);
  return found;
}
