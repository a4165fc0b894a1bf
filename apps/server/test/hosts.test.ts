import { execFileSync } from 'node:child_process';
import { FACTS_SCRIPT } from '@insel/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { guestBody, Installation, recordSmall, type Person, type Small } from './support/server.js';

let here: Installation;
let keeper: Person;
let small: Small;
beforeAll(async () => {
  here = new Installation();
  ({ administrator: keeper } = await here.begin());
  small = await recordSmall(keeper);
});
afterAll(() => here.end());

interface Written {
  created: { kind: string; id: string }[];
  code: string;
  field: string;
  sentence: string;
}
interface Sheet {
  host: {
    revision: number;
    sockets: number;
    confirmedBy: string;
    state: string;
    certificateSha256: string;
  };
  disks: { bay: string; serial: string }[];
  arrays: { option: { usable: { value: number } } }[];
  verifications: { counts: boolean }[];
  pools: { id: string; revision: number }[];
}
const sheet = async (id = small.hostId) => (await keeper.call<Sheet>('GET', `hosts/${id}`)).body;
const disk = (bay: string, more: object = {}) => ({
  bay,
  bytes: 4e12,
  class: 'enterprise disk',
  ...more,
});

describe('hardware', () => {
  it('is replaced as lists, and answers with what follows', async () => {
    const hardware = {
      arrays: [{ name: 'guests', level: '5', purpose: 'guests' }],
      disks: ['1', '2', '3'].map((bay) => disk(bay, { array: 'guests' })),
    };
    const { revision } = (await sheet()).host;
    const set = (given: object, expects?: object[]) =>
      keeper.saying('host.set-hardware', { hostId: small.hostId, hardware: given }, expects);
    const read = [{ id: small.hostId, revision }];
    expect((await set(hardware)).status).toBe(428);
    expect((await set(hardware, read)).status).toBe(201);
    expect((await sheet()).arrays[0]!.option.usable.value).toBe(8e12);
    const stale = await set({ disks: [] }, read);
    expect(stale.status).toBe(412);
    expect(stale.body.current).toMatchObject({ revision: (await sheet()).host.revision });
  });
  it('that cannot be is refused at its field, and nothing is altered', async () => {
    const before = await sheet();
    const wrong = await keeper.make<Written>('host.set-hardware', {
      hostId: small.hostId,
      hardware: {
        arrays: [{ name: 'guests', level: '6', purpose: 'guests' }],
        disks: [disk('1', { array: 'guests' })],
      },
    });
    expect([wrong.status, wrong.body.code, wrong.body.field]).toEqual([
      422,
      'array-impossible',
      'arrays.0.level',
    ]);
    expect(
      (
        await keeper.make<Written>('host.set-hardware', {
          hostId: small.hostId,
          hardware: { disks: [disk('1', { colour: 'red' })] },
        })
      ).body.sentence,
    ).toContain('There is no field "colour"');
    expect((await sheet()).disks).toEqual(before.disks);
  });
});

describe('facts', () => {
  it('of the machine the tests run on are read, shown and taken', async () => {
    const text = execFileSync('sh', ['-c', FACTS_SCRIPT], { encoding: 'utf8' });
    const read = await keeper.call<{ rows: { field: string; differs: boolean }[] }>(
      'POST',
      'facts/read',
      { text, hostId: small.hostId },
    );
    expect(read.body.rows.find((row) => row.field === 'flags')!.differs).toBe(true);
    const revision = (await keeper.call<{ revision: number }>('GET', 'health')).body.revision;
    expect(
      (
        await keeper.make('host.take-facts', {
          hostId: small.hostId,
          text,
          chosen: ['sockets', 'flags'],
        })
      ).status,
    ).toBe(201);
    const after = await sheet();
    expect(after.host.confirmedBy).toBe('import (facts script)');
    expect(after.disks).toHaveLength(3);
    expect((await keeper.call<{ revision: number }>('GET', 'health')).body.revision).toBe(
      revision + 1,
    );
  });
  it('that cannot be read are refused with a sentence', async () => {
    for (const text of ['{"insel_facts":1', 'nothing', '{}', 'x'.repeat(1_600_000)]) {
      const answer = await keeper.call<Written>('POST', 'facts/read', { text });
      expect([answer.status, answer.body.code]).toEqual([422, 'facts-not-read']);
    }
  });
  it('come by a script that can be saved', async () =>
    expect((await fetch(`${here.servers[0]!.base}/api/facts/script`)).status).toBe(401));
});

describe('many hosts', () => {
  const one = async (name: string, more: object = {}) => ({
    name,
    state: 'planned',
    platformId: (await keeper.call<{ id: string }[]>('GET', 'platforms')).body[0]!.id,
    sockets: 1,
    coresPerSocket: 4,
    threadsPerCore: 2,
    installedMiB: 8192,
    pools: [],
    ...more,
  });
  it('are recorded all or none, and previewed', async () => {
    const wrong = { hosts: [await one('a'), await one('b', { management: { ip: '192.0.2.1' } })] };
    const preview = await keeper.preview<{ objections: { field: string; code: string }[] }>(
      'host.record-many',
      wrong,
    );
    expect(preview.body.objections).toMatchObject([
      { code: 'gateway-address', field: 'hosts.1.management.ip' },
    ]);
    expect((await keeper.make('host.record-many', wrong)).status).toBe(409);
    expect((await keeper.call<{ total: number }>('GET', 'hosts?q=a')).body.total).toBe(1);
    expect(
      (
        await keeper.make('host.record-many', {
          hosts: [await one('rock-1'), await one('rock-2')],
        })
      ).status,
    ).toBe(201);
  });
  it('are built alike', async () => {
    const rock = (await keeper.call<{ rows: { id: string }[] }>('GET', 'hosts?q=rock-1')).body
      .rows[0]!.id;
    const alike = await keeper.call<{ name: string; body: object }[]>(
      'GET',
      `hosts/${rock}/alike?count=2`,
    );
    expect(alike.body.map((found) => found.name)).toEqual(['rock-3', 'rock-4']);
    const made = await keeper.make('host.record-many', {
      hosts: alike.body.map((found) => ({ ...found.body, name: found.name })),
    });
    expect(made.status).toBe(201);
  });
  it('are edited alike', async () => {
    const rows = (await keeper.call<{ rows: { id: string }[] }>('GET', 'hosts?q=rock')).body.rows;
    expect(
      (
        await keeper.make('host.edit-many', {
          ids: rows.map((row) => row.id),
          statedLevel: 3,
          warrantyUntil: '2028-01-31',
        })
      ).status,
    ).toBe(201);
    expect(
      (
        await keeper.make<Written>('host.edit-many', {
          ids: rows.map((row) => row.id),
          warrantyUntil: 'soon',
        })
      ).body.field,
    ).toBe('warrantyUntil');
  });
});

describe('groups, racks, media, rules, backups', () => {
  it('are recorded, edited, refused twice under one name, and removed while nothing refers to them', async () => {
    const made = await keeper.make<Written>('host-group.record', {
      name: 'harbour',
      reservePercent: 10,
    });
    const { id } = made.body.created[0]!;
    expect((await keeper.make<Written>('host-group.record', { name: 'Harbour' })).body.code).toBe(
      'name-taken',
    );
    expect((await keeper.make('host-group.edit', { id, quorum: 2 })).status).toBe(201);
    await keeper.make('host.edit', { id: small.hostId, groupId: id });
    expect((await keeper.make('host-group.remove', { id })).status).toBeGreaterThanOrEqual(409);
  });
  it('two hosts do not stand in one place of a rack, whoever asks', async () => {
    const { id } = (await keeper.make<Written>('rack.record', { name: 'rack 1' })).body.created[0]!;
    await keeper.make('host.edit', { id: small.hostId, rackId: id, rackUnit: 4, rackHeight: 2 });
    const rock = (await keeper.call<{ rows: { id: string }[] }>('GET', 'hosts?q=rock-1')).body
      .rows[0]!.id;
    expect(
      (await keeper.make<Written>('host.edit', { id: rock, rackId: id, rackUnit: 5 })).body.code,
    ).toBe('rack-place-taken');
    const client = await here.connect();
    await expect(
      client.query('update host set rack_id = $1, rack_unit = 5 where id = $2', [id, rock]),
    ).rejects.toThrow(/host_rack_place_once/);
    await client.end();
  });
});

describe('tolerance', () => {
  it('is answered by the worker: lost without a copy, from a backup with one', async () => {
    const guest = await keeper.make<Written>('guest.record', {
      ...guestBody(small, 'tide'),
      state: 'in service',
      adapters: [],
    });
    const guestId = guest.body.created.find((found) => found.kind === 'guest')!.id;
    interface Failure {
      answer: string;
      guests: { name: string; way: string }[];
    }
    expect((await keeper.call<Failure>('GET', `failures/host/${small.hostId}`)).body).toMatchObject(
      { answer: 'some do not', guests: [{ name: 'tide', way: 'lost' }] },
    );
    await keeper.make('backup.record', {
      guestId,
      way: 'backup',
      place: 'bank',
      everyMinutes: 1440,
      takesMinutes: 30,
      lastSuccessAt: new Date().toISOString(),
    });
    expect(
      (await keeper.call<Failure>('GET', `failures/host/${small.hostId}`)).body.guests[0]!.way,
    ).toBe('backup');
    const { body } = await keeper.call<{ mayNot: number; first: { name: string }[] }>(
      'GET',
      'tolerance/counts',
    );
    expect([body.mayNot, body.first.map(({ name }) => name)]).toEqual([1, ['gannet']]);
    expect((await keeper.call('GET', `failures/host/${guestId}`)).status).toBe(404);
    expect(
      (
        await keeper.call<{ hosts: { name: string; guests: unknown[] }[] }>('GET', 'chart')
      ).body.hosts.find((host) => host.name === 'gannet')!.guests,
    ).toHaveLength(1);
  });
});

describe('a build', () => {
  it('has a sheet, also as one page that carries no script and quotes what was typed', async () => {
    const rock = (await keeper.call<{ rows: { id: string }[] }>('GET', 'hosts?q=rock-2')).body
      .rows[0]!.id;
    await keeper.make('host.edit', {
      id: rock,
      machineModel: '<img src=x onerror=alert(1)> & "co"',
    });
    const page = await keeper.page(`hosts/${rock}/build-sheet.html`);
    expect(page).toContain('&lt;img src=x onerror=alert(1)&gt; &amp; &quot;co&quot;');
    expect(page).not.toMatch(/<script|<img/);
    const built = {
      startedAt: '2026-11-20T08:00:00Z',
      endedAt: '2026-11-20T08:30:00Z',
      differences: 'none',
      tests: [{ test: 'gateway answers', passed: true }],
    };
    expect((await keeper.make('host.built', { hostId: rock, ...built })).status).toBe(201);
    expect((await sheet(rock)).host.state).toBe('in service');
  });
  it('a verification counts until the network of the host is altered', async () => {
    expect(
      (
        await keeper.make('host.verify', {
          hostId: small.hostId,
          tests: [{ test: 'gateway answers', passed: true }],
        })
      ).status,
    ).toBe(201);
    expect((await sheet()).verifications[0]!.counts).toBe(true);
    await keeper.make('host.edit', { id: small.hostId, gateway: '192.0.2.1' });
    expect((await sheet()).verifications[0]!.counts).toBe(false);
  });
});

it('the record of all of it replays', () =>
  expect(here.checkRecord().stdout).toContain('The three agree.'));
