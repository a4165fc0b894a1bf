import { draftOf, noSuch, refuse, type ChangeBase, type Decider } from '../record/index.js';

/** Puts the adapters of a guest in an order: the system inside names them by it. */
export interface OrderAdapters extends ChangeBase {
  type: 'adapter.order';
  guestId: string;
  /** All of them, the first one first. */
  ids: string[];
}

export const orderAdapters: Decider<OrderAdapters> = (fleet, change, edge) => {
  const guest = fleet.get('guest', change.guestId);
  if (!guest) return noSuch('guest');
  const adapters = fleet.referring('adapter', 'guestId', guest.id);
  const same =
    adapters.length === change.ids.length &&
    adapters.every((adapter) => change.ids.includes(adapter.id));
  if (!same)
    return refuse({
      code: 'not-all',
      field: 'ids',
      sentence: `Name each of the ${adapters.length} adapters of ${guest.name} once.`,
      remedy: 'Read its sheet anew: it may have been altered.',
    });
  const draft = draftOf(fleet, edge);
  for (const [position, id] of change.ids.entries()) draft.update('adapter', id, { position });
  return {
    draft,
    title: `put the adapters of ${guest.name} in another order`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
  };
};
