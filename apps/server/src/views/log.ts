/** An entry of the log as it is shown: what differs, in words, and whether it can be undone. */
import type { LogRow } from '@insel/contract';
import {
  changeOf,
  counted,
  formatBinary,
  formatMemory,
  fieldWords,
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
  const difference = entry.patches
    .filter(saysSomething)
    .map((patch) => differenceOf(fleet, entry, patch));
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
    summary: summaryOf(difference),
    difference: difference.slice(0, MOST_DIFFERENCES),
    undoable: undoable(type),
    importId: (input as { part?: { importId: string } }).part?.importId ?? null,
    text: typeof note === 'string' ? note : (attachment?.begins ?? ''),
    attachment: attachment ? { ...attachment, redacted: redacted.has(attachment.sha256) } : null,
  };
}

const MOST_FIELDS_TOLD = 3;
const DID = { create: 'added', update: 'altered', delete: 'removed' } as const;

/** One altered row is told field by field, several by how many of which kind. */
function summaryOf(difference: LogRow['difference']): string {
  const [only, ...others] = difference;
  if (!only) return '';
  if (others.length === 0 && only.op === 'update') {
    const words = only.fields
      .slice(0, MOST_FIELDS_TOLD)
      .map(({ field, before, after }) => `${field} ${before || 'nothing'} → ${after || 'nothing'}`);
    const more = only.fields.length - words.length;
    return `${words.join(', ')}${more > 0 ? ` and ${counted(more, 'more field', 'more fields')}` : ''}`;
  }
  const counts = new Map<string, number>();
  for (const { kind, op } of difference) {
    const key = `${op}|${kind}`;
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return [...counts]
    .map(([key, count]) => {
      const [op, kind] = key.split('|') as [keyof typeof DID, string];
      return `${counted(count, kind, manyOf(kind))} ${DID[op]}`;
    })
    .join(', ');
}

/** @example manyOf('identity item') // 'identity items' @example manyOf('address') // 'addresses' */
const manyOf = (kind: string): string =>
  /(s|ch)$/.test(kind)
    ? `${kind}es`
    : /[^aeiou]y$/.test(kind)
      ? `${kind.slice(0, -1)}ies`
      : `${kind}s`;

/** An owner's patch without fields only carries the revision. */
const saysSomething = (patch: Patch) =>
  patch.op !== 'update' || Object.keys(patch.after).length > 0;

/** What was decided together: names of what is made come from there. */
type Together = Pick<LogEntry, 'patches'>;

/** What differs, in one line. */
export const differenceLine = (fleet: Fleet, together: Together): string =>
  summaryOf(
    together.patches.filter(saysSomething).map((patch) => differenceOf(fleet, together, patch)),
  );

function differenceOf(fleet: Fleet, entry: Together, patch: Patch): LogRow['difference'][number] {
  const before: Values = patch.op === 'create' ? {} : patch.before;
  const after: Values = patch.op === 'delete' ? {} : patch.after;
  const held = fleet.get(patch.kind, patch.id) as Values | undefined;
  const name = [after, before, held]
    .map((values) => values?.name ?? values?.label ?? values?.ip ?? values?.item ?? values?.step)
    .find((found) => found !== undefined);
  const names = [...new Set([...Object.keys(before), ...Object.keys(after)])];
  const fields = names
    .map((field) => ({
      field: fieldWords(field),
      before: shown(fleet, entry, before[field], field),
      after: shown(fleet, entry, after[field], field),
    }))
    .filter((line) => line.before !== line.after);
  return {
    kind: kindWords(patch.kind),
    name: name === undefined ? '' : String(name),
    op: patch.op,
    fields,
  };
}

const TIME = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}\.\d{3}Z$/;
const UUID = /^[0-9a-f]{8}-[0-9a-f-]{27}$/;

/** A value of a field as a person reads it. */
export const valueWords = (fleet: Fleet, value: unknown, field: string): string =>
  shown(fleet, { patches: [] }, value, field) || 'nothing';

function shown(
  fleet: Fleet,
  entry: Pick<Together, 'patches'>,
  value: unknown,
  field: string,
): string {
  if (value === null || value === undefined || value === '') return '';
  if (Array.isArray(value)) return value.join(', ');
  if (typeof value === 'number' && field.endsWith('MiB')) return formatMemory(value);
  if (typeof value === 'number' && /bytes$/i.test(field)) return formatBinary(value);
  if (typeof value === 'string' && TIME.test(value)) return value.slice(0, 16).replace('T', ' ');
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string' && UUID.test(value)) return nameOf(fleet, entry, value);
  return String(value);
}

function nameOf(fleet: Fleet, entry: Pick<Together, 'patches'>, id: string): string {
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
