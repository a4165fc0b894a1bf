import { release } from '../network/index.js';
import { change, choices, draftOf, noSuch, ref, refuse, type DeciderOf } from '../record/index.js';
import { CLEARED, guestReferrers } from './guest-referrers.js';
import { GUEST_STATE_FOLLOWS } from './set-guest-state.js';

/** A guest is gone for good, with what is to be cleared away. Its volumes stay until their deletion is recorded. */
export const retireGuest = change({
  type: 'guest.retire',
  title: 'Retire the guest',
  carried: 'by hand',
  alters: ['id'],
  input: { id: ref('guest'), clear: choices(...CLEARED) },
});

export const decideRetireGuest: DeciderOf<typeof retireGuest> = (fleet, input, context) => {
  const guest = fleet.get('guest', input.id);
  if (!guest) return noSuch('guest');
  if (!GUEST_STATE_FOLLOWS[guest.state].includes('retired'))
    return refuse({
      code: 'state-cannot-follow',
      field: 'state',
      sentence: `A guest that is ${guest.state} does not become retired.`,
    });
  const draft = draftOf(fleet, context);
  draft.update('guest', guest.id, { state: 'retired', stateAt: context.happenedAt });
  for (const { kind, id, clears } of guestReferrers(fleet, guest.id)) {
    if (!clears || !input.clear.includes(clears)) continue;
    if (kind === 'address') release(fleet, draft, fleet.need('address', id), context.now);
    else draft.remove(kind, id);
  }
  return {
    draft,
    title: `retired guest ${guest.name}${input.clear.length ? `, with its ${input.clear.join(', ')}` : ''}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
  };
};
