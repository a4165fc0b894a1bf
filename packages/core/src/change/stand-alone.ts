/**
 * Records of kinds that carry no rule beyond their fields: racks, host groups, platforms, install media, backups. One
 * change to record, one to edit, one to remove serves them all; references and bounds are held by the invariants.
 */
import { draftOf, editFields, isRefusal, KINDS, noSuch, refuse, tidy, type ChangeBase, type Decider, type Fleet, type Kind, type NewFields, type Subject, type Values } from '../record/index.js';

export const STAND_ALONE = ['rack', 'hostGroup', 'platform', 'medium', 'backup'] as const;
export type StandAlone = (typeof STAND_ALONE)[number];

const WORD: Readonly<Record<StandAlone, string>> = { rack: 'rack', hostGroup: 'host group', platform: 'platform', medium: 'install medium', backup: 'backup' };

export interface RecordOne extends ChangeBase {
  type: 'one.record';
  kind: StandAlone;
  fields: Values;
}

export const recordOne: Decider<RecordOne> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const fields = tidy(change.kind, change.fields);
  const name = typeof fields.name === 'string' ? fields.name : '';
  if (name && nameTaken(fleet, change.kind, name)) return refuse({ code: 'name-taken', field: 'name', sentence: `There is a ${WORD[change.kind]} named ${name} already.` });
  const id = draft.create(change.kind, fields as NewFields<typeof change.kind>);
  return { draft, title: `recorded ${WORD[change.kind]}${name ? ` ${name}` : ''}${change.kind === 'backup' ? ` of ${guestName(fleet, fields.guestId)}` : ''}`, subjects: subjectsOf(fleet, change.kind, id, fields) };
};

export interface EditOne extends ChangeBase {
  type: 'one.edit';
  kind: StandAlone;
  id: string;
  fields: Values;
}

export const editOne: Decider<EditOne> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const row = editFields(fleet, draft, change.kind, change.id, change.fields, Object.keys(KINDS[change.kind].fields));
  if (isRefusal(row)) return row;
  const { name } = change.fields;
  if (typeof name === 'string' && nameTaken(fleet, change.kind, name, change.id)) return refuse({ code: 'name-taken', field: 'name', sentence: `There is a ${WORD[change.kind]} named ${name} already.` });
  return { draft, title: `edited ${titleOf(fleet, change.kind, row)}: ${Object.keys(change.fields).join(', ')}`, subjects: subjectsOf(fleet, change.kind, row.id, row as unknown as Values) };
};

export interface RemoveOne extends ChangeBase {
  type: 'one.remove';
  kind: StandAlone;
  id: string;
}

export const removeOne: Decider<RemoveOne> = (fleet, change, edge) => {
  const row = fleet.get(change.kind, change.id);
  if (!row) return noSuch(change.kind);
  const draft = draftOf(fleet, edge);
  draft.remove(change.kind, change.id);
  return { draft, title: `removed ${titleOf(fleet, change.kind, row)}`, subjects: subjectsOf(fleet, change.kind, row.id, row as unknown as Values) };
};

const nameTaken = (fleet: Fleet, kind: StandAlone, name: string, but = ''): boolean =>
  [...fleet.all(kind)].some((row) => row.id !== but && 'name' in row && String(row.name).toLowerCase() === name.trim().toLowerCase());

const guestName = (fleet: Fleet, id: unknown): string => fleet.get('guest', typeof id === 'string' ? id : null)?.name ?? 'a guest';

function titleOf(fleet: Fleet, kind: StandAlone, row: object): string {
  return 'guestId' in row ? `${WORD[kind]} of ${guestName(fleet, row.guestId)}` : `${WORD[kind]} ${String((row as { name?: string }).name)}`;
}

function subjectsOf(fleet: Fleet, kind: Kind, id: string, values: Values): Subject[] {
  if (kind === 'backup' && typeof values.guestId === 'string') return [{ kind: 'guest', id: values.guestId, name: guestName(fleet, values.guestId) }];
  return [{ kind, id, name: String(values.name ?? '') }];
}
