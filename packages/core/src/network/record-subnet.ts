import { change, draftOf, noSuch, ref, type DeciderOf } from '../record/index.js';
import { draftSubnet } from './draft-network.js';
import { subnetInput } from './network-input.js';

/** One more subnet of a network. */
export const recordSubnet = change({
  type: 'subnet.record',
  title: 'Record a subnet',
  input: { networkId: ref('network'), ...subnetInput },
});

export const decideRecordSubnet: DeciderOf<typeof recordSubnet> = (
  fleet,
  { networkId, ...subnet },
  context,
) => {
  const network = fleet.get('network', networkId);
  if (!network) return noSuch('network');
  const draft = draftOf(fleet, context);
  const fault = draftSubnet(fleet, draft, network.id, subnet, '');
  if (fault) return fault;
  return {
    draft,
    title: `recorded subnet ${subnet.prefix} of ${network.name}`,
    subjects: [{ kind: 'network', id: network.id, name: network.name }],
  };
};
