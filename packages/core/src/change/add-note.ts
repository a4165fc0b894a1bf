import {
  change,
  choice,
  draftOf,
  KIND_NAMES,
  omittable,
  part,
  pasted,
  ref,
  refuse,
  type DeciderOf,
} from '../record/index.js';

/** An entry in the log that alters nothing: what was seen or done, with pasted output if any. */
export const addNote = change({
  type: 'log.note',
  title: 'Add an entry to the log',
  carried: 'only afterwards',
  undoable: false,
  wordsOnly: true,
  input: {
    text: pasted(1_000_000),
    subject: omittable(part({ kind: choice(...KIND_NAMES), id: ref('any') })),
  },
});

/** Longest title; of a longer text its first line is told. */
const LONGEST = 120;

export const decideAddNote: DeciderOf<typeof addNote> = (fleet, input, context) => {
  const text = input.text.trim();
  if (text === '')
    return refuse({ code: 'empty', field: 'text', sentence: 'Write what you saw or did.' });
  const row =
    input.subject &&
    (fleet.get(input.subject.kind, input.subject.id) as { name?: string } | undefined);
  const subjects = input.subject && row ? [{ ...input.subject, name: row.name ?? '' }] : [];
  const [first = ''] = text.length > LONGEST ? text.split('\n') : [text];
  const title = first.length > LONGEST ? `${first.slice(0, LONGEST - 1)}…` : first;
  return { draft: draftOf(fleet, context), title, subjects };
};
