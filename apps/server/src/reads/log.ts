/** The log and the long texts beside it. History comes from SQL, not from the fleet. */
import {
  findingAge,
  PatchMisfit,
  pastedTexts,
  type FindingAge,
  type Fleet,
  type LogEntry,
} from '@insel/core';
import { notFound, ProblemException } from '../problem-exception.js';
import { entryOf, LOG_COLUMNS } from '../record/log-rows.js';
import { logRow } from '../views/log.js';
import type { Reads } from './read.js';

/** In a plan the log does not lead back to what its steps lie over. */
function ageOf(fleet: Fleet, id: string, entries: LogEntry[], now: string): FindingAge | null {
  try {
    return findingAge(fleet, id, entries, now);
  } catch (error) {
    if (!(error instanceof PatchMisfit)) throw error;
    throw new ProblemException(422, {
      code: 'not-in-a-plan',
      sentence: 'Since when something is found is asked of the record, not of a plan.',
    });
  }
}

/** Entries that are walked back at most. */
const MOST_WALKED = 2000;
const MOST_ATTEMPTS = 5;

const STANDS_AT = `(record_ids @> array[?::uuid]
  or exists (select 1 from host where site_id = ? and host.id = any(record_ids))
  or exists (select 1 from guest join host on host.id = guest.host_id where site_id = ? and guest.id = any(record_ids)))`;

export const LOG_READS: Reads<'log' | 'findingAge' | 'attachment'> = {
  /** Entries, newest first. */
  log: {
    async fromTables({ orm }, query, fleet, { account }) {
      const take = query.take ?? 50;
      const where: string[] = ['true'];
      const parameters: unknown[] = [];
      const add = (condition: string, ...values: unknown[]) => {
        where.push(condition);
        parameters.push(...values);
      };
      if (query.before) add('revision < ?', query.before);
      if (query.subject) add('record_ids @> array[?::uuid]', query.subject);
      if (query.actor) add('lower(actor_name) = lower(?)', query.actor);
      if (query.from) add('at >= ?::date', query.from);
      if (query.until) add("at < ?::date + interval '1 day'", query.until);
      if (query.site) add(STANDS_AT, query.site, query.site, query.site);
      if (query.type) add('type = ?', query.type);
      if (query.importId)
        add(
          `type like '%.record-many' and change->'input'->'part'->>'importId' = ?`,
          query.importId,
        );
      if (query.q) add("title || ' ' || reason ilike ?", `%${query.q.replace(/[%_\\]/g, '\\$&')}%`);
      const connection = orm.em.getConnection();
      const rows = await connection.execute<Record<string, unknown>[]>(
        `select ${LOG_COLUMNS} from log where ${where.join(' and ')} order by revision desc limit ${take + 1}`,
        parameters,
        'all',
      );
      const entries = rows.slice(0, take).map(entryOf);
      const hashes = entries.flatMap((entry) => pastedTexts(entry).map(({ sha256 }) => sha256));
      const gone = hashes.length
        ? await connection.execute<{ sha256: string }[]>(
            `select sha256 from attachment where text is null and sha256 in (${hashes.map(() => '?').join(', ')})`,
            hashes,
            'all',
          )
        : [];
      const redacted = new Set(gone.map(({ sha256 }) => sha256));
      return {
        rows: entries.map((entry) => logRow(fleet, entry, account.id, redacted)),
        more: rows.length > take,
      };
    },
  },

  /** Since when something is found, by the log. */
  findingAge: {
    async fromTables({ orm }, { id }, fleet, { now }) {
      for (let attempt = 1; attempt <= MOST_ATTEMPTS; attempt += 1) {
        const { revision } = fleet;
        const rows = await orm.em
          .getConnection()
          .execute<Record<string, unknown>[]>(
            `select ${LOG_COLUMNS} from log where revision <= ? order by revision desc limit ${MOST_WALKED}`,
            [revision],
            'all',
          );
        // Somebody altered the record while the log was being read.
        if (fleet.revision !== revision) continue;
        const age = ageOf(fleet, id, rows.map(entryOf), now);
        if (!age) throw notFound('finding');
        return age;
      }
      throw new ProblemException(503, {
        code: 'altering',
        sentence: 'The record alters faster than this can be read of it.',
        remedy: 'Try again in a second.',
        retryAfterSeconds: 1,
      });
    },
  },

  /** A long pasted text. */
  attachment: {
    async fromTables({ orm }, { sha256 }) {
      const [row] = await orm.em
        .getConnection()
        .execute<{ text: string | null; redacted_by: string | null }[]>(
          'select text, redacted_by from attachment where sha256 = ?',
          [sha256],
          'all',
        );
      if (!row) throw notFound('text');
      return {
        text: row.text,
        redactedBy: row.redacted_by === null ? null : Number(row.redacted_by),
      };
    },
  },
};
