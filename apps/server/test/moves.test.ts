/** Moves through HTTP: several people tick at once, what is destroyed is typed, the way back, what runs taught. */
import type {
  CalibrationView,
  MigrationSheet,
  Problem,
  ReadAnswer,
  TimetableView,
  Written,
} from '@insel/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  guestBody,
  Installation,
  Person,
  planner as signedInPlanner,
  recordSmall,
  recordTern,
  type Small,
} from './support/server.js';

let here: Installation;
let keeper: Person;
let planner: Person;
let small: Small;
let guestId: string;
let moveId: string;

beforeAll(async () => {
  here = new Installation();
  const begun = await here.begin();
  keeper = begun.administrator;
  small = await recordSmall(keeper);
  await recordTern(keeper, small);
  const { body } = await keeper.make<Written>('guest.plan', guestBody(small, 'web'));
  guestId = body.created.find(({ kind }) => kind === 'guest')!.id;
  await keeper.make('guest.set-state', { id: guestId, state: 'in service' });
  planner = await signedInPlanner(keeper);
});
afterAll(() => here.end());

const sheet = async () => (await planner.call<MigrationSheet>('GET', `migrations/${moveId}`)).body;
const step = async (key: string) => (await sheet()).steps.find((row) => row.key === key)!;
const tick = async (person: Person, key: string, more: object = {}) =>
  person.make<Problem>('migration.tick', {
    stepIds: [(await step(key)).id],
    state: 'done',
    ...more,
  });

describe('a stopped move', () => {
  it('is planned with its steps, a method and a time to decide', async () => {
    const hosts = await planner.call<{ rows: { id: string; name: string }[] }>('GET', 'hosts');
    const pools = await planner.call<{ id: string; name: string }[]>('GET', 'pools');
    const { status, body } = await planner.make<Written>('migration.plan', {
      guestId,
      targetHostId: hosts.body.rows.find(({ name }) => name === 'tern')!.id,
      targetPoolId: pools.body.find(({ name }) => name === 'tern-data')!.id,
      running: false,
      linkBitsPerSecond: 1e9,
      windowFrom: '2027-01-16T02:00:00.000Z',
      windowUntil: '2027-01-16T06:00:00.000Z',
    });
    expect(status).toBe(201);
    moveId = body.created.find(({ kind }) => kind === 'migration')!.id;
    expect(await sheet()).toMatchObject({
      kind: 'between hosts',
      method: 'block image',
      holdDays: 7,
      decideBy: { at: '2027-01-16T05:05:00.000Z' },
    });
  });
  it('several people tick at once, and nobody is turned away', async () => {
    const [backup, off] = await Promise.all([step('backup'), step('shut-down')]);
    const answers = await Promise.all(
      [
        [planner, backup],
        [keeper, off],
      ].map(([person, row]) =>
        (person as Person).make('migration.tick', {
          stepIds: [(row as { id: string }).id],
          state: 'done',
          // Whichever of them comes first.
          override: 'both are being done',
        }),
      ),
    );
    expect(answers.map(({ status }) => status)).toEqual([201, 201]);
    const { steps } = await sheet();
    expect(steps.slice(0, 2).map(({ state, by }) => [state, by])).toEqual([
      ['done', 'planner'],
      ['done', 'keeper'],
    ]);
  });
  it('is not started there while the source may be on, and stands in the timetable', async () => {
    expect((await tick(planner, 'copied')).status).toBe(201);
    const { body } = await tick(planner, 'first-start', { copySeconds: 700 });
    expect([body.code, body.overridable]).toEqual(['both-on', false]);
    const table = await planner.call<TimetableView>('GET', 'migrations/timetable');
    expect(table.body.bars).toMatchObject([{ guest: 'web', state: 'started' }]);
  });
  it('days of the timetable begin by the clock that is asked for; one that is none is told', async () => {
    const ask = (zone: string) =>
      planner.call<TimetableView & Problem>(
        'GET',
        `migrations/timetable?days=2&from=2027-03-27T00:00:00.000Z&zone=${zone}`,
      );
    // The night to 28 March 2027 loses an hour in Lisbon (EU directive 2000/84/EC).
    expect((await ask('Europe/Lisbon')).body).toMatchObject({
      zone: 'Europe/Lisbon',
      until: '2027-03-28T23:00:00.000Z',
      midnights: ['2027-03-27T00:00:00.000Z', '2027-03-28T00:00:00.000Z'],
    });
    expect((await ask('UTC')).body.until).toBe('2027-03-29T00:00:00.000Z');
    expect(await ask('Mordor')).toMatchObject({
      status: 422,
      body: { code: 'bad-zone', field: 'zone' },
    });
  });
  it('teaches the next estimate by what its copy took', async () => {
    await tick(planner, 'source-off');
    expect((await tick(planner, 'first-start', { copySeconds: 700 })).status).toBe(201);
    const { body } = await planner.call<CalibrationView>('GET', 'migrations/calibration');
    expect(body.runs).toMatchObject([{ guest: 'web', tookSeconds: 700, method: 'block image' }]);
    expect((await sheet()).estimate.basis).toBe('this route');
  });
  it('what it prints is taken in before and after, in its time', async () => {
    const take = async (when: string, lines: string[]) => {
      const { id } = (await sheet()).migration;
      return planner.make<Problem>('migration.take-reading', {
        id,
        when,
        text: ['insel-reading: 1', ...lines].join('\n'),
      });
    };
    expect((await take('before', ['name: web'])).body.code).toBe('reading-out-of-time');
    expect((await take('after', ['name: web', 'failed: x.service'])).status).toBe(201);
    const { readings, acceptsItself } = await sheet();
    expect(readings).toMatchObject({ before: null, after: { by: 'planner', lines: 2 } });
    expect(readings.verdicts.filter(({ holds }) => holds === false)).toMatchObject([
      { what: 'failed' },
    ]);
    expect(acceptsItself!.against).toEqual(['failed: failed now: x.service']);
    expect((await take('after', ['name: web'])).status).toBe(201);
  });
  it('goes back with what was ticked kept, and the record agrees with its log', async () => {
    const { id } = (await sheet()).migration;
    expect((await planner.make('migration.step', { id, step: 'roll back' })).status).toBe(201);
    const after = await sheet();
    expect(after.migration.state).toBe('rolled back');
    expect(after.steps.filter(({ state }) => state === 'done').length).toBeGreaterThan(4);
    expect((await tick(planner, 'answers')).body.code).toBe('state-cannot-follow');
    expect(here.checkRecord().status).toBe(0);
  });
  it('accepts itself a day later, on whichever server looks first, and says so in the log', async () => {
    const { guestId: moved, targetHostId } = (await sheet()).migration;
    const pools = await planner.call<{ id: string; name: string }[]>('GET', 'pools');
    const { body } = await planner.make<Written>('migration.plan', {
      guestId: moved,
      targetHostId,
      targetPoolId: pools.body.find(({ name }) => name === 'tern-data')!.id,
      running: false,
      linkBitsPerSecond: 1e9,
    });
    moveId = body.created.find(({ kind }) => kind === 'migration')!.id;
    for (const key of ['backup', 'shut-down', 'copied', 'source-off', 'first-start'])
      expect([key, (await tick(planner, key)).status]).toEqual([key, 201]);
    const { switchedAt } = (await sheet()).migration;
    const later = new Date(Date.parse(switchedAt!) + 25 * 3_600_000).toISOString();
    const servers = await Promise.all([1, 2].map(() => here.startServer({ INSEL_NOW: later })));
    const person = await new Person(servers[0]!.base).signIn('keeper');
    const state = async () =>
      (await person.call<MigrationSheet>('GET', `migrations/${moveId}`)).body.migration.state;
    for (let i = 0; i < 50 && (await state()) !== 'accepted'; i += 1)
      await new Promise((resolve) => setTimeout(resolve, 100));
    expect(await state()).toBe('accepted');
    const log = await person.call<ReadAnswer<'log'>>('GET', 'log?take=1');
    expect(log.body.rows[0]).toMatchObject({
      actorName: 'Insel',
      reason: 'A day without a finding',
    });
    for (const { process: child } of servers) child.kill('SIGTERM');
  });
});
