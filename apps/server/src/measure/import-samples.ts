/**
 * Takes samples in from CSV as it arrives, all or nothing: one transaction, a batch at a time, so that a file of any
 * length needs little memory. Faults are gathered by line; with any, nothing is kept.
 */
import type { Readable } from 'node:stream';
import type { ImportProgress } from '@insel/contract';
import {
  readSample,
  sampleLayout,
  type Fleet,
  type SampleLayout,
  type SampleLine,
} from '@insel/core';
import pg from 'pg';
import { csvBlocks, UnclosedQuote } from './csv-blocks.js';

const BATCH = 5000;
const MOST_FAULTS = 100;
/** Empty lines in a row; more are no file of samples. */
const MOST_EMPTY = 10_000;
/** After so many faults the rest of the file is not read: it is another kind of file. */
const GIVE_UP = 1000;

export interface ImportRequest {
  id: string;
  source: string;
  by: string;
  now: string;
  cancelled: () => boolean;
}

type Names = (name: string) => { ok: true; id: string } | { ok: false; sentence: string };

export async function importSamples(
  pool: pg.Pool,
  fleet: Fleet,
  stream: Readable,
  request: ImportRequest,
  progress: ImportProgress,
): Promise<void> {
  const client = await pool.connect();
  client.on('error', () => undefined);
  try {
    await client.query('begin');
    await client.query(
      'insert into sample_import (id, at, by, source, rows, added) values ($1, $2, $3, $4, 0, 0)',
      [request.id, request.now, request.by, request.source],
    );
    await readAll(csvBlocks(stream), fleet, request, progress, (batch) =>
      keep(client, request.id, batch),
    );
    if (progress.state === 'reading' && progress.lines === 0 && progress.faultsInAll === 0)
      fault(progress, 1, 'The file has no samples.');
    if (progress.state !== 'cancelled' && progress.faultsInAll > 0) progress.state = 'faulty';
    if (progress.state !== 'reading') {
      await client.query('rollback');
      Object.assign(progress, { added: 0 });
      return;
    }
    await client.query(
      'update sample_import set rows = $2, added = $3, first_at = $4, last_at = $5 where id = $1',
      [request.id, progress.lines, progress.added, progress.firstAt, progress.lastAt],
    );
    await client.query('commit');
    progress.state = 'done';
  } catch (error) {
    await client.query('rollback').catch(() => undefined);
    if (error instanceof UnclosedQuote) {
      fault(progress, progress.lines + 2, 'From here on a quote is open and never closed.');
      Object.assign(progress, { state: 'faulty', added: 0 });
    } else throw error;
  } finally {
    stream.destroy();
    client.release();
  }
}

async function readAll(
  blocks: AsyncIterable<string[][]>,
  fleet: Fleet,
  request: ImportRequest,
  progress: ImportProgress,
  store: (batch: Map<string, SampleLine & { id: string }>) => Promise<number>,
): Promise<void> {
  let layout: SampleLayout | undefined;
  let names: Names | undefined;
  let batch = new Map<string, SampleLine & { id: string }>();
  let line = 0;
  let empty = 0;
  const flush = async () => {
    if (progress.faultsInAll === 0) progress.added += await store(batch);
    batch = new Map();
  };
  for await (const rows of blocks) {
    if (request.cancelled()) {
      progress.state = 'cancelled';
      return;
    }
    for (const cells of rows) {
      line += 1;
      if (cells.length === 1 && cells[0]!.trim() === '') {
        empty += 1;
        if (empty > MOST_EMPTY) return fault(progress, line, 'From here on the lines are empty.');
        continue;
      }
      empty = 0;
      if (!layout || !names) {
        const read = sampleLayout(cells);
        if (!read.ok) return fault(progress, line, read.sentence);
        layout = read.value;
        names = namesOf(fleet, layout.about);
        continue;
      }
      const read = readSample(cells, layout, request.now);
      const named = read.ok ? names(read.value.name) : read;
      if (!read.ok || !named.ok) {
        fault(progress, line, read.ok ? (named as { sentence: string }).sentence : read.sentence);
        if (progress.faultsInAll >= GIVE_UP) return;
        continue;
      }
      progress.lines += 1;
      const { at } = read.value;
      if (!progress.firstAt || at < progress.firstAt) progress.firstAt = at;
      if (!progress.lastAt || at > progress.lastAt) progress.lastAt = at;
      batch.set(`${named.id} ${at}`, { ...read.value, id: named.id });
      if (batch.size >= BATCH) await flush();
    }
  }
  await flush();
}

function fault(progress: ImportProgress, line: number, sentence: string): void {
  progress.faultsInAll += 1;
  if (progress.faults.length < MOST_FAULTS) progress.faults.push({ line, sentence });
}

function namesOf(fleet: Fleet, about: 'guest' | 'pool'): Names {
  const ids = new Map<string, string[]>();
  for (const row of fleet.all(about)) {
    if ('state' in row && row.state === 'retired') continue;
    ids.set(row.name.toLowerCase(), [...(ids.get(row.name.toLowerCase()) ?? []), row.id]);
  }
  return (name) => {
    const found = ids.get(name.toLowerCase()) ?? [];
    if (found.length === 1) return { ok: true, id: found[0]! };
    return {
      ok: false,
      sentence: found.length
        ? `${found.length} ${about}s are named ${name}: which of them is meant is not known.`
        : `There is no ${about} ${name} in the record.`,
    };
  };
}

/** Samples that are there already stay as they are, and so do parts of time that stand for samples. Returns how many were new. */
async function keep(
  client: pg.PoolClient,
  importId: string,
  batch: ReadonlyMap<string, SampleLine & { id: string }>,
): Promise<number> {
  if (batch.size === 0) return 0;
  const rows = [...batch.values()];
  const { rowCount } = await client.query(
    `insert into sample (subject_id, at, cpu_percent, memory_mib, disk_bytes, import_id)
     select id, at, cpu, memory, disk, $6 from unnest($1::uuid[], $2::timestamptz[], $3::real[], $4::integer[], $5::bigint[]) as x (id, at, cpu, memory, disk)
     where not exists (select 1 from sample_part p where p.subject_id = x.id
       and ((p.span = 'hour' and p.at = date_trunc('hour', x.at, 'UTC')) or (p.span = 'day' and p.at = date_trunc('day', x.at, 'UTC'))))
     on conflict do nothing`,
    [
      rows.map((row) => row.id),
      rows.map((row) => row.at),
      rows.map((row) => row.cpuPercent),
      rows.map((row) => row.memoryMiB),
      rows.map((row) => row.diskBytes),
      importId,
    ],
  );
  return rowCount ?? 0;
}
