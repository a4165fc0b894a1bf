/**
 * How a row of the record becomes a row of its table and back: names in snake case, values as they are. The one codec
 * for everyday writes, start-up and the check of the record.
 */
import { setImmediate } from 'node:timers/promises';
import { KIND_NAMES, KINDS, type Fleet, type Kind, type Patch, type Values } from '@insel/core';
import type { EntityManager, Knex, PostgreSqlConnection } from '@mikro-orm/postgresql';
import { snake } from '../database/snake.js';

export const tableOf = (kind: Kind): string => `"${snake(kind)}"`;

const NAMES: ReadonlyMap<Kind, string[]> = new Map(
  KIND_NAMES.map((kind) => [kind, ['id', 'revision', ...Object.keys(KINDS[kind].fields)]]),
);

/** Fields of a kind in the order of `columnsOf`. */
export const fieldsOf = (kind: Kind): string[] => NAMES.get(kind)!;

export const columnsOf = (kind: Kind): string =>
  fieldsOf(kind)
    .map((name) => `"${snake(name)}"`)
    .join(', ');

/** Runs one statement and gives its rows. */
export type Sql = (text: string, parameters: unknown[]) => Promise<Record<string, unknown>[]>;

/**
 * Sends statements in the transaction of that manager. Parameters travel beside the text: the mapper would write them into
 * it letter by letter, which takes seconds for a large list.
 */
export const sqlIn = (em: EntityManager): Sql => {
  const knex = (em.getConnection() as PostgreSqlConnection).getKnex();
  const transaction = em.getTransactionContext<Knex.Transaction>()!;
  return async (text, parameters) => {
    const query = knex.raw(text, parameters as Knex.RawBinding[]).transacting(transaction);
    return ((await query) as { rows: Record<string, unknown>[] }).rows;
  };
};

/** Rows of one statement, or of one turn at writing JSON: others are answered in between. */
const AT_ONCE = 1000;

const partsOf = <T>(rows: readonly T[]): T[][] =>
  Array.from({ length: Math.ceil(rows.length / AT_ONCE) }, (_, i) =>
    rows.slice(i * AT_ONCE, (i + 1) * AT_ONCE),
  );

/** A list as JSON, written part by part, so that a long one holds nobody up. */
export async function jsonOf(rows: readonly unknown[]): Promise<string> {
  const written: string[] = [];
  for (const part of partsOf(rows)) {
    written.push(JSON.stringify(part).slice(1, -1));
    if (part.length === AT_ONCE) await setImmediate();
  }
  return `[${written.join(',')}]`;
}

/** A row met another revision than the one it was decided on: somebody wrote past the lock. */
class LostUpdate extends Error {}

/** Writes patches as one statement per kind and operation (and thousand rows), each guarded by id and the revision seen. */
export async function persist(
  fleet: Fleet,
  patches: readonly Patch[],
  revision: number,
  sql: Sql,
): Promise<void> {
  for (const kind of KIND_NAMES) {
    const mine = patches.filter((patch) => patch.kind === kind);
    if (mine.length === 0) continue;
    const removed = mine.flatMap((patch) =>
      patch.op === 'delete' ? [{ id: patch.id, seen: patch.seen }] : [],
    );
    const updated = mine.flatMap((patch) =>
      patch.op === 'update'
        ? [{ seen: patch.seen, row: { ...fleet.need(kind, patch.id), ...patch.after, revision } }]
        : [],
    );
    const created = mine.flatMap((patch) =>
      patch.op === 'create' ? [{ ...patch.after, id: patch.id, revision }] : [],
    );
    for (const part of partsOf(removed)) await removeRows(kind, part, sql);
    for (const part of partsOf(updated)) await updateRows(kind, part, sql);
    for (const part of partsOf(created)) await insertRows(kind, part, sql);
  }
}

function expect(count: number, rows: unknown[], kind: Kind): void {
  if (rows.length !== count)
    throw new LostUpdate(`${count} ${kind} rows were to be written, ${rows.length} were`);
}

async function removeRows(
  kind: Kind,
  rows: { id: string; seen: number }[],
  sql: Sql,
): Promise<void> {
  const done = await sql(
    `delete from ${tableOf(kind)} t using jsonb_to_recordset(?::jsonb) as s(id uuid, seen bigint) where t.id = s.id and t.revision = s.seen returning t.id`,
    [JSON.stringify(rows)],
  );
  expect(rows.length, done, kind);
}

async function updateRows(
  kind: Kind,
  rows: { seen: number; row: Values }[],
  sql: Sql,
): Promise<void> {
  const set = fieldsOf(kind)
    .filter((name) => name !== 'id')
    .map((name) => `"${snake(name)}" = x."${snake(name)}"`)
    .join(', ');
  const done = await sql(
    `update ${tableOf(kind)} t set ${set} from jsonb_populate_recordset(null::${tableOf(kind)}, ?::jsonb) x,
       jsonb_to_recordset(?::jsonb) as s(id uuid, seen bigint)
     where t.id = x.id and t.id = s.id and t.revision = s.seen returning t.id`,
    [
      JSON.stringify(rows.map(({ row }) => toTable(kind, row))),
      JSON.stringify(rows.map(({ row, seen }) => ({ id: row.id, seen }))),
    ],
  );
  expect(rows.length, done, kind);
}

async function insertRows(kind: Kind, rows: Values[], sql: Sql): Promise<void> {
  await sql(
    `insert into ${tableOf(kind)} (${columnsOf(kind)}) select ${columnsOf(kind)} from jsonb_populate_recordset(null::${tableOf(kind)}, ?::jsonb)`,
    [JSON.stringify(rows.map((row) => toTable(kind, row)))],
  );
}

function toTable(kind: Kind, row: Values): Values {
  return Object.fromEntries(fieldsOf(kind).map((name) => [snake(name), row[name]]));
}
