/** Measured use of a month, made by formula: day and night, a storm, a store that fills. All invented. */
import { randomUUID } from 'node:crypto';
import { GB, type Fleet, type Row } from '@insel/core';
import pg from 'pg';

const MINUTE = 60_000;
const DAYS = 30;

/** Use at a share of the day and a day of the month; noise between 0 and 1. */
interface Shape {
  cpu: (hour: number, day: number, noise: number) => number;
  memoryMiB: (hour: number, day: number, noise: number) => number;
  /** At the beginning, and more with every day. */
  diskBytes: [number, number];
}

const work = (hour: number): number => Math.max(0, Math.sin(((hour - 6) / 13) * Math.PI));
const SHAPES: Record<string, Shape> = {
  'weather-mirror': {
    cpu: (hour, _, noise) => 4 + 9 * noise + (Math.floor(hour) % 6 === 0 ? 22 : 0),
    memoryMiB: (_hour, _day, noise) => 1500 + 500 * noise,
    diskBytes: [410 * GB, 2 * GB],
  },
  'tide-db': {
    cpu: (hour, day, noise) => 18 + 20 * work(hour) + 8 * noise + (day === 21 ? 25 : 0),
    memoryMiB: (_hour, day, noise) => 47_000 + 120 * day + 900 * noise,
    diskBytes: [720 * GB, 6 * GB],
  },
  'model-run': {
    cpu: (hour, _, noise) => (hour >= 2 && hour < 8 ? 88 + 10 * noise : 3 + 4 * noise),
    memoryMiB: (hour, _, noise) => (hour >= 2 && hour < 8 ? 78_000 + 4000 * noise : 9000),
    diskBytes: [300 * GB, 1 * GB],
  },
  archive: {
    cpu: (hour, _, noise) => 3 + 6 * work(hour) + 3 * noise,
    memoryMiB: (_hour, _day, noise) => 9000 + 2500 * noise,
    diskBytes: [2300 * GB, 3 * GB],
  },
  'tide-api': {
    cpu: (hour, day, noise) => 12 + 30 * work(hour) + 10 * noise + (day === 21 ? 40 : 0),
    memoryMiB: (hour, _, noise) => 9500 + 3500 * work(hour) + 800 * noise,
    diskBytes: [22 * GB, 0.1 * GB],
  },
  'radar-db': {
    cpu: (_hour, _day, noise) => 30 + 12 * noise,
    memoryMiB: (_hour, _day, noise) => 30_500 + 1200 * noise,
    diskBytes: [880 * GB, 5 * GB],
  },
};

/** Bytes used at the beginning, and more with every day. */
const POOLS: Record<string, [number, number]> = {
  quay: [8_620 * GB, 19 * GB],
  'eider-data': [9_900 * GB, 21 * GB],
  'kestrel-data': [2_900 * GB, 11 * GB],
  'gannet-data': [640 * GB, 0],
};

/** Not measured yet: the file is still to come. */
const NOT_YET = ['watch-post'];

/** Running guests without a shape of their own; one in five of them is not measured. */
const ordinary = (fleet: Fleet): Row<'guest'>[] =>
  [...fleet.all('guest')]
    .filter(
      ({ name, state, template }) =>
        state === 'in service' && !template && !(name in SHAPES) && !NOT_YET.includes(name),
    )
    .sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }))
    .filter((_, i) => i % 5 !== 4);

/** Some work by day, some by night, some all the time; none takes all that it has. */
function ordinaryShape({ memoryMiB }: Row<'guest'>, i: number): Shape {
  const night = (hour: number) => (hour >= 21 || hour < 5 ? 1 : 0);
  const busy = [work, night, () => 0.4][i % 3]!;
  return {
    cpu: (hour, _, noise) => 3 + 55 * busy(hour) + 6 * noise,
    memoryMiB: (hour, _, noise) => memoryMiB * (0.35 + 0.2 * busy(hour) + 0.05 * noise),
    diskBytes: [(6 + (i % 7)) * GB, 0.02 * GB],
  };
}

/** The same numbers at every start: a linear congruential generator (Knuth's MMIX constants, upper bits). */
function noiseFrom(seed: bigint): () => number {
  let state = seed;
  return () => {
    state =
      (state * 6_364_136_223_846_793_005n + 1_442_695_040_888_963_407n) & 0xffff_ffff_ffff_ffffn;
    return Number(state >> 40n) / 2 ** 24;
  };
}

export async function writeSamples(databaseUrl: string, fleet: Fleet, now: string): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  const end = Math.floor(Date.parse(now) / (5 * MINUTE)) * 5 * MINUTE;
  const importId = randomUUID();
  const noise = noiseFrom(20_261_120n);
  let rows = 0;
  const keep = async (id: string, samples: [number, number | null, number | null, number][]) => {
    rows += samples.length;
    const column = (i: 1 | 2 | 3) => samples.map((sample) => sample[i]);
    await client.query(
      'insert into sample (subject_id, at, cpu_percent, memory_mib, disk_bytes, import_id) select $1, to_timestamp(at), cpu, memory, disk, $6 from unnest($2::float8[], $3::real[], $4::integer[], $5::bigint[]) as x (at, cpu, memory, disk)',
      [id, samples.map(([at]) => at / 1000), column(1), column(2), column(3), importId],
    );
  };
  const idOf = (kind: 'guest' | 'pool', name: string) =>
    [...fleet.all(kind)].find((row) => row.name === name)!.id;
  await client.query('begin');
  await client.query(
    "insert into sample_import (id, at, by, source, rows, added) values ($1, $2, 'planner', 'monitoring of the watch post, November.csv', 0, 0)",
    [importId, now],
  );
  const keepShape = async (name: string, shape: Shape, minutes: number) => {
    const samples: [number, number, number, number][] = [];
    for (let at = end - DAYS * 24 * 60 * MINUTE; at <= end; at += minutes * MINUTE) {
      const day = DAYS - (end - at) / (24 * 60 * MINUTE);
      const hour = (at / (60 * MINUTE)) % 24;
      const chance = noise();
      samples.push([
        at,
        Math.min(100, Math.round(shape.cpu(hour, Math.floor(day), chance) * 10) / 10),
        Math.round(shape.memoryMiB(hour, day, chance)),
        Math.round(shape.diskBytes[0] + day * shape.diskBytes[1]),
      ]);
    }
    await keep(idOf('guest', name), samples);
  };
  for (const [name, shape] of Object.entries(SHAPES)) await keepShape(name, shape, 5);
  for (const [name, [first, daily]] of Object.entries(POOLS)) {
    const samples = Array.from({ length: 45 }, (_, i): [number, null, null, number] => [
      end - (44 - i) * 24 * 60 * MINUTE,
      null,
      null,
      Math.round(first + i * daily + (noise() - 0.5) * 60 * GB),
    ]);
    await keep(idOf('pool', name), samples);
  }
  for (const [i, guest] of ordinary(fleet).entries())
    await keepShape(guest.name, ordinaryShape(guest, i), 10);
  await client.query(
    'update sample_import set rows = $2, added = $2, first_at = (select min(at) from sample), last_at = (select max(at) from sample) where id = $1',
    [importId, rows],
  );
  await client.query('commit');
  await client.end();
}
