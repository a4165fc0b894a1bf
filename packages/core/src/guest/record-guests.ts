import { counted } from '../quantity/index.js';
import {
  change,
  draftOf,
  isRefusal,
  list,
  refuse,
  type DeciderOf,
  type Subject,
  partOfImport,
  partWords,
} from '../record/index.js';
import { draftGuest, partsOf } from './draft-guest.js';
import { recordedGuestInput } from './record-guest.js';

/** More at once would be a plan of its own. */
export const MOST_GUESTS = 500;

/** Many guests that exist, all or none: from a table. A refusal names the row as `guests.<n>`. */
export const recordGuests = change({
  type: 'guest.record-many',
  title: 'Record guests from a table',
  input: { guests: list(recordedGuestInput, MOST_GUESTS), ...partOfImport },
});

export const decideRecordGuests: DeciderOf<typeof recordGuests> = (
  fleet,
  { guests, part },
  context,
) => {
  if (guests.length === 0 || guests.length > MOST_GUESTS)
    return refuse({
      code: 'how-many',
      field: 'guests',
      sentence: `Record 1 to ${MOST_GUESTS} guests at a time.`,
    });
  const draft = draftOf(fleet, context);
  const subjects: Subject[] = [];
  for (const [i, guest] of guests.entries()) {
    const drafted = draftGuest(fleet, draft, context, partsOf(guest), false);
    if (isRefusal(drafted))
      return { ...drafted, field: drafted.field && `guests.${i}.${drafted.field}` };
    subjects.push({ kind: 'guest', id: drafted.guestId, name: guest.name.trim() });
  }
  return {
    draft,
    title: `recorded ${counted(subjects.length, 'guest')} from a table${partWords(part)}`,
    subjects,
  };
};
