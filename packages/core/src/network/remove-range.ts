import { change, draftOf, noSuch, ref, type DeciderOf } from '../record/index.js';

/** Gives a range back to the addresses handed out one by one. */
export const removeRange = change({
  type: 'range.remove',
  title: 'Give the range back',
  alters: ['id'],
  input: { id: ref('range') },
});

export const decideRemoveRange: DeciderOf<typeof removeRange> = (fleet, { id }, context) => {
  const range = fleet.get('range', id);
  if (!range) return noSuch('range');
  const draft = draftOf(fleet, context);
  draft.remove('range', range.id);
  const network = fleet.need('network', fleet.need('subnet', range.subnetId).networkId);
  return {
    draft,
    title: `removed range ${range.firstIp} – ${range.lastIp} of ${network.name}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};
