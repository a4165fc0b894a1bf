/** An entry of the log as it is shown: what differs, in words, and whether it can be undone. */
import type { LogRow } from '@insel/contract';
import {
  changeOf,
  kindWords,
  pastedTexts,
  undoable,
  type Fleet,
  type LogEntry,
  type Patch,
  type Values,
} from '@insel/core';

/** More rows of difference than anybody reads at once. */
const MOST_DIFFERENCES = 60;

export function logRow(
  fleet: Fleet,
  entry: LogEntry,
  reader: string,
  redacted: ReadonlySet<string>,
): LogRow {
  const [attachment] = pastedTexts(entry);
  const { type, input } = changeOf(entry);
  const note = type === 'log.note' ? (input as { text: unknown }).text : '';
  return {
    revision: entry.revision,
    at: entry.at,
    happenedAt: entry.happenedAt,
    actorName: entry.actorName,
    mine: entry.actorId === reader,
    title: entry.title,
    reason: entry.reason,
    override: entry.override,
    type,
    undoes: type === 'undo' ? Number((input as { revision: unknown }).revision) : null,
    subjects: entry.subjects,
    difference: entry.patches
      .filter(saysSomething)
      .slice(0, MOST_DIFFERENCES)
      .map((patch) => differenceOf(fleet, entry, patch)),
    undoable: undoable(type),
    text: typeof note === 'string' ? note : (attachment?.begins ?? ''),
    attachment: attachment ? { ...attachment, redacted: redacted.has(attachment.sha256) } : null,
  };
}

/** An owner's patch without fields only carries the revision. */
const saysSomething = (patch: Patch) =>
  patch.op !== 'update' || Object.keys(patch.after).length > 0;

function differenceOf(fleet: Fleet, entry: LogEntry, patch: Patch): LogRow['difference'][number] {
  const before: Values = patch.op === 'create' ? {} : patch.before;
  const after: Values = patch.op === 'delete' ? {} : patch.after;
  const held = fleet.get(patch.kind, patch.id) as Values | undefined;
  const name = [after, before, held]
    .map((values) => values?.name ?? values?.label ?? values?.ip ?? values?.item ?? values?.step)
    .find((found) => found !== undefined);
  const names = [...new Set([...Object.keys(before), ...Object.keys(after)])];
  const fields = names
    .map((field) => ({
      field,
      before: shown(fleet, entry, before[field]),
      after: shown(fleet, entry, after[field]),
    }))
    .filter((line) => line.before !== line.after);
  return {
    kind: kindWords(patch.kind),
    name: name === undefined ? '' : String(name),
    op: patch.op,
    fields,
  };
}

const UUID = /^[0-9a-f]{8}-[0-9a-f-]{27}$/;

function shown(fleet: Fleet, entry: LogEntry, value: unknown): string {
  if (value === null || value === undefined || value === '') return '';
  if (Array.isArray(value)) return value.join(', ');
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string' && UUID.test(value)) return nameOf(fleet, entry, value);
  return String(value);
}

function nameOf(fleet: Fleet, entry: LogEntry, id: string): string {
  const created = entry.patches.find((patch) => patch.id === id && patch.op === 'create');
  if (created?.op === 'create' && created.after.name) return String(created.after.name);
  for (const kind of [
    'host',
    'guest',
    'pool',
    'network',
    'site',
    'platform',
    'profile',
    'guestGroup',
    'medium',
    'hostGroup',
    'rack',
    'service',
    'device',
    'physicalSwitch',
    'placementRule',
  ] as const) {
    const row = fleet.get(kind, id);
    if (row) return row.name;
  }
  return id.slice(-6);
}
