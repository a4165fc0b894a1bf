/** Whether the tables hold as many rows as the log has made: a row that is missing, or one too many, is found without replaying. */
import { KIND_NAMES, kindWords, type Kind } from '@insel/core';
import type { Sql } from './rows.js';
import { tableOf } from './rows.js';

/** Entries of older shapes made rows that their patches do not name: such a log is checked by replaying it only. */
const OLDEST_SHAPE = 6;

/** @returns what differs, in a sentence; null where nothing does, or it cannot be said this way. Its cost grows with the log. */
export async function miscountedRows(sql: Sql): Promise<string | null> {
  const [oldest] = await sql('select min(shape) as shape from log', []);
  if (Number(oldest?.shape ?? 0) < OLDEST_SHAPE) return null;
  const logged = await sql(
    `select patch->>'kind' as kind, sum(case patch->>'op' when 'create' then 1 when 'delete' then -1 else 0 end)::int as rows
     from log, jsonb_array_elements(patches) patch group by 1`,
    [],
  );
  const byLog = new Map(logged.map(({ kind, rows }) => [String(kind), Number(rows)]));
  for (const kind of KIND_NAMES) {
    const [held] = await sql(`select count(*)::int as rows from ${tableOf(kind)}`, []);
    const difference = Number(held!.rows) - (byLog.get(kind) ?? 0);
    if (difference !== 0) return sentence(kind, difference);
  }
  return null;
}

const sentence = (kind: Kind, difference: number): string =>
  difference < 0
    ? `${-difference} of the rows of ${kindWords(kind)} are missing that the log has made.`
    : `The tables hold ${difference} more of the rows of ${kindWords(kind)} than the log has made.`;
