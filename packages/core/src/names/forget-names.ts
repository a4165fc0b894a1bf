import { change, draftOf, text, type DeciderOf } from '../record/index.js';

/** Forgets the names of one source. */
export const forgetNames = change({
  type: 'names.forget',
  title: 'Forget the names of a file',
  input: { source: text(200) },
});

export const decideForgetNames: DeciderOf<typeof forgetNames> = (fleet, { source }, context) => {
  const draft = draftOf(fleet, context);
  for (const row of fleet.all('nameRecord'))
    if (row.source === source) draft.remove('nameRecord', row.id);
  return { draft, title: `forgot the names of ${source}`, subjects: [] };
};
