import { change, draftOf, noSuch, ref, type DeciderOf } from '../record/index.js';

/** A released address can be given out at once. */
export const endRest = change({
  type: 'address.end-rest',
  title: 'End the rest of the address',
  alters: ['id'],
  input: { id: ref('quarantine') },
});

export const decideEndRest: DeciderOf<typeof endRest> = (fleet, { id }, context) => {
  const rest = fleet.get('quarantine', id);
  if (!rest) return noSuch('quarantine');
  const draft = draftOf(fleet, context);
  draft.remove('quarantine', rest.id);
  const network = fleet.need('network', fleet.need('subnet', rest.subnetId).networkId);
  return {
    draft,
    title: `ended the rest of ${rest.ip}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};
