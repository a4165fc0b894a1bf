/** An installation of an older version, brought up: its log replays to its tables, its changes can be undone. */
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import {
  CHANGE_TYPES,
  changeOf,
  decide,
  digestLines,
  Fleet,
  isRefusal,
  undoable,
  upcast,
  type LogEntry,
} from '@insel/core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { entryOf, LOG_COLUMNS } from '../dist/record/log-rows.js';
import { MIGRATE } from './support/cluster.js';
import { Installation, PASSWORD, Person } from './support/server.js';

const DUMP = new URL('./fixtures/installation-shape-4.sql.gz', import.meta.url);

let here: Installation;
let keeper: Person;
let log: LogEntry[];

beforeAll(async () => {
  here = new Installation('template0');
  const { bin, port, superPassword } = inject('cluster');
  const restored = spawnSync(
    `${bin}/psql`,
    ['-X', '-q', '-v', 'ON_ERROR_STOP=1', '-h', '127.0.0.1', '-p', String(port)].concat([
      '-U',
      'insel_super',
      '-d',
      here.database,
    ]),
    {
      input: gunzipSync(readFileSync(DUMP)),
      encoding: 'utf8',
      env: { ...process.env, PGPASSWORD: superPassword },
    },
  );
  if (restored.status !== 0) throw new Error(restored.stderr);
  const migrated = spawnSync(process.execPath, [MIGRATE], {
    encoding: 'utf8',
    env: { ...process.env, INSEL_OWNER_URL: here.url('owner') },
  });
  if (migrated.status !== 0) throw new Error(`${migrated.stdout}${migrated.stderr}`);
  const client = await here.connect();
  const { rows } = await client.query<Record<string, unknown>>(
    `select ${LOG_COLUMNS} from log order by revision`,
  );
  log = rows.map(entryOf);
  await client.end();
  const server = await here.startServer();
  keeper = await new Person(server.base).signIn('keeper', PASSWORD);
});
afterAll(() => here.end());

/** The fleet after so many entries. */
function replayed(count: number, patches: LogEntry['patches'] = []): string[] {
  const fleet = new Fleet();
  for (const entry of log.slice(0, count)) fleet.apply(upcast(entry), 0);
  fleet.apply(patches, 0);
  return digestLines(fleet);
}

const typesInLog = () => new Set(log.map((entry) => changeOf(entry).type));
const isKnown = (type: string) => (CHANGE_TYPES as readonly string[]).includes(type);
/** What is wrong with undoing the last entry of a type, if something is. */
function faultOfUndoing(type: string): string | undefined {
  const entry = log.findLast((found) => changeOf(found).type === type)!;
  const fleet = new Fleet();
  for (const earlier of log.slice(0, entry.revision)) {
    fleet.apply(upcast(earlier), earlier.revision);
  }
  const undone = decide(
    fleet,
    { type: 'undo', input: { revision: entry.revision } },
    {
      now: '2026-11-21T08:00:00.000Z',
      actor: { id: 'keeper', name: 'keeper', role: 'administrator' },
      newId: () => crypto.randomUUID(),
      randomByte: () => 7,
    },
    { entry },
  );
  if (isRefusal(undone)) return undone.sentence;
  const [after, before] = [replayed(entry.revision, undone.patches), replayed(entry.revision - 1)];
  return after.join() === before.join() ? undefined : 'the record is not as before';
}

describe('an installation of log shape 4', () => {
  it('has every type of change of its time in its log', () => {
    const types = new Set(log.map((entry) => entry.change.type));
    expect(types.size).toBe(71);
    expect(new Set(log.map((entry) => entry.shape))).toEqual(new Set([4]));
    expect([...typesInLog()].filter((type) => !isKnown(type))).toEqual([]);
  });
  it('replays to its tables, whatever way the times were typed', () => {
    expect(here.checkRecord().stdout).toContain('The three agree.');
  });
  it('of each type that can be undone, the last is', () => {
    const types = [...typesInLog()].filter(undoable);
    expect(types.length).toBeGreaterThan(60);
    for (const type of types) {
      const fault = faultOfUndoing(type);
      if (fault) throw new Error(`${type}: ${fault}`);
    }
  });
  it('takes new changes, and undoes an old one after a start', async () => {
    const edited = log.findLast((entry) => entry.change.type === 'guest.edit')!;
    const answer = await keeper.make<{ code?: string }>('undo', { revision: edited.revision });
    expect([answer.status, answer.body.code]).toEqual([201, undefined]);
    expect((await keeper.make('site.record', { name: 'New pier' })).status).toBe(201);
    expect(here.checkRecord().stdout).toContain('The three agree.');
  });
});
