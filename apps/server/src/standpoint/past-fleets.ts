/** The record as it was: overlays over the fleet, made of the log, the last few of them kept while the fleet stays as it is. */
import { fleetAsOf, type Fleet } from '@insel/core';
import { MikroORM } from '@mikro-orm/postgresql';
import { Injectable } from '@nestjs/common';
import { ProblemException } from '../problem-exception.js';
import { OrderCache } from '../views/orders.js';
import { FleetKeeper } from '../record/keeper.js';
import type { LaidOver } from './laid-over.js';
import { entryOf, LOG_COLUMNS } from '../record/log-rows.js';

/** Further back it would take longer than anybody waits. */
const MOST_ENTRIES = 10_000;
const MOST_KEPT = 4;

@Injectable()
export class PastFleets {
  private readonly kept = new Map<string, LaidOver>();

  constructor(
    private readonly keeper: FleetKeeper,
    private readonly orm: MikroORM,
  ) {}

  /**
   * @param asOf a revision, or a time
   * @throws ProblemException 422 where it is neither, is yet to come, or lies too far back
   */
  async at(asOf: string): Promise<LaidOver> {
    for (;;) {
      const { fleet } = this.keeper;
      const base = fleet.revision;
      const key = `${base}|${asOf}`;
      const held = this.kept.get(key);
      if (held?.fleet.isOver(fleet)) return held;
      const made = await this.make(fleet, asOf);
      // Somebody altered the record while the log was being read.
      if (!made) continue;
      this.kept.set(key, made);
      if (this.kept.size > MOST_KEPT) this.kept.delete(this.kept.keys().next().value!);
      return made;
    }
  }

  private async make(fleet: Fleet, asOf: string): Promise<LaidOver | undefined> {
    const base = fleet.revision;
    const { revision, now } = await this.momentOf(asOf, base);
    if (revision > base) {
      // Written a moment ago, and not heard of yet.
      await this.keeper.reached(revision);
      return undefined;
    }
    const rows = await this.rows(
      `select ${LOG_COLUMNS} from log where revision > ? and revision <= ? order by revision desc`,
      [revision, base],
    );
    if (this.keeper.fleet !== fleet || fleet.revision !== base) return undefined;
    const { was, patches } = fleetAsOf(fleet, revision, rows.map(entryOf));
    return { fleet: was, base, patches, now, orders: new OrderCache() };
  }

  private async momentOf(asOf: string, base: number): Promise<{ revision: number; now: string }> {
    const byNumber = /^\d{1,9}$/.test(asOf);
    const time = byNumber ? NaN : Date.parse(asOf);
    if (!byNumber && Number.isNaN(time))
      throw wrong('Say a revision, or a time as 2026-11-20T08:00Z.');
    const [row] = await this.rows(
      byNumber
        ? 'select revision, at from log where revision = ?'
        : 'select revision, at from log where at <= ? order by revision desc limit 1',
      [byNumber ? Number(asOf) : new Date(time).toISOString()],
    );
    if (!row)
      throw wrong(
        byNumber
          ? `The log has no entry ${asOf}; its last one is ${base}.`
          : 'The record had not begun by then.',
      );
    const revision = Number(row.revision);
    if (base - revision > MOST_ENTRIES)
      throw wrong(
        `That lies ${(base - revision).toLocaleString('en-GB')} entries back; at most ${MOST_ENTRIES.toLocaleString('en-GB')} are taken back at a time.`,
      );
    const at = new Date(byNumber ? (row.at as string) : Math.min(time, Date.now()));
    return { revision, now: at.toISOString() };
  }

  private rows(text: string, parameters: unknown[]): Promise<Record<string, unknown>[]> {
    return this.orm.em.getConnection().execute(text, parameters, 'all');
  }
}

const wrong = (sentence: string): ProblemException =>
  new ProblemException(422, { code: 'not-as-of', sentence, field: 'asOf' });
