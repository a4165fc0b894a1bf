import { release } from '../network/index.js';
import { change, draftOf, noSuch, ref, type DeciderOf } from '../record/index.js';

/** Its addresses are released. */
export const removeAdapter = change({
  type: 'adapter.remove',
  title: 'Take the adapter away',
  alters: ['id'],
  input: { id: ref('adapter') },
});

export const decideRemoveAdapter: DeciderOf<typeof removeAdapter> = (fleet, { id }, context) => {
  const adapter = fleet.get('adapter', id);
  if (!adapter) return noSuch('adapter');
  const guest = fleet.need('guest', adapter.guestId);
  const draft = draftOf(fleet, context);
  for (const address of fleet.referring('address', 'adapterId', adapter.id)) {
    release(fleet, draft, address, context.now);
  }
  draft.remove('adapter', adapter.id);
  return {
    draft,
    title: `took adapter ${adapter.position + 1} from ${guest.name}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
  };
};
