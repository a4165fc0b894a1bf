/** Parts of guests by HTTP: volumes and where they could lie, drives, snapshots, the order of adapters, groups, search. */
import type {
  GuestGroupView,
  GuestSheet,
  MediumView,
  PoolView,
  SearchHit,
  Written,
} from '@insel/contract';
import type { PoolRank } from '@insel/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { guestBody, Installation, recordSmall, type Person, type Small } from './support/server.js';

let here: Installation;
let keeper: Person;
let small: Small;
let id: string;
const made = (answer: { body: Written }, kind: string) =>
  answer.body.created.find((found) => found.kind === kind)!.id;
const get = async <T>(path: string): Promise<T> => (await keeper.call<T>('GET', path)).body;
const sheet = () => get<GuestSheet>(`guests/${id}`);

beforeAll(async () => {
  here = new Installation();
  ({ administrator: keeper } = await here.begin());
  small = await recordSmall(keeper);
  id = made(
    await keeper.make<Written>('guest.record', {
      ...guestBody(small, 'web', {
        vcpu: 2,
        owner: 'keeper',
        criticality: 'high',
        firmware: 'UEFI',
      }),
      state: 'in service',
    }),
    'guest',
  );
});
afterAll(() => here.end());

describe('volumes', () => {
  it('are told where else they could lie, and what is left there', async () => {
    await keeper.make('pool.record', {
      name: 'shared',
      usableBytes: 2e12,
      hostIds: [small.hostId],
      remote: 'shelf',
    });
    const [volume] = (await sheet()).volumes;
    const places = await get<PoolRank[]>(`volumes/${volume!.id}/places`);
    expect(places.map((pool) => [pool.name, pool.fits, pool.leftAfterBytes])).toEqual([
      ['shared', true, 2e12 - 10_737_418_240],
    ]);
    expect(
      (
        await keeper.make('volume.edit', {
          id: volume!.id,
          poolId: places[0]!.poolId,
          bus: 'SATA',
          usedBytes: 5e9,
        })
      ).status,
    ).toBe(201);
    expect((await sheet()).volumes).toMatchObject([
      { pool: { name: 'shared' }, bus: 'SATA', usedBytes: 5e9, base: null, dependents: 0 },
    ]);
  });
  it('keep what they may be: a bus that there is, a size above nothing', async () => {
    expect(
      (
        await keeper.make('volume.add', {
          guestId: id,
          poolId: small.poolId,
          bytes: 0,
          label: 'none',
        })
      ).body,
    ).toMatchObject({ status: 422, field: 'bytes' });
    expect(
      (
        await keeper.make('volume.add', {
          guestId: id,
          poolId: small.poolId,
          bytes: 5,
          label: 'none',
          bus: 'SASI',
        })
      ).body,
    ).toMatchObject({ status: 422, field: 'bus' });
    expect(
      (
        await keeper.make('volume.add', {
          guestId: id,
          poolId: small.poolId,
          bytes: 4_194_304,
          label: 'variables',
          use: 'UEFI variables',
        })
      ).status,
    ).toBe(201);
  });
});

describe('drives and snapshots', () => {
  it('a medium is attached once, connected or not, and ejected', async () => {
    const mediumId = made(
      await keeper.make<Written>('medium.record', { name: 'linux.img', bytes: 7, family: 'Linux' }),
      'medium',
    );
    const drive = made(
      await keeper.make<Written>('drive.record', { guestId: id, mediumId, atPowerOn: false }),
      'drive',
    );
    expect((await keeper.make('drive.record', { guestId: id, mediumId })).body).toMatchObject({
      code: 'stated-twice',
    });
    expect((await keeper.make('drive.edit', { id: drive, atPowerOn: true })).status).toBe(201);
    expect((await get<MediumView[]>('media'))[0]!.attached).toMatchObject([
      { name: 'web', atPowerOn: true, state: 'in service' },
    ]);
    expect((await keeper.make('drive.remove', { id: drive })).status).toBe(201);
  });
  it('a snapshot takes room of its pool, and gives it back', async () => {
    const before = (await get<PoolView[]>('pools')).find((pool) => pool.id === small.poolId)!;
    const snapshot = made(
      await keeper.make<Written>('snapshot.record', {
        guestId: id,
        name: 'before',
        poolId: small.poolId,
        takenAt: '2026-11-01T00:00:00.000Z',
        bytes: 1e11,
        why: 'update',
      }),
      'snapshot',
    );
    const after = (await get<PoolView[]>('pools')).find((pool) => pool.id === small.poolId)!;
    expect([
      after.promisedBytes - before.promisedBytes,
      after.snapshots,
      after.ratio.value,
    ]).toEqual([1e11, 1, after.promisedBytes / after.usableBytes]);
    const [held] = (await sheet()).snapshots;
    expect(held).toMatchObject({ name: 'before', pool: { name: 'gannet-data' }, why: 'update' });
    expect(
      (await keeper.make('snapshot.edit', { id: snapshot, growthBytesPerDay: 4e12 })).status,
    ).toBe(201);
    expect((await sheet()).findings.map((finding) => finding.rule)).toContain('snapshot-old');
    expect((await keeper.make('snapshot.remove', { id: snapshot })).status).toBe(201);
  });
});

describe('adapters', () => {
  it('are put in another order, and say switch, VLAN and name inside', async () => {
    await keeper.make('adapter.add', {
      guestId: id,
      networkId: small.networkId,
      address: { as: 'next' },
    });
    const [a, b] = (await sheet()).adapters;
    expect([a!.inside, b!.inside, a!.switchName !== '', a!.side]).toEqual([
      { name: 'enp1s0', expected: true },
      { name: 'enp2s0', expected: true },
      true,
      null,
    ]);
    expect((await keeper.make('adapter.order', { guestId: id, ids: [b!.id] })).body).toMatchObject({
      code: 'not-all',
    });
    expect((await keeper.make('adapter.order', { guestId: id, ids: [b!.id, a!.id] })).status).toBe(
      201,
    );
    expect(
      (await keeper.make('adapter.edit', { id: b!.id, nameInside: 'lan0', model: 'paravirtual' }))
        .status,
    ).toBe(201);
    await keeper.make('guest.edit', { id, forwards: true });
    expect(
      (await sheet()).adapters.map((adapter) => [adapter.id, adapter.inside.name, adapter.side]),
    ).toEqual([
      [b!.id, 'lan0', 'outside'],
      [a!.id, 'enp2s0', 'inside'],
    ]);
  });
});

describe('groups and search', () => {
  it('a group tells how its members are spread', async () => {
    const groupId = made(
      await keeper.make<Written>('guest-group.record', { name: 'pages', needed: 1 }),
      'guestGroup',
    );
    const other = made(
      await keeper.make<Written>('guest.record', {
        ...guestBody(small, 'web-2'),
        state: 'in service',
      }),
      'guest',
    );
    await keeper.make('guest.edit-many', { ids: [id, other], groupId });
    const [group] = await get<GuestGroupView[]>('guest-groups');
    expect([
      group!.guests.map((guest) => guest.name),
      group!.spreadNow!.left,
      group!.findings.map((finding) => finding.rule),
    ]).toEqual([['web', 'web-2'], 0, ['group-not-spread']]);
    expect((await keeper.make('guest-group.remove', { id: groupId })).body).toMatchObject({
      code: 'still-referred-to',
    });
  });
  it('finds media, pools, roles and groups by name', async () => {
    const hits = async (q: string) =>
      (await get<SearchHit[]>(`search?q=${q}`)).map((hit) => [hit.kind, hit.label]);
    expect(await hits('linux.img')).toEqual([['medium', 'linux.img']]);
    expect(await hits('shared')).toEqual([['pool', 'shared']]);
    expect(await hits('pages')).toEqual([['guestGroup', 'pages']]);
    expect(await hits('camera')).toEqual([['profile', 'camera store']]);
  });
  it('finds what stands in notes, with the words around it', async () => {
    const [host] = (await get<{ rows: { id: string }[] }>('hosts')).rows;
    await keeper.make('host.edit', {
      id: host!.id,
      notes: 'The key to its rack hangs at the ferry office',
    });
    const found = (await get<SearchHit[]>('search?q=FERRY%20off')).filter(
      ({ kind }) => kind === 'host',
    );
    expect(found).toMatchObject([
      {
        id: host!.id,
        detail: '… o its rack hangs at the ferry office',
        path: `/hosts/${host!.id}`,
      },
    ]);
    expect(await get<SearchHit[]>('search?q=fe')).not.toContainEqual(found[0]);
  });
  it('states say what they free', async () => {
    const { states, build } = await sheet();
    // 1,024 MiB with 128 + 2 · 8 + 16 + 1 %, rounded up.
    expect(states.map(({ state }) => state)).toEqual(['stopped', 'retired']);
    expect(states[1]!.effect).toContain('frees 1.2 GiB and 2 vCPU of gannet');
    expect(build).toMatchObject({ done: 0, passed: 0, failed: [], last: null });
  });
});

it('the record and the log agree after all that', () => {
  const { status } = here.checkRecord();
  expect(status).toBe(0);
});
