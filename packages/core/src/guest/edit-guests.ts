import {
  draftOf,
  editFields,
  isRefusal,
  refuse,
  type ChangeBase,
  type Decider,
  type Subject,
  type Values,
} from '../record/index.js';
import { GUEST_STATE_FOLLOWS } from './change-guest.js';

/** The same fields for several guests; a state must be able to follow each one's own. */
export interface EditGuests extends ChangeBase {
  type: 'guest.edit-many';
  ids: string[];
  fields: Values;
}

const ALIKE = [
  'state',
  'family',
  'purpose',
  'profileId',
  'groupId',
  'processorMode',
  'firmware',
  'bootFirst',
  'graphics',
  'heldWhenStopped',
  'criticality',
  'outageWindow',
  'endDate',
  'startSeconds',
  'domain',
  'labels',
  'owner',
  'confirmedAt',
  'confirmedBy',
];

export const editGuests: Decider<EditGuests> = (fleet, change, edge) => {
  if (change.ids.length === 0)
    return refuse({ code: 'none-chosen', sentence: 'Choose guests first.' });
  const draft = draftOf(fleet, edge);
  const subjects: Subject[] = [];
  for (const id of new Set(change.ids)) {
    const guest = editFields(fleet, draft, 'guest', id, change.fields, ALIKE);
    if (isRefusal(guest)) return guest;
    const { state } = change.fields;
    if (state !== undefined && state !== guest.state) {
      if (!GUEST_STATE_FOLLOWS[guest.state].includes(state as typeof guest.state))
        return refuse({
          code: 'state-cannot-follow',
          field: 'state',
          sentence: `${guest.name} is ${guest.state}: it does not become ${String(state)}.`,
          remedy: 'Leave it out of the choice.',
        });
      draft.update('guest', id, { stateAt: change.happenedAt ?? edge.now });
    }
    subjects.push({ kind: 'guest', id, name: guest.name });
  }
  return {
    draft,
    title: `edited ${subjects.length} guests: ${Object.keys(change.fields).join(', ')}`,
    subjects,
  };
};
