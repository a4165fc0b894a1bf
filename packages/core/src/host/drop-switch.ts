import { change, draftOf, noSuch, ref, type DeciderOf } from '../record/index.js';

/** A host no longer has a virtual switch. */
export const dropSwitch = change({
  type: 'host.drop-switch',
  title: 'Carry the network no longer',
  alters: ['id'],
  input: { id: ref('virtualSwitch') },
});

export const decideDropSwitch: DeciderOf<typeof dropSwitch> = (fleet, { id }, context) => {
  const found = fleet.get('virtualSwitch', id);
  if (!found) return noSuch('virtualSwitch');
  const draft = draftOf(fleet, context);
  for (const uplink of fleet.referring('uplink', 'switchId', found.id))
    draft.remove('uplink', uplink.id);
  for (const other of fleet.referring('virtualSwitch', 'natUplinkId', found.id))
    draft.update('virtualSwitch', other.id, { natUplinkId: null });
  draft.remove('virtualSwitch', found.id);
  const host = fleet.need('host', found.hostId);
  draft.update('host', host.id, { networkChangedAt: context.now });
  return {
    draft,
    title: `${host.name} no longer carries ${found.name}`,
    subjects: [{ kind: 'host', id: host.id, name: host.name }],
  };
};
