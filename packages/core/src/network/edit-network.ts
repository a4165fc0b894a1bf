import { givenWords } from '../quantity/index.js';
import {
  change,
  draftOf,
  editFields,
  fieldsOf,
  isRefusal,
  omittable,
  ref,
  refs,
  some,
  type DeciderOf,
} from '../record/index.js';
import { networkNameTaken } from './draft-network.js';

export const editNetwork = change({
  type: 'network.edit',
  title: 'Edit the network',
  alters: ['id'],
  input: {
    id: ref('network'),
    ...some(
      fieldsOf('network'),
      'name',
      'purpose',
      'vlanId',
      'mtu',
      'siteId',
      'untrusted',
      'notes',
      'labels',
      'owner',
    ),
    /** Says anew which sites it reaches beside its own. */
    alsoAt: omittable(refs('site', 100)),
  },
});

export const decideEditNetwork: DeciderOf<typeof editNetwork> = (
  fleet,
  { id, alsoAt, ...fields },
  context,
) => {
  const draft = draftOf(fleet, context);
  const network = editFields(fleet, draft, 'network', id, fields);
  if (isRefusal(network)) return network;
  const taken =
    fields.name === undefined ? undefined : networkNameTaken(fleet, fields.name, network.id);
  if (taken) return taken;
  if (alsoAt) {
    const held = fleet.referring('networkSite', 'networkId', network.id);
    for (const row of held) {
      if (!alsoAt.includes(row.siteId)) draft.remove('networkSite', row.id);
    }
    for (const siteId of new Set(alsoAt)) {
      if (!held.some((row) => row.siteId === siteId))
        draft.create('networkSite', { networkId: network.id, siteId });
    }
  }
  return {
    draft,
    title: `edited network ${network.name}: ${givenWords({ ...fields, ...(alsoAt ? { sites: alsoAt } : {}) })}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};
