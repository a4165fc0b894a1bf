import { roomObjections } from '../host/index.js';
import {
  beginning,
  change,
  draftOf,
  fieldsOf,
  noSuch,
  ref,
  type DeciderOf,
} from '../record/index.js';

/** One more volume of a guest. */
export const addVolume = change({
  type: 'volume.add',
  title: 'Add a volume',
  input: {
    guestId: ref('guest'),
    ...beginning(fieldsOf('volume'), 'poolId', 'bytes', 'label', 'thin', 'bus', 'use', 'split'),
  },
});

export const decideAddVolume: DeciderOf<typeof addVolume> = (fleet, input, context) => {
  const guest = fleet.get('guest', input.guestId);
  if (!guest) return noSuch('guest');
  const draft = draftOf(fleet, context);
  draft.create('volume', input);
  const planning =
    (guest.state === 'planned' || guest.state === 'building') && fleet.get('pool', input.poolId);
  return {
    draft,
    title: `added ${input.label} to ${guest.name}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
    objections: planning
      ? roomObjections(fleet, draft.patches(), { hosts: [], pools: [input.poolId] })
      : [],
  };
};
