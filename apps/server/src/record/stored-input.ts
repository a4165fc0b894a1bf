/** The form in which a change goes into the log: long pasted texts lie beside it under their hash, so that they can be redacted. */
import { createHash } from 'node:crypto';
import { descriptionOf, type Change, type LogEntry, type PastedText } from '@insel/core';
import type { Sql } from './rows.js';

/** Text that is kept beside the log. */
export interface LongText {
  sha256: string;
  text: string;
}

/** A longer text is kept beside the log. */
const LONG = 400;
/** Letters of it that the entry shows. */
const BEGINS = 120;

export function stored(change: Change): { change: LogEntry['change']; texts: LongText[] } {
  const { input: fields, shape } = descriptionOf(change.type)!;
  const texts: LongText[] = [];
  const input = Object.fromEntries(
    Object.entries(change.input as Record<string, unknown>)
      .filter(([, value]) => value !== undefined)
      .map(([name, value]) => {
        if (fields[name]!.type !== 'pasted' || typeof value !== 'string' || value.length <= LONG)
          return [name, value];
        const sha256 = createHash('sha256').update(value).digest('hex');
        const [first = ''] = value.trim().split('\n');
        texts.push({ sha256, text: value });
        const begins = first.slice(0, BEGINS);
        return [name, { sha256, bytes: Buffer.byteLength(value), begins } satisfies PastedText];
      }),
  );
  return { change: { type: change.type, shape, input }, texts };
}

/** A long text commits with the entry that names its hash, and goes for good with the one that redacts it: posted again, it stays away. */
export async function keepTexts(
  sql: Sql,
  texts: readonly LongText[],
  entry: LogEntry,
): Promise<void> {
  for (const { sha256, text } of texts)
    await sql(
      'insert into attachment (sha256, text, revision) values (?, ?, ?) on conflict (sha256) do nothing',
      [sha256, text, entry.revision],
    );
}

export async function redact(sql: Sql, change: Change, entry: LogEntry): Promise<void> {
  if (change.type === 'attachment.redact')
    await sql('update attachment set text = null, redacted_by = ? where sha256 = ?', [
      entry.revision,
      change.input.sha256,
    ]);
}
