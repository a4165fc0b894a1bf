import {
  draftOf,
  isRefusal,
  refuse,
  type ChangeBase,
  type Decider,
  type Subject,
} from '../record/index.js';
import { draftGuest, type GuestInput } from './draft-guest.js';

/** Records many guests that exist, all or none: from a table. */
export interface RecordGuests extends ChangeBase {
  type: 'guest.record-many';
  guests: GuestInput[];
}

/** More at once would be a plan of its own. */
export const MOST_GUESTS = 500;

export const recordGuests: Decider<RecordGuests> = (fleet, change, edge) => {
  if (change.guests.length === 0 || change.guests.length > MOST_GUESTS)
    return refuse({
      code: 'how-many',
      field: 'guests',
      sentence: `Record 1 to ${MOST_GUESTS} guests at a time.`,
    });
  const draft = draftOf(fleet, edge);
  const subjects: Subject[] = [];
  for (const [i, input] of change.guests.entries()) {
    const drafted = draftGuest(fleet, draft, edge, input, false);
    if (isRefusal(drafted))
      return { ...drafted, field: drafted.field && `guests.${i}.${drafted.field}` };
    subjects.push({ kind: 'guest', id: drafted.guestId, name: String(input.fields.name).trim() });
  }
  return { draft, title: `recorded ${subjects.length} guests from a table`, subjects };
};
