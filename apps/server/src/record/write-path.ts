/**
 * The one way to alter the record. One READ COMMITTED transaction: lock the revision row first, catch up with what
 * others wrote, decide on the fleet, persist the patches, append the log entry, commit; then the keeper applies the
 * entry. The revision is the locked row plus one, never a sequence, so that the log has no gaps.
 */
import {
  decide,
  isRefusal,
  mayAsk,
  SHAPE,
  type Change,
  type Decision,
  type Edge,
  type Kind,
  type LogEntry,
  type Refusal,
} from '@insel/core';
import type { Written } from '@insel/contract';
import { MikroORM } from '@mikro-orm/postgresql';
import { Injectable, Logger } from '@nestjs/common';
import { Clock } from '../clock.js';
import { edgeAt } from './edge.js';
import { FleetKeeper } from './keeper.js';
import { entryOf, LOG_COLUMNS } from './log-rows.js';
import { persist, type Sql } from './rows.js';

export interface WriteRequest {
  change: Change;
  actor: Edge['actor'];
  /** The record that was read before, and its revision then: If-Match. */
  expect?: { kind: Kind; id: string; revision: number };
  /** Key of the request and hash of its body: the same twice gives the first answer again. */
  idempotency?: { key: string; bodyHash: string };
  /** A long pasted text, kept beside the log under its hash. */
  attachment?: { sha256: string; text: string };
  /** Time of the decision, where it is not now: the demo's history. */
  now?: string;
}

export type WriteResult =
  | { kind: 'written'; written: Written }
  | { kind: 'refused'; refusal: Refusal }
  | { kind: 'stale' }
  | { kind: 'forbidden' }
  | { kind: 'key-reused' };

/** A decision that takes longer holds up every writer: heavy computation belongs before it. */
const DECIDE_BUDGET_MS = 200;

@Injectable()
export class WritePath {
  private tail: Promise<unknown> = Promise.resolve();
  private readonly logger = new Logger('write path');

  constructor(
    private readonly orm: MikroORM,
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
  ) {}

  /** Writers of this process queue here; those of others at the lock. */
  commit(request: WriteRequest): Promise<WriteResult> {
    const turn = this.tail.then(() => this.transact(request));
    this.tail = turn.catch(() => undefined);
    return turn;
  }

  private async transact(request: WriteRequest): Promise<WriteResult> {
    if (!mayAsk(request.actor.role, request.change.type)) return { kind: 'forbidden' };
    let entry: LogEntry | undefined;
    const result = await this.orm.em.fork().transactional(async (em): Promise<WriteResult> => {
      const context = em.getTransactionContext();
      const sql: Sql = (text, parameters) =>
        em.getConnection().execute(text, parameters, 'all', context);
      await this.lockAndCatchUp(sql);
      const earlier = await earlierAnswer(sql, request);
      if (earlier) return earlier;
      const { expect } = request;
      if (expect && this.keeper.fleet.get(expect.kind, expect.id)?.revision !== expect.revision)
        return { kind: 'stale' };
      const edge = edgeAt(request.now ?? this.clock.now(), request.actor);
      const decision = await this.decideNow(sql, request.change, edge);
      if (isRefusal(decision)) return { kind: 'refused', refusal: decision };
      entry = this.entryFor(request.change, decision, edge);
      await persist(this.keeper.fleet, decision.patches, entry.revision, sql);
      await append(sql, entry);
      await keepOrRedact(sql, request, entry);
      const written = answerFor(entry);
      if (request.idempotency) {
        await sql(
          'insert into idempotency (user_id, key, body_hash, answer, at) values (?, ?, ?, ?::jsonb, ?)',
          [
            request.actor.id,
            request.idempotency.key,
            request.idempotency.bodyHash,
            JSON.stringify(written),
            edge.now,
          ],
        );
      }
      return { kind: 'written', written };
    });
    if (entry) this.keeper.apply([entry]);
    return result;
  }

  private async lockAndCatchUp(sql: Sql): Promise<void> {
    const [row] = await sql('select revision from revision for update', []);
    const revision = Number(row!.revision);
    if (revision === this.keeper.fleet.revision) return;
    const rows = await sql(`select ${LOG_COLUMNS} from log where revision > ? order by revision`, [
      this.keeper.fleet.revision,
    ]);
    this.keeper.apply(rows.map(entryOf));
    if (this.keeper.fleet.revision !== revision)
      throw new Error(`caught up to ${this.keeper.fleet.revision}, not to ${revision}`);
  }

  private async decideNow(sql: Sql, change: Change, edge: Edge): Promise<Decision | Refusal> {
    const entry = change.type === 'undo' ? await entryAt(sql, change.revision) : undefined;
    if (entry && !mayAsk(edge.actor.role, entry.change.type as Change['type'])) {
      return {
        refused: true,
        code: 'not-yours',
        overridable: false,
        sentence: 'You may not make this change, so you may not undo it.',
      };
    }
    const began = performance.now();
    const decision = decide(this.keeper.fleet, change, edge, { entry });
    const took = performance.now() - began;
    if (took > DECIDE_BUDGET_MS)
      this.logger.warn(`deciding ${change.type} took ${Math.round(took)} ms`);
    return decision;
  }

  private entryFor(change: Change, decision: Decision, edge: Edge): LogEntry {
    return {
      revision: this.keeper.fleet.revision + 1,
      shape: SHAPE,
      at: edge.now,
      happenedAt: change.happenedAt ? new Date(change.happenedAt).toISOString() : null,
      actorId: edge.actor.id,
      actorName: edge.actor.name,
      title: decision.title,
      reason: change.reason?.trim() ?? '',
      override: decision.overridden.length ? (change.override?.trim() ?? '') : '',
      change: change as unknown as LogEntry['change'],
      subjects: decision.subjects,
      patches: decision.patches,
    };
  }
}

async function earlierAnswer(
  sql: Sql,
  { idempotency, actor }: WriteRequest,
): Promise<WriteResult | undefined> {
  if (!idempotency) return undefined;
  const [row] = await sql(
    'select body_hash, answer from idempotency where user_id = ? and key = ?',
    [actor.id, idempotency.key],
  );
  if (!row) return undefined;
  return row.body_hash === idempotency.bodyHash
    ? { kind: 'written', written: row.answer as Written }
    : { kind: 'key-reused' };
}

export async function entryAt(sql: Sql, revision: number): Promise<LogEntry | undefined> {
  const [row] = await sql(`select ${LOG_COLUMNS} from log where revision = ?`, [revision]);
  return row && entryOf(row);
}

async function append(sql: Sql, entry: LogEntry): Promise<void> {
  const ids = [
    ...new Set([...entry.subjects.map(({ id }) => id), ...entry.patches.map(({ id }) => id)]),
  ];
  await sql(
    `insert into log (revision, shape, at, happened_at, actor_id, actor_name, title, reason, override, type, change, subjects, patches, record_ids)
     values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?::jsonb, ?::jsonb, ?::jsonb, (select coalesce(array_agg(value::uuid), '{}') from jsonb_array_elements_text(?::jsonb)))`,
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
      JSON.stringify(entry.patches),
      JSON.stringify(ids),
    ],
  );
  await sql('update revision set revision = ?', [entry.revision]);
}

/** The pasted text itself lies beside the log: it commits with the entry that names its hash, and goes with the one that redacts it. */
async function keepOrRedact(
  sql: Sql,
  { attachment, change }: WriteRequest,
  entry: LogEntry,
): Promise<void> {
  if (attachment) {
    await sql(
      'insert into attachment (sha256, text, revision) values (?, ?, ?) on conflict (sha256) do update set text = excluded.text, redacted_by = null',
      [attachment.sha256, attachment.text, entry.revision],
    );
  }
  if (change.type === 'attachment.redact')
    await sql('update attachment set text = null, redacted_by = ? where sha256 = ?', [
      entry.revision,
      change.sha256,
    ]);
}

function answerFor(entry: LogEntry): Written {
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
