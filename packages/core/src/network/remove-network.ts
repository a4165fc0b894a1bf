import { change, draftOf, noSuch, ref, type DeciderOf } from '../record/index.js';
import { draftSubnetRemoval } from './draft-network.js';

/** A network that nothing refers to any more goes, with its subnets, ranges and rests. */
export const removeNetwork = change({
  type: 'network.remove',
  title: 'Remove the network',
  alters: ['id'],
  input: { id: ref('network') },
});

export const decideRemoveNetwork: DeciderOf<typeof removeNetwork> = (fleet, { id }, context) => {
  const network = fleet.get('network', id);
  if (!network) return noSuch('network');
  const draft = draftOf(fleet, context);
  for (const subnet of fleet.referring('subnet', 'networkId', network.id))
    draftSubnetRemoval(fleet, draft, subnet);
  for (const site of fleet.referring('networkSite', 'networkId', network.id))
    draft.remove('networkSite', site.id);
  draft.remove('network', network.id);
  return {
    draft,
    title: `removed network ${network.name}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};
