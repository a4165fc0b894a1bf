import {
  change,
  draftOf,
  noSuch,
  ref,
  refs,
  refuse,
  type DeciderOf,
  type Draft,
  type Fleet,
} from '../record/index.js';

/** By which ports of its host a virtual switch goes out. */
export const setUplinks = change({
  type: 'switch.set-uplinks',
  title: 'Choose the ports of the virtual switch',
  alters: ['switchId'],
  input: { switchId: ref('virtualSwitch'), portIds: refs('port', 64) },
});

export const decideSetUplinks: DeciderOf<typeof setUplinks> = (fleet, input, context) => {
  const found = fleet.get('virtualSwitch', input.switchId);
  if (!found) return noSuch('virtualSwitch');
  const stranger = input.portIds.find((id) => fleet.get('port', id)?.hostId !== found.hostId);
  if (stranger)
    return refuse({
      code: 'port-of-another-host',
      field: 'portIds',
      sentence: 'This port is not one of the same host.',
    });
  const draft = draftOf(fleet, context);
  draftUplinks(fleet, draft, found.id, input.portIds);
  const host = fleet.need('host', found.hostId);
  draft.update('host', host.id, { networkChangedAt: context.now });
  const names = input.portIds.map((id) => fleet.need('port', id).name).join(' + ') || 'no port';
  return {
    draft,
    title: `${found.name} of ${host.name} goes out by ${names}`,
    subjects: [{ kind: 'host', id: host.id, name: host.name }],
  };
};

function draftUplinks(
  fleet: Fleet,
  draft: Draft,
  switchId: string,
  portIds: readonly string[],
): void {
  const held = fleet.referring('uplink', 'switchId', switchId);
  for (const uplink of held)
    if (!portIds.includes(uplink.portId)) draft.remove('uplink', uplink.id);
  for (const portId of new Set(portIds))
    if (!held.some((uplink) => uplink.portId === portId))
      draft.create('uplink', { switchId, portId });
}
