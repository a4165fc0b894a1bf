/** Samples that grow old are summed up: against what the database says of them before, by its own aggregates. */
import type { GuestUseView, Problem, SampleKeeping } from '@insel/contract';
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sumUp } from '../dist/measure/sum-up.js';
import { guestBody, Installation, Person, recordSmall, type Small } from './support/server.js';

let here: Installation;
let keeper: Person;
let small: Small;
let client: pg.Client;
let guestId: string;
/** Two hours of a day long ago, an hour of the next, and a day of last week: a sample each five minutes. */
const NOW = '2026-11-20T08:00:00.000Z';
const at = (text: string, i: number) => new Date(Date.parse(text) + i * 300_000).toISOString();
const SAMPLES = [
  ...Array.from({ length: 24 }, (_, i) => at('2024-03-01T10:00:00Z', i)),
  ...Array.from({ length: 12 }, (_, i) => at('2024-03-02T00:00:00Z', i)),
  ...Array.from({ length: 288 }, (_, i) => at('2026-11-12T00:00:00Z', i)),
].map((time, i) => ({ time, cpu: (i * 37) % 100, memory: 500 + ((i * 53) % 997) }));

const KEEP = { wholeDays: 400, hourDays: 1200, dayDays: null };
const parts = async (span: string) =>
  (
    await client.query<Record<string, number | string | Date>>(
      'select * from sample_part where span = $1 order by at',
      [span],
    )
  ).rows;

beforeAll(async () => {
  here = new Installation();
  ({ administrator: keeper } = await here.begin());
  small = await recordSmall(keeper);
  const made = await keeper.make<{ created: { kind: string; id: string }[] }>(
    'guest.record',
    guestBody(small, 'gauge', { state: 'in service', adapters: [] }),
  );
  guestId = made.body.created.find(({ kind }) => kind === 'guest')!.id;
  client = await here.connect();
  for (const { time, cpu, memory } of SAMPLES)
    await client.query('insert into sample values ($1, $2, $3, $4, $5, $1)', [
      guestId,
      time,
      cpu,
      memory,
      memory * 1000,
    ]);
});
afterAll(async () => {
  await client.end();
  await here.end();
});

describe('samples older than they are kept', () => {
  it('become hours, with mean, percentile, largest and the last level of their disks', async () => {
    const { rows: wanted } = await client.query<Record<string, number | string | Date>>(
      `select date_trunc('hour', at, 'UTC') at, count(*)::int n, avg(cpu_percent)::real cpu, max(cpu_percent) most, percentile_cont(0.95) within group (order by memory_mib) p95
       from sample where at < '2025-01-01' group by 1 order by 1`,
    );
    expect(await sumUp(client, KEEP, NOW)).toEqual({ taken: 36, made: 3 });
    const hours = await parts('hour');
    expect(hours.map((row) => [row.at, row.samples, row.cpu_mean, row.cpu_most])).toEqual(
      wanted.map((row) => [row.at, row.n, row.cpu, row.most]),
    );
    for (const [i, row] of hours.entries())
      expect(row.memory_p95).toBe(Math.round(Number(wanted[i]!.p95)));
    // The level at the end of the hour, not the mean of it.
    expect(Number(hours[0]!.disk_bytes)).toBe(SAMPLES[11]!.memory * 1000);
    expect((await client.query('select 1 from sample')).rowCount).toBe(288);
  });
  it('are summed up once', async () => {
    expect(await sumUp(client, KEEP, NOW)).toEqual({ taken: 0, made: 0 });
  });
  it('are drawn with the others and counted, while percentiles are taken of whole ones', async () => {
    const { body: use } = await keeper.call<GuestUseView>('GET', `guests/${guestId}/use?days=3650`);
    expect(use).toMatchObject({ samples: 324, summedUp: 36, firstAt: '2024-03-01T10:00:00.000Z' });
    expect(use.vcpu!.figure.lines[0]!.label).toContain('288 samples over 0 days');
    // The largest of a time that was summed up stays the largest.
    expect(use.points[0]!.cpuMost).toBe(Math.max(...SAMPLES.slice(0, 36).map(({ cpu }) => cpu)));
  });
  it('what comes late to an hour that stands is added to it', async () => {
    const [before] = await parts('hour');
    await client.query('insert into sample values ($1, $2, 99, 4000, 7, $1)', [
      guestId,
      '2024-03-01T10:01:00Z',
    ]);
    expect(await sumUp(client, KEEP, NOW)).toEqual({ taken: 1, made: 1 });
    const [after] = await parts('hour');
    expect(after).toMatchObject({ samples: 13, cpu_most: 99, memory_most: 4000 });
    expect(Number(after!.cpu_mean)).toBeCloseTo((Number(before!.cpu_mean) * 12 + 99) / 13, 3);
  });
  it('the same file once more adds nothing to what stands summed up', async () => {
    const [before] = await parts('hour');
    const response = await fetch(`${keeper.base}/api/samples/imports/${randomUUID()}`, {
      method: 'POST',
      headers: {
        'Content-Type': 'text/csv',
        Cookie: (keeper as unknown as { cookie: string }).cookie,
      },
      body: 'time,guest,cpu %\n2024-03-01T10:05:00Z,gauge,37\n2024-03-01T12:00:00Z,gauge,1\n',
    });
    // The hour at noon is new; the one at ten stands.
    expect(await response.json()).toMatchObject({ state: 'done', lines: 2, added: 1 });
    expect(await sumUp(client, KEEP, NOW)).toEqual({ taken: 1, made: 1 });
    expect((await parts('hour'))[0]).toEqual(before);
  });
  it('hours become days, and days go where they are not kept for good', async () => {
    await sumUp(client, { ...KEEP, hourDays: 500 }, NOW);
    expect(await parts('hour')).toEqual([]);
    const days = await parts('day');
    expect(days.map((row) => [(row.at as Date).toISOString(), row.samples])).toEqual([
      ['2024-03-01T00:00:00.000Z', 26],
      ['2024-03-02T00:00:00.000Z', 12],
    ]);
    expect(days[0]).toMatchObject({ cpu_most: 99, memory_most: 4000 });
    await sumUp(client, { ...KEEP, hourDays: 500, dayDays: 600 }, NOW);
    expect(await parts('day')).toEqual([]);
    expect((await client.query('select 1 from sample')).rowCount).toBe(288);
  });
  it('are left to the server that is at it already', async () => {
    const other = await here.connect();
    await other.query('select pg_advisory_lock(7340021)');
    await client.query('insert into sample values ($1, $2, 1, 1, 1, $1)', [
      guestId,
      '2024-01-01T00:00:00Z',
    ]);
    expect(await sumUp(client, KEEP, NOW)).toEqual({ taken: 0, made: 0 });
    await other.end();
  });
});

describe('how long they are kept', () => {
  it('is usual until an administrator says otherwise, and then done at once', async () => {
    const read = async () => (await keeper.call<SampleKeeping>('GET', 'samples/keeping')).body;
    expect(await read()).toMatchObject({ wholeDays: 400, hourDays: 1825, dayDays: null, by: null });
    expect(
      (await keeper.call('PUT', 'samples/keeping', { wholeDays: 30, hourDays: 60 })).status,
    ).toBe(204);
    expect(await read()).toMatchObject({
      ...{ wholeDays: 30, hourDays: 60, dayDays: null, by: 'keeper', hours: 0, days: 1 },
    });
  });
  it('is refused in words where it is too short, and to others than administrators', async () => {
    const short = await keeper.call<Problem>('PUT', 'samples/keeping', {
      wholeDays: 3,
      hourDays: 60,
    });
    expect([short.status, short.body.errors?.[0]?.sentence]).toEqual([422, 'At least 30.']);
    await keeper.call('POST', 'people', {
      name: 'mate',
      role: 'planner',
      password: 'a long enough password',
    });
    const mate = await new Person(keeper.base).signIn('mate');
    expect(
      (await mate.call('PUT', 'samples/keeping', { wholeDays: 90, hourDays: 90 })).status,
    ).toBe(403);
  });
});
