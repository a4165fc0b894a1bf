import {
  change,
  draftOf,
  fieldsOf,
  isRefusal,
  omittable,
  type DeciderOf,
} from '../record/index.js';
import { draftGuest, partsOf } from './draft-guest.js';
import { guestInput } from './guest-input.js';

const guest = fieldsOf('guest');

/** With its state, and since when. */
export const recordedGuestInput = {
  ...guestInput,
  state: guest.state,
  stateAt: omittable(guest.stateAt),
};

/** As it is: nothing is refused for lack of room. */
export const recordGuest = change({
  type: 'guest.record',
  title: 'Record a guest',
  input: recordedGuestInput,
});

export const decideRecordGuest: DeciderOf<typeof recordGuest> = (fleet, input, context) => {
  const draft = draftOf(fleet, context);
  const drafted = draftGuest(fleet, draft, context, partsOf(input), false);
  if (isRefusal(drafted)) return drafted;
  const name = input.name.trim();
  const host = fleet.need('host', input.hostId);
  return {
    draft,
    title: `recorded guest ${name} on ${host.name}`,
    subjects: [{ kind: 'guest', id: drafted.guestId, name }],
  };
};
