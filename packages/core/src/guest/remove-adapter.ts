import { counted } from '../quantity/index.js';
import { release } from '../network/index.js';
import { change, draftOf, noSuch, ref, type DeciderOf } from '../record/index.js';

/** Its addresses are released; sub-interfaces that travel over it go with it. */
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
  const over = fleet.referring('adapter', 'trunkId', adapter.id);
  for (const gone of [...over, adapter]) {
    for (const address of fleet.referring('address', 'adapterId', gone.id))
      release(fleet, draft, address, context.now);
    draft.remove('adapter', gone.id);
  }
  const along = over.length ? ` and ${counted(over.length, 'sub-interface')} over it` : '';
  return {
    draft,
    title: `took adapter ${adapter.position + 1}${along} from ${guest.name}`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
  };
};
