import type { LogEntry } from '@insel/core';

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
