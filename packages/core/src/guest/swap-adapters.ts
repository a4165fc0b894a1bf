import { change, draftOf, noSuch, ref, refuse, type DeciderOf } from '../record/index.js';

/** Two adapters of one guest: each goes to the other's network, addresses and MACs stay. */
export const swapAdapters = change({
  type: 'adapter.swap',
  title: 'Change two adapters over',
  alters: ['aId', 'bId'],
  input: { aId: ref('adapter'), bId: ref('adapter') },
});

export const decideSwapAdapters: DeciderOf<typeof swapAdapters> = (fleet, input, context) => {
  const [a, b] = [fleet.get('adapter', input.aId), fleet.get('adapter', input.bId)];
  if (!a || !b) return noSuch('adapter');
  if (a.guestId !== b.guestId)
    return refuse({
      code: 'of-two-guests',
      field: 'bId',
      sentence: 'These adapters belong to two guests.',
    });
  const guest = fleet.need('guest', a.guestId);
  const draft = draftOf(fleet, context);
  draft.update('adapter', a.id, { networkId: b.networkId });
  draft.update('adapter', b.id, { networkId: a.networkId });
  return {
    draft,
    title: `changed adapters ${a.position + 1} and ${b.position + 1} of ${guest.name} over`,
    subjects: [{ kind: 'guest', id: guest.id, name: guest.name }],
  };
};
