import type { Change, Needed } from '@insel/core';
import { entryAt } from '../record/log-rows.js';
import type { Sql } from '../record/rows.js';

/** What the decider needs that the fleet does not hold. */
export async function neededBy(sql: Sql, change: Change): Promise<Needed> {
  if (change.type === 'undo') return { entry: await entryAt(sql, change.input.revision) };
  if (change.type !== 'attachment.redact') return {};
  const [row] = await sql('select text is null as redacted from attachment where sha256 = ?', [
    change.input.sha256,
  ]);
  return { pasted: row && { redacted: row.redacted === true } };
}
