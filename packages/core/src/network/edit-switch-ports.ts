import { formatVlans, parseVlans } from '../quantity/index.js';
import {
  change,
  draftOf,
  editFields,
  fieldsOf,
  integers,
  isRefusal,
  noSuch,
  omittable,
  refs,
  refuse,
  some,
  type DeciderOf,
  type Subject,
} from '../record/index.js';

/** Ports of physical switches alike; `addVlans` are carried with a tag beside those they carry already. */
export const editSwitchPorts = change({
  type: 'switch-port.edit',
  title: 'Edit ports of switches',
  alters: ['ids'],
  input: {
    ids: refs('switchPort', 1024),
    ...some(
      fieldsOf('switchPort'),
      'untaggedVlan',
      'taggedVlans',
      'up',
      'purpose',
      'bitsPerSecond',
    ),
    addVlans: omittable(integers(1, 4094, 4094)),
  },
});

export const decideEditSwitchPorts: DeciderOf<typeof editSwitchPorts> = (
  fleet,
  { ids, addVlans = [], ...given },
  context,
) => {
  const draft = draftOf(fleet, context);
  const subjects = new Map<string, Subject>();
  const names: string[] = [];
  for (const id of new Set(ids)) {
    const held = fleet.get('switchPort', id);
    if (!held) return noSuch('switchPort');
    const vlans = parseVlans(given.taggedVlans ?? held.taggedVlans);
    if (!vlans.ok)
      return refuse({ code: 'bad-vlans', field: 'taggedVlans', sentence: vlans.sentence });
    const fields = {
      ...given,
      taggedVlans: formatVlans([...vlans.value, ...addVlans]),
    };
    const port = editFields(fleet, draft, 'switchPort', id, fields);
    if (isRefusal(port)) return port;
    const owner = fleet.need('physicalSwitch', port.physicalSwitchId);
    subjects.set(owner.id, { kind: 'physicalSwitch', id: owner.id, name: owner.name });
    names.push(`port ${port.name} of ${owner.name}`);
  }
  return {
    draft,
    title: `edited ${names.join(', ')}`.slice(0, 200),
    subjects: [...subjects.values()],
  };
};
