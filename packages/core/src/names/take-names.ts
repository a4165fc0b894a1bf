import { counted } from '../quantity/index.js';
import {
  change,
  draftOf,
  omittable,
  pasted,
  refuse,
  text,
  type DeciderOf,
} from '../record/index.js';
import { readNames } from './read-names.js';

/** Most names of one file. */
const MOST_NAMES = 50_000;

/** The names of a zone or hosts file, as they are read; they replace those of the same source. */
export const takeNames = change({
  type: 'names.take',
  title: 'Take names in',
  input: {
    text: pasted(2_000_000),
    /** Domain that names without a last point belong to. */
    origin: omittable(text(253)),
    /** Which file it is, so that it can be read again. */
    source: text(200),
  },
});

export const decideTakeNames: DeciderOf<typeof takeNames> = (fleet, input, context) => {
  const source = input.source.trim();
  if (source === '')
    return refuse({
      code: 'no-source',
      field: 'source',
      sentence: 'Say which file this is, so that it can be read again.',
    });
  const { names, faults } = readNames(input.text, input.origin ?? '');
  if (names.length === 0)
    return refuse({
      code: 'no-names',
      field: 'text',
      sentence: faults[0]?.sentence ?? 'There is no name in this text.',
    });
  if (names.length > MOST_NAMES)
    return refuse({
      code: 'too-many',
      field: 'text',
      sentence: `At most ${MOST_NAMES.toLocaleString('en-GB')} names at once.`,
    });
  const draft = draftOf(fleet, context);
  const key = ({ owner, type, data }: { owner: string; type: string; data: string }) =>
    `${owner}|${type}|${data}`;
  const wanted = new Map(
    names.map(({ owner, type, data }) => [key({ owner, type, data }), { owner, type, data }]),
  );
  for (const row of fleet.all('nameRecord'))
    if (row.source === source && !wanted.delete(key(row))) draft.remove('nameRecord', row.id);
  for (const name of wanted.values()) draft.create('nameRecord', { ...name, source });
  return { draft, title: `took ${counted(names.length, 'name')} of ${source} in`, subjects: [] };
};
