/** A backup while Insel runs, its check, and an older state that is put back under a running server. */
import type { Preview, Written } from '@insel/contract';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
// @ts-expect-error plain JavaScript, the commands themselves
import * as backup from '../../../scripts/backup.mjs';
// @ts-expect-error plain JavaScript, the commands themselves
import { exchange } from '../../../scripts/restore.mjs';
// @ts-expect-error plain JavaScript, the commands themselves
import { readSettings, remember } from '../../../scripts/installation.mjs';
import { guestBody, Installation, recordSmall, type Person, type Small } from './support/server.js';

let here: Installation;
let keeper: Person;
let small: Small;
let folder: string;
let installation: { bin: string; port: number; database: string; settings: object };

beforeAll(async () => {
  here = new Installation();
  keeper = (await here.begin()).administrator;
  small = await recordSmall(keeper);
  folder = mkdtempSync(join(tmpdir(), 'insel-backup-test-'));
  const { bin, port, superPassword } = inject('cluster');
  installation = {
    bin,
    port,
    database: here.database,
    settings: { superPassword, ownerPassword: 'test-owner', appPassword: 'test-app' },
  };
});
afterAll(async () => {
  await here.end();
  rmSync(folder, { recursive: true, force: true });
});

const plan = (name: string) => keeper.make<Written>('guest.plan', guestBody(small, name));
const guests = async () =>
  (await keeper.call<{ rows: { name: string }[] }>('GET', 'guests')).body.rows.map(
    ({ name }) => name,
  );

describe('a backup', () => {
  let file: string;
  let lines: () => Promise<string>;
  it('made while people write is one moment of the record, and whole', async () => {
    await plan('before');
    const writing = Promise.all(Array.from({ length: 12 }, (_, i) => plan(`while-${i}`)));
    file = backup.writeBackup(installation, folder, 'one.tar') as string;
    await writing;
    // Readable by its owner only: it holds passwords.
    expect(statSync(file).mode & 0o077).toBe(0);
    const { text, whole } = backup.checkBackup(installation, file) as {
      text: string;
      whole: boolean;
    };
    expect(text).toContain('The three agree.');
    expect(whole).toBe(true);
    lines = async () => (await guests()).join();
  });
  it('that was altered is told from a whole one', () => {
    const broken = join(folder, 'broken.tar');
    const bytes = readFileSync(file);
    bytes[Math.floor(bytes.length / 2)]! ^= 0xff;
    writeFileSync(broken, bytes);
    expect(() => backup.openBackup(broken) as unknown).toThrow(
      /is no backup of Insel, or it is damaged/,
    );
    writeFileSync(broken, 'nothing');
    expect(() => backup.openBackup(broken) as unknown).toThrow(/is no backup of Insel/);
  });
  it('put back under a running server is noticed: it reads anew, and writing goes on', async () => {
    await plan('afterwards');
    expect(await lines()).toContain('afterwards');
    const opened = backup.openBackup(file) as { work: string; close: () => void };
    const aside = (await exchange(
      installation,
      here.database,
      join(opened.work, 'database.dump'),
    )) as string;
    opened.close();
    expect(aside).toContain('_before_');
    const end = Date.now() + 15_000;
    while ((await guests()).includes('afterwards') && Date.now() < end)
      await new Promise((resolve) => setTimeout(resolve, 100));
    expect(await guests()).toContain('before');
    expect(await guests()).not.toContain('afterwards');
    let written = await plan('again');
    while (written.status !== 201 && Date.now() < end) {
      await new Promise((resolve) => setTimeout(resolve, 200));
      written = await plan('again');
    }
    expect(written.status).toBe(201);
    expect(await guests()).toContain('again');
    // What asks the worker is answered from the record as it is now, too.
    const { status } = await keeper.preview<Preview>('guest.plan', guestBody(small, 'once-more'));
    expect(status).toBe(200);
    expect((await keeper.call('GET', 'tolerance')).status).toBe(200);
    expect(here.checkRecord().stdout).toContain('The three agree.');
  });
  it('of every day is made once; the last seven days and four weeks stay', () => {
    const auto = join(folder, 'auto');
    const day = (text: string) => new Date(`${text}T03:00:00Z`);
    expect(backup.dailyBackup(installation, auto, day('2026-11-20'))).toContain(
      'insel-auto-2026-11-20',
    );
    expect(backup.dailyBackup(installation, auto, day('2026-11-20'))).toBeUndefined();
    for (let i = 1; i <= 60; i += 1) {
      const name = new Date(day('2026-11-20').getTime() - i * 86_400_000)
        .toISOString()
        .slice(0, 10);
      writeFileSync(join(auto, `insel-auto-${name}.tar`), '');
    }
    writeFileSync(join(auto, 'insel-by-hand.tar'), '');
    backup.dailyBackup(installation, auto, day('2026-11-21'));
    const kept = readdirSync(auto).sort();
    expect(kept).toContain('insel-by-hand.tar');
    const days = kept.flatMap((name) => /auto-(.*)\.tar/.exec(name)?.[1] ?? []);
    expect(days.slice(-7)).toEqual([
      '2026-11-15',
      '2026-11-16',
      '2026-11-17',
      '2026-11-18',
      '2026-11-19',
      '2026-11-20',
      '2026-11-21',
    ]);
    expect(days).toHaveLength(11);
  });
});

describe('the settings of an installation', () => {
  it('are written as a whole, and a damaged file is named with what to do', () => {
    const home = mkdtempSync(join(tmpdir(), 'insel-settings-'));
    const settings = Object.fromEntries(
      ['data', 'superPassword', 'ownerPassword', 'appPassword', 'demoPassword'].map((name) => [
        name,
        name,
      ]),
    );
    remember(home, settings);
    expect(readSettings(home)).toEqual(settings);
    expect(statSync(join(home, 'settings.json')).mode & 0o077).toBe(0);
    for (const [text, what] of [
      ['{"data": "x"', 'is damaged'],
      ['{}', 'has no data'],
    ]) {
      writeFileSync(join(home, 'settings.json'), text!);
      expect(() => readSettings(home) as unknown).toThrow(
        new RegExp(`The settings ${home}/settings.json ${what}.*npm run restore`),
      );
    }
    rmSync(home, { recursive: true, force: true });
  });
});
