import { draftOf, refuse, type ChangeBase, type Decider, type Subject } from '../record/index.js';

/** An entry in the log that alters nothing: what was seen or done, with pasted output if any. */
export interface AddNote extends ChangeBase {
  type: 'log.note';
  text: string;
  subject?: { kind: Subject['kind']; id: string };
}

const PRIVATE_KEY = /-----BEGIN [A-Z ]*PRIVATE KEY-----/;

export const addNote: Decider<AddNote> = (fleet, change, edge) => {
  const text = change.text.trim();
  if (text === '') return refuse({ code: 'empty', field: 'text', sentence: 'Write what you saw or did.' });
  if (PRIVATE_KEY.test(text)) {
    return refuse({ code: 'secret', field: 'text', sentence: 'This text holds a private key; the record keeps no secrets.', remedy: 'Note where the key is kept instead.' });
  }
  const row = change.subject && (fleet.get(change.subject.kind, change.subject.id) as { name?: string } | undefined);
  const subjects = change.subject && row ? [{ ...change.subject, name: row.name ?? '' }] : [];
  return { draft: draftOf(fleet, edge), title: text.length > 120 ? `${text.slice(0, 119)}…` : text, subjects };
};
