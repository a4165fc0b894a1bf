/** Measured samples in tables of their own: no log, no fleet. Read by guest or pool, taken in by import. */
import type { ImportRow, SimilarUse } from '@insel/contract';
import { MikroORM } from '@mikro-orm/postgresql';

export interface Sample {
  at: string;
  cpuPercent: number | null;
  memoryMiB: number | null;
  diskBytes: number | null;
}

export class Samples {
  private readonly table: string;

  constructor(
    private readonly orm: MikroORM,
    until?: Date,
  ) {
    this.table = until
      ? `(select * from sample where at <= '${until.toISOString()}') sample`
      : 'sample';
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
    }>(
      `select at, cpu_percent, memory_mib, disk_bytes from ${this.table} where subject_id = ? and at >= (select max(at) from ${this.table} where subject_id = ?) - make_interval(days => ?) order by at`,
      [subjectId, subjectId, days],
    );
    return rows.map((row) => ({
      at: new Date(row.at).toISOString(),
      cpuPercent: row.cpu_percent,
      memoryMiB: row.memory_mib,
      diskBytes: row.disk_bytes === null ? null : Number(row.disk_bytes),
    }));
  }

  /** The newest disk sample of each of these. */
  async newest(ids: readonly string[]): Promise<{ id: string; at: string; diskBytes: number }[]> {
    if (ids.length === 0) return [];
    const rows = await this.rows<{ id: string; at: Date; disk_bytes: string }>(
      `select x.id, newest.at, newest.disk_bytes from unnest(array[${ids.map(() => '?').join(', ')}]::uuid[]) as x (id)
       cross join lateral (select at, disk_bytes from ${this.table} where subject_id = x.id and disk_bytes is not null order by at desc limit 1) newest`,
      [...ids],
    );
    return rows.map((row) => ({
      id: row.id,
      at: new Date(row.at).toISOString(),
      diskBytes: Number(row.disk_bytes),
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
