import { draftOf, refuse, type ChangeBase, type Decider } from '../record/index.js';

/**
 * Takes a pasted text out of the log for good. The entry stays, with the hash of what it held: a tombstone. The text lies
 * outside the patches, so a replay of the log needs it no more than before.
 */
export interface Redact extends ChangeBase {
  type: 'attachment.redact';
  sha256: string;
}

export const redact: Decider<Redact> = (fleet, change, edge) => {
  if (!change.reason?.trim())
    return refuse({
      code: 'reason-missing',
      field: 'reason',
      sentence: 'Write why the text is taken out: the log keeps the reason, not the text.',
    });
  return {
    draft: draftOf(fleet, edge),
    title: `redacted the pasted text ${change.sha256.slice(0, 12)}…`,
    subjects: [],
  };
};
