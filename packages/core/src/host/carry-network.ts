import { change, draftOf, fieldsOf, noSuch, ref, refuse, type DeciderOf } from '../record/index.js';

/** A host carries a network, and how. */
export const carryNetwork = change({
  type: 'host.carry',
  title: 'Carry the network on the host',
  input: {
    hostId: ref('host'),
    networkId: ref('network'),
    mode: fieldsOf('virtualSwitch').mode,
  },
});

export const decideCarryNetwork: DeciderOf<typeof carryNetwork> = (fleet, input, context) => {
  const host = fleet.get('host', input.hostId);
  const network = fleet.get('network', input.networkId);
  if (!host) return noSuch('host');
  if (!network) return noSuch('network');
  if (
    fleet
      .referring('virtualSwitch', 'hostId', host.id)
      .some((found) => found.networkId === network.id)
  ) {
    return refuse({
      code: 'carried-already',
      field: 'networkId',
      sentence: `${host.name} carries ${network.name} already.`,
      remedy: 'Edit its mode or its ports instead.',
    });
  }
  const draft = draftOf(fleet, context);
  draft.create('virtualSwitch', {
    hostId: host.id,
    networkId: network.id,
    mode: input.mode,
    name: network.name,
  });
  draft.update('host', host.id, { networkChangedAt: context.now });
  return {
    draft,
    title: `${host.name} carries ${network.name}, ${input.mode}`,
    subjects: [
      { kind: 'host', id: host.id, name: host.name },
      { kind: 'network', id: network.id, name: network.name },
    ],
  };
};
