/** Measured samples in tables of their own: no log, no fleet. Read by guest or pool, taken in by import. */
import type { ImportRow, SampleKeeping, SimilarUse } from '@insel/contract';
import { HOURS, type HourlyUse } from '@insel/core';
import { MikroORM } from '@mikro-orm/postgresql';

export interface Sample {
  at: string;
  cpuPercent: number | null;
  memoryMiB: number | null;
  diskBytes: number | null;
  /** How many it stands for; above 1 the values are means, and these the largest. */
  samples: number;
  cpuMost: number | null;
  memoryMostMiB: number | null;
}

/** Days that stand for how a guest is used by the hour; of many guests fewer, so that it is read in seconds. */
const daysByHour = (guests: number): number => (guests > 200 ? 8 : 30);

/** What is kept where nobody said otherwise, in days; days of time for good. */
const USUAL_KEEPING = { wholeDays: 400, hourDays: 1825, dayDays: null as number | null };

const DAY_S = 86_400;

/** Whole samples and the parts of time that stand for those which are gone, of the same shape. */
const ALL = `(select subject_id, at, 1 samples, cpu_percent, cpu_percent cpu_most, memory_mib, memory_mib memory_most, disk_bytes, at ends from sample
  union all select subject_id, at, samples, cpu_mean, cpu_most, memory_mean, memory_most, disk_bytes, at + ('1 ' || span)::interval from sample_part)`;

export class Samples {
  /** Whole samples, and all with those that are summed up. */
  private readonly table: string;
  private readonly all: string;

  constructor(
    private readonly orm: MikroORM,
    until?: Date,
  ) {
    const then = until && `'${until.toISOString()}'`;
    this.table = then ? `(select * from sample where at <= ${then}) sample` : 'sample';
    this.all = then ? `(select * from ${ALL} x where ends <= ${then}) sample` : `${ALL} sample`;
  }

  /** Samples as far as they had been taken by then. */
  upTo(time: Date): Samples {
    return new Samples(this.orm, time);
  }

  private rows<T>(sql: string, parameters: unknown[] = []): Promise<T[]> {
    return this.orm.em.getConnection().execute<T[]>(sql, parameters, 'all');
  }

  /** Samples of the last so many days before the newest one, oldest first. */
  async of(subjectId: string, days: number): Promise<Sample[]> {
    const rows = await this.rows<{
      at: Date;
      cpu_percent: number | null;
      memory_mib: number | null;
      disk_bytes: string | null;
      samples: number;
      cpu_most: number | null;
      memory_most: number | null;
    }>(
      `select at, cpu_percent, memory_mib, disk_bytes, samples, cpu_most, memory_most from ${this.all} where subject_id = ? and at >= (select max(at) from ${this.all} where subject_id = ?) - make_interval(days => ?) order by at`,
      [subjectId, subjectId, days],
    );
    return rows.map((row) => ({
      at: new Date(row.at).toISOString(),
      cpuPercent: row.cpu_percent,
      memoryMiB: row.memory_mib,
      diskBytes: row.disk_bytes === null ? null : Number(row.disk_bytes),
      samples: row.samples,
      cpuMost: row.cpu_most,
      memoryMostMiB: row.memory_most,
    }));
  }

  /** How long they are kept, and how many there are of each form. */
  async keeping(): Promise<SampleKeeping> {
    const [said] = await this.rows<{
      whole_days: number;
      hour_days: number;
      day_days: number | null;
      by: string;
      at: Date;
    }>('select * from sample_keeping');
    const [there] = await this.rows<{ whole: string; hours: string; days: string }>(
      `select (select count(*) from sample) whole, (select count(*) from sample_part where span = 'hour') hours, (select count(*) from sample_part where span = 'day') days`,
    );
    return {
      ...(said
        ? { wholeDays: said.whole_days, hourDays: said.hour_days, dayDays: said.day_days }
        : USUAL_KEEPING),
      by: said?.by ?? null,
      at: said ? new Date(said.at).toISOString() : null,
      whole: Number(there!.whole),
      hours: Number(there!.hours),
      days: Number(there!.days),
    };
  }

  /** The newest disk sample of each of these. */
  async newest(ids: readonly string[]): Promise<{ id: string; at: string; diskBytes: number }[]> {
    if (ids.length === 0) return [];
    const rows = await this.rows<{ id: string; at: Date; disk_bytes: string }>(
      `select x.id, newest.at, newest.disk_bytes from unnest(array[${ids.map(() => '?').join(', ')}]::uuid[]) as x (id)
       cross join lateral (select at, disk_bytes from ${this.all} where subject_id = x.id and disk_bytes is not null order by at desc limit 1) newest`,
      [...ids],
    );
    return rows.map((row) => ({
      id: row.id,
      at: new Date(row.at).toISOString(),
      diskBytes: Number(row.disk_bytes),
    }));
  }

  /** What was in use of each of these at some moments: the newest disk sample between each and the one before, oldest first. */
  async courses(
    ids: readonly string[],
    { begin, end, looks }: { begin: string; end: string; looks: number },
  ): Promise<{ id: string; at: string; diskBytes: number }[]> {
    if (ids.length === 0) return [];
    const step = (Date.parse(end) - Date.parse(begin)) / 1000 / looks;
    const rows = await this.rows<{ id: string; at: Date; disk_bytes: string }>(
      `select x.id, found.at, found.disk_bytes from unnest(array[${ids.map(() => '?').join(', ')}]::uuid[]) as x (id)
       cross join generate_series(1, ?) as look
       cross join lateral (select at, disk_bytes from ${this.all} where subject_id = x.id and disk_bytes is not null
         and at > ?::timestamptz + make_interval(secs => ? * (look - 1)) and at <= ?::timestamptz + make_interval(secs => ? * look)
         order by at desc limit 1) found
       order by x.id, look`,
      [...ids, looks, begin, step, begin, step],
    );
    return rows.map((row) => ({
      id: row.id,
      at: new Date(row.at).toISOString(),
      diskBytes: Number(row.disk_bytes),
    }));
  }

  /** What was in use inside each of these, on average, in the last day before some moments: the oldest first. */
  async memoryCourses(
    ids: readonly string[],
    { begin, end, looks }: { begin: string; end: string; looks: number },
  ): Promise<{ id: string; look: number; at: string; memoryMiB: number }[]> {
    if (ids.length === 0) return [];
    const step = (Date.parse(end) - Date.parse(begin)) / 1000 / looks;
    const rows = await this.rows<{ id: string; look: number; at: Date; memory: number }>(
      `select x.id, look, found.at, found.memory from unnest(array[${ids.map(() => '?').join(', ')}]::uuid[]) as x (id)
       cross join generate_series(1, ?) as look
       cross join lateral (select max(at) at, avg(memory_mib)::float8 memory from ${this.all} where subject_id = x.id and memory_mib is not null
         and at > ?::timestamptz + make_interval(secs => ? * look - ?) and at <= ?::timestamptz + make_interval(secs => ? * look)) found
       where found.at is not null order by look`,
      [...ids, looks, begin, step, Math.min(step, DAY_S), begin, step],
    );
    return rows.map(({ id, look, at, memory }) => ({
      ...{ id, look, memoryMiB: memory },
      at: new Date(at).toISOString(),
    }));
  }

  /** 95th percentiles (type 7, as percentile_cont computes it) of guests, the largest of them. */
  async similar(guests: readonly { id: string; vcpu: number }[]): Promise<SimilarUse | null> {
    if (guests.length === 0) return null;
    const rows = await this.rows<{
      subject_id: string;
      n: string;
      cpu: number | null;
      memory: number | null;
    }>(
      `select subject_id, count(*) n, percentile_cont(0.95) within group (order by cpu_percent) cpu, percentile_cont(0.95) within group (order by memory_mib) memory
       from ${this.table} where subject_id in (${guests.map(() => '?').join(', ')}) group by subject_id`,
      guests.map(({ id }) => id),
    );
    if (rows.length === 0) return null;
    const vcpu = new Map(guests.map((guest) => [guest.id, guest.vcpu]));
    const largest = (values: (number | null)[]) =>
      values.reduce(
        (most: number | null, value) => (value === null ? most : Math.max(most ?? 0, value)),
        null,
      );
    return {
      guests: rows.length,
      samples: rows.reduce((sum, row) => sum + Number(row.n), 0),
      vcpuP95: largest(
        rows.map((row) => (row.cpu === null ? null : (row.cpu * vcpu.get(row.subject_id)!) / 100)),
      ),
      memoryP95MiB: largest(rows.map((row) => row.memory)),
    };
  }

  /**
   * What guests use by hour of the day (UTC): 95th percentiles (type 7) of the days before, of those that have samples. Costs
   * their samples: 8,640 of a guest at one in five minutes, 2,304 where there are many.
   */
  async byHour(guestIds: readonly string[], now: string): Promise<HourlyUse[]> {
    const rows = await this.rows<{
      subject_id: string;
      hour: number;
      first: Date;
      last: Date;
      cpu: number | null;
      memory: number | null;
    }>(
      `select subject_id, extract(hour from at at time zone 'UTC')::int as hour, min(at) as first, max(at) as last,
         percentile_cont(0.95) within group (order by cpu_percent) cpu, percentile_cont(0.95) within group (order by memory_mib) memory
       from ${this.table} where subject_id in (${guestIds.map(() => '?').join(', ')}) and at > ?::timestamptz - interval '${daysByHour(guestIds.length)} days' and at <= ?
       group by 1, 2`,
      [...guestIds, now, now],
    );
    const found = new Map<string, HourlyUse & { first: number; last: number }>();
    for (const row of rows) {
      const [first, last] = [new Date(row.first).getTime(), new Date(row.last).getTime()];
      const one = found.get(row.subject_id) ?? {
        guestId: row.subject_id,
        ...{ days: 0, first, last },
        cpuPercent: Array.from({ length: HOURS }, () => null),
        memoryMiB: Array.from({ length: HOURS }, () => null),
      };
      one.first = Math.min(one.first, first);
      one.last = Math.max(one.last, last);
      one.cpuPercent[row.hour] = row.cpu;
      one.memoryMiB[row.hour] = row.memory;
      found.set(row.subject_id, one);
    }
    return [...found.values()].map(({ first, last, ...one }) => ({
      ...one,
      days: (last - first) / 86_400_000,
    }));
  }

  /** What was taken in, newest first. */
  async imports(): Promise<ImportRow[]> {
    const rows = await this.rows<Record<string, unknown>>(
      'select * from sample_import order by at desc limit 50',
    );
    const time = (value: unknown) =>
      value === null ? null : new Date(value as string).toISOString();
    return rows.map((row) => ({
      id: String(row.id),
      at: time(row.at)!,
      by: String(row.by),
      source: String(row.source),
      rows: Number(row.rows),
      added: Number(row.added),
      firstAt: time(row.first_at),
      lastAt: time(row.last_at),
    }));
  }
}
