import {
  draftOf,
  holdsSecret,
  refuse,
  SECRET,
  type ChangeBase,
  type Decider,
  type Subject,
} from '../record/index.js';

/** An entry in the log that alters nothing: what was seen or done, with pasted output if any. */
export interface AddNote extends ChangeBase {
  type: 'log.note';
  text: string;
  /** A long pasted text, kept beside the log under its hash so that it can be redacted. */
  attachment?: { sha256: string; bytes: number };
  subject?: { kind: Subject['kind']; id: string };
}

export const addNote: Decider<AddNote> = (fleet, change, edge) => {
  const text = change.text.trim();
  if (text === '')
    return refuse({ code: 'empty', field: 'text', sentence: 'Write what you saw or did.' });
  if (holdsSecret(text)) return refuse({ code: 'secret', field: 'text', sentence: SECRET });
  const row =
    change.subject &&
    (fleet.get(change.subject.kind, change.subject.id) as { name?: string } | undefined);
  const subjects = change.subject && row ? [{ ...change.subject, name: row.name ?? '' }] : [];
  return {
    draft: draftOf(fleet, edge),
    title: text.length > 120 ? `${text.slice(0, 119)}…` : text,
    subjects,
  };
};
