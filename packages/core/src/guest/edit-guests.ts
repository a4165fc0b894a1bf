import { counted, givenWords } from '../quantity/index.js';
import {
  change,
  draftOf,
  editFields,
  fieldsOf,
  isRefusal,
  refs,
  refuse,
  some,
  type DeciderOf,
  type Subject,
} from '../record/index.js';
import { GUEST_STATE_FOLLOWS } from './set-guest-state.js';

/** The same fields for several guests; a state must be able to follow each one's own. */
export const editGuests = change({
  type: 'guest.edit-many',
  title: 'Edit guests',
  alters: ['ids'],
  input: {
    ids: refs('guest'),
    ...some(
      fieldsOf('guest'),
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
      'stopSeconds',
      'domain',
      'labels',
      'owner',
      'confirmedAt',
      'confirmedBy',
    ),
  },
});

export const decideEditGuests: DeciderOf<typeof editGuests> = (
  fleet,
  { ids, ...fields },
  context,
) => {
  if (ids.length === 0)
    return refuse({ code: 'none-chosen', field: 'ids', sentence: 'Choose guests first.' });
  const draft = draftOf(fleet, context);
  const subjects: Subject[] = [];
  for (const id of new Set(ids)) {
    const guest = editFields(fleet, draft, 'guest', id, fields);
    if (isRefusal(guest)) return guest;
    const { state } = fields;
    if (state !== undefined && state !== guest.state) {
      if (!GUEST_STATE_FOLLOWS[guest.state].includes(state))
        return refuse({
          code: 'state-cannot-follow',
          field: 'state',
          sentence: `${guest.name} is ${guest.state}: it does not become ${state}.`,
          remedy: 'Leave it out of the choice.',
        });
      draft.update('guest', id, { stateAt: context.happenedAt });
    }
    subjects.push({ kind: 'guest', id, name: guest.name });
  }
  return {
    draft,
    title: `edited ${counted(subjects.length, 'guest')}: ${givenWords(fields)}`,
    subjects,
  };
};
