import { counted } from '../quantity/index.js';
import { change, draftOf, noSuch, ref, refs, refuse, type DeciderOf } from '../record/index.js';

/** The system inside names adapters by their order. */
export const orderAdapters = change({
  type: 'adapter.order',
  title: 'Put the adapters in another order',
  alters: ['ids'],
  input: {
    guestId: ref('guest'),
    /** All of them, the first one first. */
    ids: refs('adapter', 64),
  },
});

export const decideOrderAdapters: DeciderOf<typeof orderAdapters> = (
  fleet,
  { guestId, ids },
  context,
) => {
  const guest = fleet.get('guest', guestId);
  if (!guest) return noSuch('guest');
  const adapters = fleet.referring('adapter', 'guestId', guest.id);
  const same =
    adapters.length === ids.length && adapters.every((adapter) => ids.includes(adapter.id));
  if (!same)
    return refuse({
      code: 'not-all',
      field: 'ids',
      sentence: `Name each of the ${counted(adapters.length, 'adapter')} of ${guest.name} once.`,
      remedy: 'Read its sheet anew: it may have been altered.',
    });
  const draft = draftOf(fleet, context);
  for (const [position, id] of ids.entries()) draft.update('adapter', id, { position });
  return {
    draft,
    title: `put the adapters of ${guest.name} in another order`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
  };
};
