/** Entries of the log as rows: read, and written with the revision and the answer to a request's key. */
import type { Written } from '@insel/contract';
import { SHAPE, type Change, type Context, type Decision, type LogEntry } from '@insel/core';
import { NOTICES } from '../database/notices.js';
import { jsonOf, type Sql } from './rows.js';
import type { WriteRequest, WriteResult } from './write-request.js';

export const LOG_COLUMNS =
  'revision, shape, at, happened_at, actor_id, actor_name, title, reason, override, change, subjects, patches';

/** A log entry from its row, whichever driver read it. */
export function entryOf(row: Record<string, unknown>): LogEntry {
  const time = (value: unknown) =>
    value === null ? null : new Date(value as string).toISOString();
  return {
    revision: Number(row.revision),
    shape: Number(row.shape),
    at: time(row.at)!,
    happenedAt: time(row.happened_at),
    actorId: String(row.actor_id),
    actorName: String(row.actor_name),
    title: String(row.title),
    reason: String(row.reason),
    override: String(row.override),
    change: row.change as LogEntry['change'],
    subjects: row.subjects as LogEntry['subjects'],
    patches: row.patches as LogEntry['patches'],
  };
}

/** What was answered to a person's key. */
export const EARLIER = `select jsonb_build_object('hash', body_hash, 'answer', answer) from idempotency where user_id = ? and key = ?`;

export function earlierAnswer(
  held: unknown,
  request: Pick<WriteRequest, 'idempotency'> | undefined,
): WriteResult | undefined {
  if (!held) return undefined;
  const { hash, answer } = held as { hash: string; answer: Written };
  return hash === request?.idempotency?.bodyHash
    ? { kind: 'written', written: answer }
    : { kind: 'key-reused' };
}

export async function entryAt(sql: Sql, revision: number): Promise<LogEntry | undefined> {
  const [row] = await sql(`select ${LOG_COLUMNS} from log where revision = ?`, [revision]);
  return row && entryOf(row);
}

/** The entry, the revision and the answer to its key, in one trip; other servers hear of it when it commits. */
export async function append(
  sql: Sql,
  entry: LogEntry,
  { idempotency, actor }: WriteRequest,
  written: Written,
): Promise<void> {
  const ids = [
    ...new Set([...entry.subjects.map(({ id }) => id), ...entry.patches.map(({ id }) => id)]),
  ];
  const answered = idempotency
    ? `, answered as (insert into idempotency (user_id, key, body_hash, answer, at) values (?, ?, ?, ?::jsonb, ?))`
    : '';
  await sql(
    `with entry as (insert into log (revision, shape, at, happened_at, actor_id, actor_name, title, reason, override, type, change, subjects, patches, record_ids)
       values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?::jsonb, ?::jsonb, ?::jsonb, (select coalesce(array_agg(value::uuid), '{}') from jsonb_array_elements_text(?::jsonb)))),
     marked as (update revision set revision = ?)${answered}
     select pg_notify('${NOTICES.entry}', ?)`,
    [
      entry.revision,
      entry.shape,
      entry.at,
      entry.happenedAt,
      entry.actorId,
      entry.actorName,
      entry.title,
      entry.reason,
      entry.override,
      entry.change.type,
      JSON.stringify(entry.change),
      JSON.stringify(entry.subjects),
      await jsonOf(entry.patches),
      JSON.stringify(ids),
      entry.revision,
      ...(idempotency
        ? [actor.id, idempotency.key, idempotency.bodyHash, JSON.stringify(written), entry.at]
        : []),
      String(entry.revision),
    ],
  );
}

/** Whether the log's entry is the one that was to be written, and not another server's of the same number. */
export const sameEntry = (one: LogEntry, other: LogEntry): boolean =>
  one.at === other.at &&
  one.actorId === other.actorId &&
  one.title === other.title &&
  one.patches.length === other.patches.length &&
  one.patches.every((patch, i) => patch.id === other.patches[i]!.id);

export function answerFor(entry: LogEntry): Written {
  return {
    revision: entry.revision,
    title: entry.title,
    created: entry.patches
      .filter((patch) => patch.op === 'create')
      .slice(0, 1000)
      .map(({ kind, id }) => ({ kind, id })),
    subjects: entry.subjects,
  };
}

/** @param kept what is kept of the change: without what was pasted */
export function entryFor(
  revision: number,
  change: Change,
  kept: LogEntry['change'],
  decision: Decision,
  context: Context,
): LogEntry {
  return {
    revision,
    shape: SHAPE,
    at: context.now,
    happenedAt: change.happenedAt ? new Date(change.happenedAt).toISOString() : null,
    actorId: context.actor.id,
    actorName: context.actor.name,
    title: decision.title,
    reason: change.reason?.trim() ?? '',
    override: decision.overridden.length ? (change.override?.trim() ?? '') : '',
    change: kept,
    subjects: decision.subjects,
    patches: decision.patches,
  };
}
