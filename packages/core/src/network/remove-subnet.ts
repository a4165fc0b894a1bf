import { change, draftOf, noSuch, ref, type DeciderOf } from '../record/index.js';
import { draftSubnetRemoval } from './draft-network.js';

/** Addresses found in it stay, in no subnet. */
export const removeSubnet = change({
  type: 'subnet.remove',
  title: 'Remove the subnet',
  alters: ['id'],
  input: { id: ref('subnet') },
});

export const decideRemoveSubnet: DeciderOf<typeof removeSubnet> = (fleet, { id }, context) => {
  const subnet = fleet.get('subnet', id);
  if (!subnet) return noSuch('subnet');
  const draft = draftOf(fleet, context);
  draftSubnetRemoval(fleet, draft, subnet);
  const network = fleet.need('network', subnet.networkId);
  return {
    draft,
    title: `removed subnet ${subnet.prefix} of ${network.name}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};
