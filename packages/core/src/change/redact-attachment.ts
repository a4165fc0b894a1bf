import { change, draftOf, refuse, sha256, type DeciderOf } from '../record/index.js';

/**
 * Takes a pasted text out of the log for good. The entry stays, with the hash of what it held: a tombstone. The text lies
 * outside the patches, so a replay of the log needs it no more than before.
 */
export const redactAttachment = change({
  type: 'attachment.redact',
  title: 'Take the pasted text out',
  role: 'administrator',
  carried: 'only afterwards',
  undoable: false,
  reasonRequired: true,
  needs: 'a pasted text',
  wordsOnly: true,
  input: { sha256: sha256() },
});

export const decideRedactAttachment: DeciderOf<typeof redactAttachment> = (
  fleet,
  input,
  context,
) => {
  if (!context.pasted)
    return refuse({ code: 'not-found', sentence: 'No pasted text lies under this hash.' });
  if (context.pasted.redacted)
    return refuse({ code: 'redacted', sentence: 'This text has been taken out already.' });
  return {
    draft: draftOf(fleet, context),
    title: `redacted the pasted text ${input.sha256.slice(0, 12)}…`,
    subjects: [],
  };
};
