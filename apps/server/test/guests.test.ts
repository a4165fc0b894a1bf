/** Sizing, builds, ends, tables and measured use of guests by HTTP. */
import { randomUUID } from 'node:crypto';
import type {
  GuestBuildView,
  GuestEndView,
  GuestListRow,
  GuestSheet,
  GuestUseView,
  ImportProgress,
  ImportRow,
  ListWindow,
  MediumView,
  PoolUseView,
  Preview,
  ProfileView,
  SimilarUse,
  SizeAnswer,
  Written,
} from '@insel/contract';
import { nearestRank, percentile, theilSen } from '@insel/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  guestBody,
  Installation,
  PASSWORD,
  Person,
  recordSmall,
  type Server,
  type Small,
} from './support/server.js';

let here: Installation;
let server: Server;
let keeper: Person;
let small: Small;
const made = (answer: { body: Written }, kind: string) =>
  answer.body.created.find((found) => found.kind === kind)!.id;
const get = async <T>(path: string): Promise<T> => (await keeper.call<T>('GET', path)).body;
const profile = async (name: string): Promise<ProfileView> =>
  (await get<ProfileView[]>('profiles')).find((found) => found.name === name)!;
const guest = async (name: string, more: object = {}): Promise<string> =>
  made(
    await keeper.make<Written>('guest.record', {
      ...guestBody(small, name),
      state: 'in service',
      ...more,
    }),
    'guest',
  );

beforeAll(async () => {
  here = new Installation();
  ({ server, administrator: keeper } = await here.begin());
  small = await recordSmall(keeper);
});
afterAll(() => here.end());

describe('sizing', () => {
  it('answers with size, places and devices, and the plan that follows fits', async () => {
    const { id } = await profile('web server');
    const answer = await keeper.call<SizeAnswer>('POST', 'guests/size', {
      profileId: id,
      load: 250,
      growthPercent: 0,
      years: 0,
      networkIds: [small.networkId],
    });
    expect(answer.status).toBe(200);
    // 200 requests above 50, for each 100 one vCPU and 1 GiB: 2 + 2 vCPU, 2 + 2 GiB.
    expect(answer.body.chosen).toMatchObject({ vcpu: 4, memoryMiB: 4096 });
    expect(answer.body.hosts[0]).toMatchObject({ hostId: small.hostId, fits: true });
    expect(answer.body.devices.map((advice) => advice.device)).toEqual([
      'disk bus',
      'adapter model',
      'firmware',
      'processor',
      'graphics',
    ]);
    const plan = {
      ...guestBody(small, 'page'),
      profileId: id,
      firmware: 'UEFI',
      vcpu: answer.body.chosen.vcpu,
      memoryMiB: answer.body.chosen.memoryMiB,
    };
    expect((await keeper.preview<Preview>('guest.plan', plan)).body.build).toMatchObject({
      guest: 'page',
      way: 'no medium',
    });
    expect((await keeper.make('guest.plan', plan)).status).toBe(201);
  });
  it('takes a chosen size instead, and says what does not fit', async () => {
    const { id } = await profile('general server');
    const { body } = await keeper.call<SizeAnswer>('POST', 'guests/size', {
      profileId: id,
      memoryMiB: 4_000_000,
      networkIds: [],
    });
    expect(body.hosts.every((host) => !host.fits)).toBe(true);
    expect(
      body.hosts[0]!.reasons.filter((reason) => !reason.fits).map((reason) => reason.check),
    ).toEqual(['memory']);
  });
  it('refuses a role that is not there, and numbers out of bounds', async () => {
    expect(
      (await keeper.call('POST', 'guests/size', { profileId: randomUUID(), networkIds: [] }))
        .status,
    ).toBe(404);
    expect(
      (
        await keeper.call('POST', 'guests/size', {
          profileId: (await profile('desktop')).id,
          years: 90,
          networkIds: [],
        })
      ).body,
    ).toMatchObject({ status: 422, field: 'years' });
  });
});

describe('roles, groups and media', () => {
  it('are recorded, edited and removed', async () => {
    const id = made(
      await keeper.make<Written>('profile.record', {
        name: 'print server',
        family: 'Linux',
        usualVcpu: 1,
      }),
      'profile',
    );
    const { revision } = await profile('print server');
    expect((await keeper.make('profile.edit', { id, usualMemoryMiB: 512 })).status).toBe(201);
    const stale = await keeper.saying('profile.edit', { id, usualMemoryMiB: 768 }, [
      { id, revision },
    ]);
    expect(stale.status).toBe(412);
    expect((await keeper.make('profile.remove', { id })).status).toBe(201);
    expect((await keeper.make('profile.add-usual', {})).body).toMatchObject({ code: 'all-there' });
    expect(
      (await keeper.make('guest-group.record', { name: 'readers', spread: 'rack' })).status,
    ).toBe(201);
    expect((await keeper.make('guest-group.record', { name: 'Readers' })).body).toMatchObject({
      code: 'name-taken',
    });
  });
  it('a digest is 64 hexadecimal digits, kept in lower case', async () => {
    expect(
      (await keeper.make('medium.record', { name: 'a.img', bytes: 5, sha256: 'abc' })).body,
    ).toMatchObject({ status: 422, field: 'sha256' });
    const id = made(
      await keeper.make<Written>('medium.record', {
        name: 'a.img',
        bytes: 5,
        sha256: 'AB'.repeat(32),
        system: 'Linux server',
        release: '11',
        releasedOn: '2023-01-01',
        family: 'Linux',
      }),
      'medium',
    );
    await keeper.make('medium.record', {
      name: 'b.img',
      bytes: 5,
      sha256: 'ab'.repeat(32),
      system: 'Linux server',
      release: '12',
      releasedOn: '2025-01-01',
      family: 'Linux',
    });
    const [a, b] = await get<MediumView[]>('media');
    expect([a!.sha256, a!.newer!.name, b!.findings.map((finding) => finding.rule)]).toEqual([
      'ab'.repeat(32),
      'b.img',
      ['image-twice'],
    ]);
    const guestId = await guest('with-medium');
    const drive = made(
      await keeper.make<Written>('drive.record', { guestId, mediumId: id }),
      'drive',
    );
    expect((await get<MediumView[]>('media'))[0]!.attached).toMatchObject([
      { name: 'with-medium', atPowerOn: true },
    ]);
    expect((await keeper.make('medium.remove', { id })).body).toMatchObject({
      code: 'still-referred-to',
    });
    expect((await keeper.make('drive.remove', { id: drive })).status).toBe(201);
  });
});

describe('build and end', () => {
  it('steps are ticked with their time, failed checks are told', async () => {
    const id = await guest('built');
    expect(
      (
        await keeper.make('guest.tick', {
          guestId: id,
          step: 'updates',
          outcome: 'done',
          happenedAt: '2026-11-19T10:00:00.000Z',
        })
      ).status,
    ).toBe(201);
    expect(
      (
        await keeper.make('guest.tick', {
          guestId: id,
          step: 'check restart',
          outcome: 'failed',
          remark: 'stayed dark',
        })
      ).status,
    ).toBe(201);
    const build = await get<GuestBuildView>(`guests/${id}/build`);
    expect([build.done, build.ticks.updates, build.ticks['check restart']]).toMatchObject([
      2,
      { outcome: 'done', at: '2026-11-19T10:00:00.000Z', by: 'keeper' },
      { outcome: 'failed', remark: 'stayed dark' },
    ]);
    expect(
      (await get<GuestSheet>(`guests/${id}`)).findings.map((finding) => finding.rule),
    ).toContain('guest-not-verified');
    const page = await keeper.page(`guests/${id}/build.html`);
    expect(page).toContain('Build sheet of built');
    expect(page).toContain('done 2026-11-19 10:00, keeper');
    expect(page).not.toContain('<script');
  });
  it('a retired guest gives its addresses back when asked', async () => {
    const id = await guest('over', {
      adapters: [{ networkId: small.networkId, address: { as: 'next' } }],
    });
    const { referrers } = await get<GuestEndView>(`guests/${id}/end`);
    expect(referrers.map((row) => row.clears)).toEqual(['addresses', null]);
    expect(
      (await keeper.make<Written>('guest.retire', { id, clear: ['addresses'] })).body.title,
    ).toBe('retired guest over, with its addresses');
    const sheet = await get<GuestSheet>(`guests/${id}`);
    expect([sheet.guest.state, sheet.adapters[0]!.addresses]).toEqual(['retired', []]);
  });
});

describe('many guests', () => {
  it('are recorded from a table, all or none', async () => {
    const row = (name: string, hostId = small.hostId) => ({
      name,
      hostId,
      family: 'Linux',
      state: 'in service',
      vcpu: 1,
      memoryMiB: 256,
      volumes: [],
      adapters: [],
    });
    expect(
      (await keeper.make('guest.record-many', { guests: [row('t1'), row('t2', randomUUID())] }))
        .body,
    ).toMatchObject({ field: 'guests.1.hostId' });
    expect((await get<ListWindow<GuestListRow>>('guests?q=t1')).total).toBe(0);
    const written = await keeper.make<Written>('guest.record-many', {
      guests: [row('t1'), row('t2')],
    });
    expect(written.body.title).toBe('recorded 2 guests from a table');
    const ids = written.body.created
      .filter((found) => found.kind === 'guest')
      .map((found) => found.id);
    expect(
      (await keeper.make('guest.edit-many', { ids, owner: 'keeper', criticality: 'low' })).status,
    ).toBe(201);
    expect((await get<ListWindow<GuestListRow>>('guests?q=t1')).rows[0]).toMatchObject({
      owner: 'keeper',
    });
    expect(
      (await keeper.make('guest.edit-many', { ids, outageWindow: 'whenever' })).body,
    ).toMatchObject({ status: 422, field: 'outageWindow' });
  });
});

describe('measured samples', () => {
  const send = async (
    text: string | ReadableStream,
    id = randomUUID(),
    person = keeper,
  ): Promise<{ status: number; body: ImportProgress }> => {
    const cookie = (person as unknown as { cookie: string }).cookie;
    const response = await fetch(`${server.base}/api/samples/imports/${id}?source=use.csv`, {
      method: 'POST',
      headers: { 'Content-Type': 'text/csv', Cookie: cookie },
      body: text,
      ...(typeof text === 'string' ? {} : { duplex: 'half' }),
    } as RequestInit);
    return { status: response.status, body: (await response.json()) as ImportProgress };
  };
  const at = (minute: number) =>
    new Date(Date.parse('2024-10-01T00:00:00Z') + minute * 60_000).toISOString();
  /** Known values, so that every figure can be asked of the database, too. */
  const cpu = (i: number) => ((i * 37) % 101) % 100;
  const memory = (i: number) => 500 + ((i * 53) % 997);
  let id: string;

  it('are taken in with their lines counted; the same file twice adds nothing', async () => {
    id = await guest('measured', { vcpu: 4, memoryMiB: 4096 });
    const lines = Array.from(
      { length: 5000 },
      (_, i) => `${at(i * 5)},Measured,${cpu(i)},${memory(i)},${1e9 + i * 1e6}`,
    );
    const text = `\uFEFFtime,guest,cpu %,memory MiB,disk bytes\r\n${lines.join('\r\n')}\r\n\r\n`;
    expect((await send(text)).body).toMatchObject({
      state: 'done',
      lines: 5000,
      added: 5000,
      firstAt: at(0),
      lastAt: at(4999 * 5),
    });
    expect((await send(text)).body).toMatchObject({ state: 'done', lines: 5000, added: 0 });
    const [newest] = await get<ImportRow[]>('samples/imports');
    expect(newest).toMatchObject({ source: 'use.csv', by: 'keeper', rows: 5000, added: 0 });
  });
  it('give percentiles that the database computes alike, by both definitions', async () => {
    const client = await here.connect();
    const { rows } = await client.query<{ seventh: number; first: number }>(
      'select percentile_cont(0.95) within group (order by memory_mib) seventh, percentile_disc(0.95) within group (order by memory_mib) first from sample where subject_id = $1',
      [id],
    );
    await client.end();
    const values = Array.from({ length: 5000 }, (_, i) => memory(i));
    expect(percentile(values, 95)).toBeCloseTo(rows[0]!.seventh, 9);
    expect(nearestRank(values, 95)).toBe(rows[0]!.first);
    const use = await get<GuestUseView>(`guests/${id}/use?days=30`);
    expect(use).toMatchObject({ samples: 5000, firstAt: at(0) });
    expect(use.memory!.figure.lines[0]!.value).toBeCloseTo(rows[0]!.seventh, 3);
    // P95 of memory about 1,446 MiB, with 20 % headroom 1,736, in steps of 256: 1,792 of 4,096.
    expect([use.memory!.advice, use.memory!.to]).toEqual(['shrink', 1792]);
    expect(use.points.length).toBeLessThanOrEqual(240);
    const role = await profile('camera store');
    await keeper.make('guest.edit-many', { ids: [id], profileId: role.id });
    const likes = await get<{ use: SimilarUse | null }>(`profiles/${role.id}/use`);
    // 4 vCPU at the 95th percentile of what was sent.
    expect(likes.use).toMatchObject({
      guests: 1,
      samples: 5000,
      memoryP95MiB: percentile(values, 95),
      vcpuP95:
        (percentile(
          Array.from({ length: 5000 }, (_, i) => cpu(i)),
          95,
        )! *
          4) /
        100,
    });
    expect(
      (await get<{ use: SimilarUse | null }>(`profiles/${(await profile('desktop')).id}/use`)).use,
    ).toBeNull();
  });
  it('give the trend that the median of all slopes in the database is', async () => {
    const samples = Array.from({ length: 40 }, (_, day) => ({
      x: day,
      y: 5e11 + day * 4e9 + ((day * 7919) % 13) * 1e9,
    }));
    const text = `time,pool,used bytes\n${samples.map(({ x, y }) => `${at(x * 1440)},gannet-data,${y}`).join('\n')}`;
    expect((await send(text)).body).toMatchObject({ state: 'done', added: 40 });
    const client = await here.connect();
    const { rows } = await client.query<{ slope: number }>(
      `select percentile_cont(0.5) within group (order by (b.disk_bytes - a.disk_bytes) / (extract(epoch from b.at - a.at) / 86400)::float8) slope from sample a join sample b on b.subject_id = a.subject_id and b.at > a.at where a.subject_id = $1`,
      [small.poolId],
    );
    await client.end();
    expect(theilSen(samples)!.slope / rows[0]!.slope).toBeCloseTo(1, 9);
    const use = await get<PoolUseView>(`pools/${small.poolId}/use`);
    expect(use.runway).toMatchObject({ state: 'filling' });
    expect(use.samples).toBe(40);
  });
  it('with one faulty line are not taken in at all; every fault has its line', async () => {
    const text = `time,guest,cpu %\n${at(90_000)},measured,5\n${at(90_005)},nobody,5\n2026-13-01,measured,5\n${at(90_010)},measured,500\n`;
    const { body } = await send(text);
    expect(body).toMatchObject({
      state: 'faulty',
      added: 0,
      faultsInAll: 3,
      faults: [
        { line: 3, sentence: 'There is no guest nobody in the record.' },
        { line: 4 },
        { line: 5 },
      ],
    });
    expect((await get<GuestUseView>(`guests/${id}/use`)).samples).toBe(5000);
    expect((await send('hour,guest\n')).body).toMatchObject({
      state: 'faulty',
      faults: [{ line: 1 }],
    });
    expect((await send('')).body).toMatchObject({
      state: 'faulty',
      faults: [{ line: 1, sentence: 'The file has no samples.' }],
    });
  });
  it('can be stopped on the way, and nothing is kept', async () => {
    const importId = randomUUID();
    let more = true;
    let line = 0;
    const stream = new ReadableStream({
      async pull(controller) {
        await new Promise((resolve) => setTimeout(resolve, 5));
        if (!more) return controller.close();
        const text =
          line === 0
            ? 'time,guest,cpu %\n'
            : Array.from(
                { length: 2000 },
                (_, i) => `${at(200 + (line * 2000 + i) / 1000)},measured,1\n`,
              ).join('');
        line += 1;
        controller.enqueue(new TextEncoder().encode(text));
      },
    });
    const answer = send(stream, importId);
    for (let told = 0; told < 100_000;) {
      await new Promise((resolve) => setTimeout(resolve, 20));
      const { status, body } = await keeper.call<ImportProgress>(
        'GET',
        `samples/imports/${importId}`,
      );
      if (status === 200) told = body.bytes;
    }
    expect((await keeper.call('POST', `samples/imports/${importId}/cancel`, {})).status).toBe(201);
    const { body } = await answer;
    more = false;
    expect(body).toMatchObject({ state: 'cancelled', added: 0 });
    expect((await get<GuestUseView>(`guests/${id}/use`)).samples).toBe(5000);
  });
  it('are for planners to bring in, and an import can be taken out again', async () => {
    await keeper.call('POST', 'people', { name: 'visitor', role: 'reader', password: PASSWORD });
    const visitor = await new Person(server.base).signIn('visitor');
    expect((await send('time,guest,cpu %\n', randomUUID(), visitor)).status).toBe(403);
    const first = (await get<ImportRow[]>('samples/imports')).find((row) => row.added === 5000)!;
    expect((await keeper.call('DELETE', `samples/imports/${first.id}`)).status).toBe(200);
    expect((await get<GuestUseView>(`guests/${id}/use`)).samples).toBe(0);
  });
});

it('the record and the log agree after all that', () => {
  const { status, stdout } = here.checkRecord();
  expect([status, stdout]).toEqual([0, expect.any(String)]);
});
