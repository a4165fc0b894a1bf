import {
  draftOf,
  refuse,
  sameValue,
  upcast,
  type DeciderOf,
  type Fleet,
  type LogEntry,
  type Patch,
  type Refusal,
  type Values,
} from '../record/index.js';
import { undoable } from './descriptions.js';
import { changeOf } from './stored-change.js';
import type { undo } from './undo.js';

/**
 * Allowed when every touched field still equals what the entry left, and nothing later refers to what it created. The
 * entry is handed in, since the fleet does not hold the log.
 */
export const decideUndo: DeciderOf<typeof undo> = (fleet, input, context) => {
  const { entry } = context;
  if (!entry)
    return refuse({ code: 'not-found', sentence: `The log has no entry ${input.revision}.` });
  if (!undoable(typeDone(fleet, entry))) {
    return refuse({
      code: 'cannot-be-undone',
      sentence: `"${entry.title}" records something done in the world: it is not undone.`,
      remedy: 'Record what is true now as a new change.',
    });
  }
  const draft = draftOf(fleet, context);
  const mine = new Set(entry.patches.map(({ id }) => id));
  for (const patch of upcast(entry).toReversed()) {
    const fault = later(fleet, entry, patch, mine);
    if (fault) return fault;
    invert(fleet, patch, (inverse) => draft.add(inverse));
  }
  return { draft, title: `undid: ${entry.title}`, subjects: entry.subjects };
};

/** Of a step of a plan that was carried out: what it did. */
function typeDone(fleet: Fleet, entry: LogEntry): string {
  const { type, input } = changeOf(entry);
  if (type !== 'plan-step.carry-out' && type !== 'plan-step.tick') return type;
  return fleet.get('planStep', (input as { id: string }).id)?.type ?? type;
}

/** @param mine ids of all rows that the entry touched */
function later(
  fleet: Fleet,
  entry: LogEntry,
  patch: Patch,
  mine: ReadonlySet<string>,
): Refusal | undefined {
  const row = fleet.get(patch.kind, patch.id) as (Values & { revision: number }) | undefined;
  const changed = (what: string) =>
    refuse({
      code: 'altered-since',
      sentence: `${what} has been altered since "${entry.title}".`,
      remedy: 'Undo the later change first, or alter it by hand.',
    });
  const name = String((row as { name?: unknown } | undefined)?.name ?? `A ${patch.kind}`);
  if (patch.op === 'delete') return row ? changed(name) : undefined;
  if (!row) return changed(`A ${patch.kind}`);
  const touched = Object.keys(patch.after).find(
    (field) => !sameValue(row[field], patch.after[field]),
  );
  if (touched) return changed(name);
  if (patch.op === 'update') return undefined;
  const [stranger] = fleet
    .referrers(patch.kind, patch.id)
    .flatMap(({ kind, ids }) => ids.filter((id) => !mine.has(id)).map(() => kind));
  if (!stranger) return undefined;
  return refuse({
    code: 'referred-to-since',
    sentence: `A later ${stranger} refers to ${name}.`,
    remedy: 'Undo the later change first.',
  });
}

function invert(fleet: Fleet, patch: Patch, add: (inverse: Patch) => void): void {
  if (patch.op === 'delete') {
    add({ op: 'create', kind: patch.kind, id: patch.id, after: patch.before });
    return;
  }
  const row = fleet.need(patch.kind, patch.id) as unknown as Values & { revision: number };
  if (patch.op === 'create')
    add({ op: 'delete', kind: patch.kind, id: patch.id, seen: row.revision, before: patch.after });
  else
    add({
      op: 'update',
      kind: patch.kind,
      id: patch.id,
      seen: row.revision,
      before: patch.after,
      after: patch.before,
    });
}
