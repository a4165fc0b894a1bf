/** Computers through HTTP: facts, a move into a guest with its way back, seen together; kept by the database, read by another server. */
import type {
  DeviceView,
  GuestSheet,
  MigrationSheet,
  PhysicalRoute,
  Problem,
  Written,
} from '@insel/contract';
import type { Consolidation } from '@insel/core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Installation, Person, recordSmall, type Small } from './support/server.js';

let here: Installation;
let keeper: Person;
let small: Small;
let deviceId: string;
let moveId: string;

const GIB = 1024 ** 3;
const device = async () =>
  (await keeper.call<{ device: DeviceView }>('GET', `devices/${deviceId}`)).body.device;
const move = async (person = keeper) =>
  (await person.call<MigrationSheet>('GET', `migrations/${moveId}`)).body;
const route = (input: object) =>
  keeper.call<PhysicalRoute>('POST', 'migrations/physical-route', {
    type: 'migration.plan-from-physical',
    input,
  });
const planned = async () => {
  const { computer } = await device();
  return {
    ...{ deviceId, targetHostId: small.hostId, name: 'ledger', vcpu: 2, memoryMiB: 2048 },
    disks: [
      { computerDiskId: computer!.disks[0]!.id, poolId: small.poolId, bytes: 41 * GIB, thin: true },
    ],
    linkBitsPerSecond: 1e9,
  };
};
const tick = async (key: string, more: object = {}) =>
  keeper.make<Problem>('migration.tick', {
    stepIds: [(await move()).steps.find((row) => row.key === key)!.id],
    state: 'done',
    ...more,
  });

beforeAll(async () => {
  here = new Installation();
  keeper = (await here.begin()).administrator;
  small = await recordSmall(keeper);
  const { body } = await keeper.make<Written>('device.record', {
    name: 'ledger',
    kind: 'computer',
    ports: [{ name: 'eth0', networkId: small.networkId, addresses: [{ ip: '192.0.2.60' }] }],
  });
  deviceId = body.created.find(({ kind }) => kind === 'device')!.id;
});
afterAll(() => here.end());

it('what it prints of itself fills its sheet, and what cannot be read alters nothing', async () => {
  const bad = await keeper.make<Problem>('computer.take-facts', { id: deviceId, text: 'nothing' });
  expect(bad.body).toMatchObject({ code: 'facts-not-read', field: 'text' });
  const facts = {
    insel_facts: 1,
    lscpu: {
      lscpu: [
        { field: 'Architecture:', data: 'x86_64' },
        { field: 'Socket(s):', data: '1' },
        { field: 'Core(s) per socket:', data: '4' },
      ],
    },
    lsblk: { blockdevices: [{ name: 'sda', type: 'disk', size: 40 * GIB, 'log-sec': 512 }] },
  };
  const text = JSON.stringify(facts);
  expect((await keeper.make('computer.take-facts', { id: deviceId, text })).status).toBe(201);
  const { computer } = await device();
  expect(computer).toMatchObject({
    sheet: { architecture: 'x86-64', sockets: 1, memoryMiB: null },
    disks: [{ bay: 'sda', bytes: 40 * GIB, sectorBytes: 512 }],
    asGuest: { vcpu: { value: 4 }, memory: { value: null } },
  });
});

it('what is thought of is answered with checks and an estimate, or with why it cannot be', async () => {
  const { body } = await route(await planned());
  expect(body.fault).toBeNull();
  expect(body.estimate!.best.value).toBeGreaterThan(300);
  expect(body.checks.find(({ name }) => name === 'sectors')).toMatchObject({ passed: true });
  expect(body.checks.find(({ name }) => name === 'restarted')).toMatchObject({ passed: null });
  const none = await route({ ...(await planned()), disks: [] });
  expect(none.body.fault!.sentence).toBe('Say which disks of ledger travel.');
  const wrong = await route({ deviceId: 'nobody' });
  expect(wrong.body.fault).not.toBeNull();
});

it('moves: the disk is named before it is destroyed, the address goes over, both servers tell the same', async () => {
  const made = await keeper.make<Written>('migration.plan-from-physical', {
    ...(await planned()),
    override: 'practice',
  });
  expect(made.status).toBe(201);
  moveId = made.body.created.find(({ kind }) => kind === 'migration')!.id;
  expect((await tick('copied', { override: 'at once' })).body).toMatchObject({
    code: 'name-not-typed',
  });
  const { steps } = await move();
  for (const { key, destroys } of steps.slice(
    0,
    steps.findIndex((row) => row.key === 'answers'),
  ))
    expect([
      key,
      (await tick(key, { override: 'practice', ...(destroys ? { typed: destroys } : {}) })).status,
    ]).toEqual([key, 201]);
  const sheet = await move();
  expect(sheet.migration.state).toBe('switched');
  expect(sheet.source).toMatchObject({ kind: 'device', state: 'off' });
  const guest = await keeper.call<GuestSheet>('GET', `guests/${sheet.guest.id}`);
  expect(guest.body.adapters[0]!.addresses.map(({ ip }) => ip)).toEqual(['192.0.2.60']);
  const other = await here.startServer();
  const person = await new Person(other.base).signIn('keeper');
  expect(await move(person)).toEqual(sheet);
});

it('rolled back the computer has its address again; then it is seen together with others', async () => {
  await keeper.make('migration.step', { id: moveId, step: 'roll back' });
  const { ports, state } = await device();
  expect([state, ports[0]!.addresses[0]!.ip]).toEqual(['in service', '192.0.2.60']);
  const asked = { deviceIds: [deviceId], windowHours: 8, linkBitsPerSecond: 1e9 };
  const before = await keeper.call<Consolidation>('POST', 'migrations/consolidation', asked);
  expect(before.body.moves[0]).toMatchObject({ target: null, why: 'its memory is not recorded' });
  await keeper.make('computer.set', { id: deviceId, memoryMiB: 4096, drawWatts: 90 });
  const { body } = await keeper.call<Consolidation>('POST', 'migrations/consolidation', asked);
  expect(body.moves[0]!.target).toMatchObject({ host: 'gannet', pool: 'gannet-data' });
  expect(body.freed.watts).toEqual({ known: 90, unknown: [] });
});

it('the record of all of it replays', () =>
  expect(here.checkRecord().stdout).toContain('The three agree.'));
