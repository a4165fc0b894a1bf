import { counted, formatVlans, parseVlans } from '../quantity/index.js';
import {
  beginning,
  change,
  draftOf,
  fieldsOf,
  list,
  noSuch,
  ref,
  refuse,
  tidy,
  without,
  type DeciderOf,
} from '../record/index.js';
import { nameTwiceIn } from './name-twice.js';

const switchPort = fieldsOf('switchPort');

/** The ports of a physical switch, by a whole list: one that is given replaces the one recorded, known by name. */
export const setSwitchPorts = change({
  type: 'physical-switch.set-ports',
  title: 'Record the ports of the switch',
  alters: ['id'],
  input: {
    id: ref('physicalSwitch'),
    ports: list(beginning(switchPort, ...without(switchPort, 'physicalSwitchId')), 1024),
  },
});

export const decideSetSwitchPorts: DeciderOf<typeof setSwitchPorts> = (
  fleet,
  { id, ports },
  context,
) => {
  const found = fleet.get('physicalSwitch', id);
  if (!found) return noSuch('physicalSwitch');
  const twice = nameTwiceIn(ports);
  if (twice) return twice;
  const draft = draftOf(fleet, context);
  const held = new Map(
    fleet.referring('switchPort', 'physicalSwitchId', found.id).map((port) => [port.name, port]),
  );
  for (const [i, port] of ports.entries()) {
    const vlans = parseVlans(port.taggedVlans ?? '');
    if (!vlans.ok)
      return refuse({
        code: 'bad-vlans',
        field: `ports.${i}.taggedVlans`,
        sentence: vlans.sentence,
      });
    const fields = { ...tidy('switchPort', port), taggedVlans: formatVlans(vlans.value) };
    const row = held.get(port.name.trim());
    held.delete(port.name.trim());
    if (row) draft.update('switchPort', row.id, fields);
    else draft.create('switchPort', { ...fields, physicalSwitchId: found.id });
  }
  for (const port of held.values()) draft.remove('switchPort', port.id);
  return {
    draft,
    title: `recorded ${counted(ports.length, 'port')} of ${found.name}`,
    subjects: [{ kind: 'physicalSwitch', id: found.id, name: found.name }],
  };
};
