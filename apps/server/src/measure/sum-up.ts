/**
 * Samples that grow old stand for more and more: whole ones become hours, hours become days, days may go. A day of time is
 * one transaction, so that nobody waits for years; each is summed up once, whichever server does it.
 */
import type { SampleKeeping } from '@insel/contract';
import pg from 'pg';

const DAY_MS = 86_400_000;
/** One server at a time; the number is ours. */
const LOCK = 7_340_021;

/** Rows that went, and rows that stand for them now. */
export interface SummedUp {
  taken: number;
  made: number;
}

const LARGEST = (column: string) => `greatest(sample_part.${column}, excluded.${column})`;
const MEAN = (column: string) =>
  `case when sample_part.${column} is null then excluded.${column} when excluded.${column} is null then sample_part.${column}
    else (sample_part.${column}::float8 * sample_part.samples + excluded.${column}::float8 * excluded.samples) / (sample_part.samples + excluded.samples) end`;
/** What comes to a part that stands already is added to it; its percentile is then the larger of both. Imports leave such parts as they are. */
const MERGED = `on conflict (subject_id, span, at) do update set samples = sample_part.samples + excluded.samples,
  cpu_mean = ${MEAN('cpu_mean')}, cpu_p95 = ${LARGEST('cpu_p95')}, cpu_most = ${LARGEST('cpu_most')},
  memory_mean = ${MEAN('memory_mean')}, memory_p95 = ${LARGEST('memory_p95')}, memory_most = ${LARGEST('memory_most')},
  disk_bytes = coalesce(excluded.disk_bytes, sample_part.disk_bytes)`;
const COLUMNS =
  'subject_id, span, at, samples, cpu_mean, cpu_p95, cpu_most, memory_mean, memory_p95, memory_most, disk_bytes';
const LAST_DISK =
  '(array_agg(disk_bytes order by at desc) filter (where disk_bytes is not null))[1]';
const p95 = (column: string) => `percentile_cont(0.95) within group (order by ${column})`;

/** Whole samples of one day become hours (UTC). */
const TO_HOURS = `with gone as (delete from sample where at >= $1 and at < $2 returning *),
  made as (insert into sample_part (${COLUMNS})
    select subject_id, 'hour', date_trunc('hour', at, 'UTC'), count(*), avg(cpu_percent), ${p95('cpu_percent')}, max(cpu_percent),
      avg(memory_mib), ${p95('memory_mib')}, max(memory_mib), ${LAST_DISK}
    from gone group by subject_id, date_trunc('hour', at, 'UTC') ${MERGED} returning 1)
  select (select count(*) from gone)::int taken, (select count(*) from made)::int made`;

const weighted = (column: string) =>
  `sum(${column}::float8 * samples) / nullif(sum(samples) filter (where ${column} is not null), 0)`;
/** Hours of one day become that day. */
const TO_DAYS = `with gone as (delete from sample_part where span = 'hour' and at >= $1 and at < $2 returning *),
  made as (insert into sample_part (${COLUMNS})
    select subject_id, 'day', date_trunc('day', at, 'UTC'), sum(samples), ${weighted('cpu_mean')}, max(cpu_p95), max(cpu_most),
      ${weighted('memory_mean')}, max(memory_p95), max(memory_most), ${LAST_DISK}
    from gone group by subject_id, date_trunc('day', at, 'UTC') ${MERGED} returning 1)
  select (select count(*) from gone)::int taken, (select count(*) from made)::int made`;

/** The first moment of the day so many days before. */
const dayBefore = (now: string, days: number): number =>
  Math.floor(Date.parse(now) / DAY_MS) * DAY_MS - days * DAY_MS;

/** @param client a connection of its own: what is held of it is the lock */
export async function sumUp(
  client: pg.ClientBase,
  { wholeDays, hourDays, dayDays }: Pick<SampleKeeping, 'wholeDays' | 'hourDays' | 'dayDays'>,
  now: string,
): Promise<SummedUp> {
  const { rows } = await client.query<{ mine: boolean }>('select pg_try_advisory_lock($1) mine', [
    LOCK,
  ]);
  const done: SummedUp = { taken: 0, made: 0 };
  if (!rows[0]!.mine) return done;
  try {
    const steps = [
      { oldest: 'select min(at) at from sample', until: dayBefore(now, wholeDays), sql: TO_HOURS },
      {
        oldest: `select min(at) at from sample_part where span = 'hour'`,
        until: dayBefore(now, Math.max(wholeDays, hourDays)),
        sql: TO_DAYS,
      },
    ];
    for (const { oldest, until, sql } of steps)
      for (;;) {
        const { rows: first } = await client.query<{ at: Date | null }>(oldest);
        const at = first[0]!.at?.getTime();
        if (at === undefined || at >= until) break;
        const day = Math.floor(at / DAY_MS) * DAY_MS;
        const { rows: moved } = await client.query<SummedUp>(sql, [
          new Date(day),
          new Date(Math.min(day + DAY_MS, until)),
        ]);
        done.taken += moved[0]!.taken;
        done.made += moved[0]!.made;
      }
    if (dayDays !== null) {
      const { rowCount } = await client.query(
        `delete from sample_part where span = 'day' and at < $1`,
        [new Date(dayBefore(now, Math.max(wholeDays, hourDays, dayDays)))],
      );
      done.taken += rowCount ?? 0;
    }
    return done;
  } finally {
    await client.query('select pg_advisory_unlock($1)', [LOCK]);
  }
}
