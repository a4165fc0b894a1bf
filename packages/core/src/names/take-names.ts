import { draftOf, refuse, type ChangeBase, type Decider, type Row } from '../record/index.js';

/** Most names of one file. */
export const MOST_NAMES = 50_000;

/** Takes the names of a zone or hosts file as they were read; they replace those of the same source. */
export interface TakeNames extends ChangeBase {
  type: 'names.take';
  source: string;
  names: { owner: string; type: Row<'nameRecord'>['type']; data: string }[];
}

export const takeNames: Decider<TakeNames> = (fleet, change, edge) => {
  const source = change.source.trim();
  if (source === '')
    return refuse({
      code: 'no-source',
      field: 'source',
      sentence: 'Say which file this is, so that it can be read again.',
    });
  if (change.names.length > MOST_NAMES)
    return refuse({
      code: 'too-many',
      field: 'names',
      sentence: `At most ${MOST_NAMES.toLocaleString('en-GB')} names at once.`,
    });
  const draft = draftOf(fleet, edge);
  const key = ({ owner, type, data }: { owner: string; type: string; data: string }) =>
    `${owner}|${type}|${data}`;
  const wanted = new Map(change.names.map((name) => [key(name), name]));
  for (const row of fleet.all('nameRecord'))
    if (row.source === source && !wanted.delete(key(row))) draft.remove('nameRecord', row.id);
  for (const name of wanted.values()) draft.create('nameRecord', { ...name, source });
  return { draft, title: `took ${change.names.length} names of ${source} in`, subjects: [] };
};

/** Forgets the names of one source. */
export interface ForgetNames extends ChangeBase {
  type: 'names.forget';
  source: string;
}

export const forgetNames: Decider<ForgetNames> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  for (const row of fleet.all('nameRecord'))
    if (row.source === change.source) draft.remove('nameRecord', row.id);
  return { draft, title: `forgot the names of ${change.source}`, subjects: [] };
};
