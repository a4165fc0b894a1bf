/**
 * The one way to alter the record. One READ COMMITTED transaction: lock the revision row first, catch up with what
 * others wrote, decide on the fleet, persist the patches, append the log entry, commit; then the keeper applies the
 * entry. The revision is the locked row plus one, never a sequence, so that the log has no gaps.
 */
import {
  changeOf,
  decide,
  isRefusal,
  mayAsk,
  unmet,
  type Change,
  type Context,
  type Decision,
  type LogEntry,
  type Refusal,
} from '@insel/core';
import type { Written } from '@insel/contract';
import { MikroORM } from '@mikro-orm/postgresql';
import { Injectable, Logger } from '@nestjs/common';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { takesLong, type Decided } from './long-change.js';
import { ProblemException } from '../problem-exception.js';
import { contextAt } from '../record/context.js';
import { FleetKeeper } from '../record/keeper.js';
import {
  answerFor,
  append,
  EARLIER,
  earlierAnswer,
  entryAt,
  entryFor,
  entryOf,
  LOG_COLUMNS,
  sameEntry,
} from '../record/log-rows.js';
import { persist, sqlIn, type Sql } from '../record/rows.js';
import { keepTexts, redact, stored } from '../record/stored-input.js';
import type { WriteRequest, WriteResult } from '../record/write-request.js';
import { WriteTimes } from './write-times.js';
import { NotRecorded, PerhapsRecorded } from '../record/not-recorded.js';
import { neededBy } from './needed-by.js';

/** How far a write has come. */
interface Progress {
  /** When it was asked for, by the clock of the process. */
  since: number;
  entry: LogEntry | undefined;
  /** All is written but the commit: from here on a lost connection leaves it open whether it was recorded. */
  committing: boolean;
  /** Nobody waits for it any more: no statement of it is sent. */
  givenUp: boolean;
}

/** How long the database is asked what came of a lost commit. */
const SETTLE_MS = 5000;
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
    private readonly computation: Computation,
    private readonly times: WriteTimes,
  ) {}

  /** Writers of this process queue here; those of others at the lock. */
  commit(request: WriteRequest): Promise<WriteResult> {
    this.keeper.mayBeWritten();
    // Before the queue: nobody waits for a long decision but who asked for it.
    return takesLong(request.change) && this.computation.running
      ? this.decideEarly(request).then((early) => this.queue(request, early))
      : this.queue(request);
  }

  private queue(request: WriteRequest, early?: Decided): Promise<WriteResult> {
    const since = performance.now();
    const turn = this.tail.then(() => this.transact(request, since, early));
    this.tail = turn.catch(() => undefined);
    return turn;
  }

  /**
   * What came of a request whose answer was lost, by its key; undefined if it was not recorded. Asked in the queue of this
   * process and under the lock, where whatever was on its way has ended.
   */
  answerTo(actorId: string, key: string): Promise<Written | undefined> {
    const turn = this.tail.then(() =>
      this.orm.em.fork().transactional(async (em) => {
        const sql = sqlIn(em);
        await this.lockAndCatchUp(sql);
        const [row] = await sql('select answer from idempotency where user_id = ? and key = ?', [
          actorId,
          key,
        ]);
        return row?.answer as Written | undefined;
      }),
    );
    this.tail = turn.catch(() => undefined);
    return turn;
  }

  private async transact(
    request: WriteRequest,
    since: number,
    early?: Decided,
  ): Promise<WriteResult> {
    if (!mayAsk(request.actor.role, request.change.type)) return { kind: 'forbidden' };
    await this.keeper.lookAgain();
    const progress: Progress = { since, entry: undefined, committing: false, givenUp: false };
    try {
      const result = await this.keeper.database.whileThere(() =>
        this.recordIn(request, progress, early),
      );
      if (progress.entry) this.keeper.apply([progress.entry]);
      return result;
    } catch (error) {
      progress.givenUp = true;
      if (error instanceof ProblemException) throw error;
      if (!progress.committing) throw new NotRecorded(error);
      if (this.keeper.database.away) throw new PerhapsRecorded(error);
      return { kind: 'written', written: await this.answerAfterAll(progress.entry!, error) };
    }
  }

  /**
   * The connection was lost while the transaction committed: it may have, or not. Its lock on the revision row is held
   * until it has ended, so that what the log says under the lock is certain.
   */
  private async answerAfterAll(entry: LogEntry, error: unknown): Promise<Written> {
    this.logger.warn(`lost the connection while committing revision ${entry.revision}`);
    const until = Date.now() + SETTLE_MS;
    for (;;) {
      try {
        const held = await this.orm.em.fork().transactional(async (em) => {
          const sql = sqlIn(em);
          await this.lockAndCatchUp(sql);
          return entryAt(sql, entry.revision);
        });
        if (held && sameEntry(held, entry)) return answerFor(entry);
        throw new NotRecorded(error);
      } catch (again) {
        if (again instanceof NotRecorded) throw again;
        if (Date.now() > until) throw new PerhapsRecorded(error);
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    }
  }

  /** Undefined where the worker could not: then it is decided under the lock. */
  private async decideEarly({ change, actor, now }: WriteRequest): Promise<Decided | undefined> {
    return this.computation
      .decide(change, { now: now ?? this.clock.now(), actor })
      .catch(() => undefined);
  }

  private async recordIn(
    request: WriteRequest,
    progress: Progress,
    early?: Decided,
  ): Promise<WriteResult> {
    return this.orm.em.fork().transactional(async (em): Promise<WriteResult> => {
      const send = sqlIn(em);
      const sql: Sql = (text, parameters) => {
        if (progress.givenUp) throw new Error('given up');
        return send(text, parameters);
      };
      const earlier = await this.lockAndCatchUp(sql, request);
      const waited = performance.now() - progress.since;
      if (earlier) return earlier;
      const failed = request.expects && unmet(this.keeper.fleet, request.change, request.expects);
      if (failed) return { kind: 'unmet', unmet: failed };
      this.times.waited(request.change.type, waited);
      const context = contextAt(request.now ?? this.clock.now(), request.actor);
      const decision =
        early?.revision === this.keeper.fleet.revision
          ? early.decision
          : await this.decideNow(sql, request.change, context);
      if (isRefusal(decision)) return { kind: 'refused', refusal: decision };
      const { change, texts } = stored(request.change);
      const revision = this.keeper.fleet.revision + 1;
      const entry = entryFor(revision, request.change, change, decision, context);
      await persist(this.keeper.fleet, decision.patches, entry.revision, sql);
      const written = answerFor(entry);
      await append(sql, entry, request, written);
      await keepTexts(sql, texts, entry);
      await redact(sql, request.change, entry);
      if (progress.givenUp) throw new Error('given up');
      progress.entry = entry;
      progress.committing = true;
      return { kind: 'written', written };
    });
  }

  /** @returns the answer that the request was given before, if it was */
  private async lockAndCatchUp(
    sql: Sql,
    request?: Pick<WriteRequest, 'idempotency' | 'actor'>,
  ): Promise<WriteResult | undefined> {
    const key = request?.idempotency && [request.actor.id, request.idempotency.key];
    const [row] = await sql(
      `select revision, (select at from log where log.revision = ?) as at,
         ${key ? `(${EARLIER})` : 'null'} as earlier from revision for update`,
      [this.keeper.fleet.revision, ...(key ?? [])],
    );
    if (!row) {
      this.keeper.mayBeWritten();
      return undefined;
    }
    const revision = Number(row.revision);
    const at = row.at ? new Date(row.at as string).toISOString() : null;
    if (this.keeper.isOther(revision, at)) {
      await this.keeper.readAnew();
      this.keeper.mayBeWritten();
    }
    if (revision === this.keeper.fleet.revision) return earlierAnswer(row.earlier, request);
    const rows = await sql(`select ${LOG_COLUMNS} from log where revision > ? order by revision`, [
      this.keeper.fleet.revision,
    ]);
    this.keeper.apply(rows.map(entryOf));
    if (this.keeper.fleet.revision !== revision)
      throw new Error(`caught up to ${this.keeper.fleet.revision}, not to ${revision}`);
    // What another server answered while this one waited for the lock is not in what the lock's statement saw.
    const [again] = key ? await sql(`select (${EARLIER}) as earlier`, key) : [];
    return earlierAnswer(again?.earlier, request);
  }

  private async decideNow(sql: Sql, change: Change, context: Context): Promise<Decision | Refusal> {
    const { entry, pasted } = await neededBy(sql, change);
    if (entry && !mayAsk(context.actor.role, changeOf(entry).type)) {
      return {
        refused: true,
        code: 'not-yours',
        overridable: false,
        sentence: 'You may not make this change, so you may not undo it.',
      };
    }
    const began = performance.now();
    const decision = decide(this.keeper.fleet, change, context, { entry, pasted });
    const took = performance.now() - began;
    this.times.decided(change.type, took);
    if (took > DECIDE_BUDGET_MS)
      this.logger.warn(`deciding ${change.type} took ${Math.round(took)} ms`);
    return decision;
  }
}
