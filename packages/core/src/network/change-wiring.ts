/** Physical switches and devices by their lists of ports: a list that is given replaces the one recorded, known by name. */
import { giveAddress } from './give-address.js';
import { formatVlans, parseVlans } from '../quantity/index.js';
import {
  draftOf,
  editFields,
  isRefusal,
  noSuch,
  refuse,
  tidy,
  type ChangeBase,
  type Decider,
  type Draft,
  type Fleet,
  type NewFields,
  type Refusal,
  type Subject,
  type Values,
} from '../record/index.js';

export type SwitchPortInput = Omit<NewFields<'switchPort'>, 'physicalSwitchId'> & { name: string };

/** Records the ports of a physical switch as a list. */
export interface SetSwitchPorts extends ChangeBase {
  type: 'physical-switch.set-ports';
  id: string;
  ports: SwitchPortInput[];
}

export const setSwitchPorts: Decider<SetSwitchPorts> = (fleet, change, edge) => {
  const found = fleet.get('physicalSwitch', change.id);
  if (!found) return noSuch('physicalSwitch');
  const twice = nameTwiceIn(change.ports);
  if (twice) return twice;
  const draft = draftOf(fleet, edge);
  const held = new Map(
    fleet.referring('switchPort', 'physicalSwitchId', found.id).map((port) => [port.name, port]),
  );
  for (const [i, port] of change.ports.entries()) {
    const vlans = parseVlans(port.taggedVlans ?? '');
    if (!vlans.ok)
      return refuse({
        code: 'bad-vlans',
        field: `ports.${i}.taggedVlans`,
        sentence: vlans.sentence,
      });
    const fields = { ...tidy('switchPort', port as Values), taggedVlans: formatVlans(vlans.value) };
    const row = held.get(port.name.trim());
    held.delete(port.name.trim());
    if (row) draft.update('switchPort', row.id, fields);
    else draft.create('switchPort', { ...fields, physicalSwitchId: found.id });
  }
  for (const port of held.values()) draft.remove('switchPort', port.id);
  return {
    draft,
    title: `recorded ${change.ports.length} ports of ${found.name}`,
    subjects: [{ kind: 'physicalSwitch', id: found.id, name: found.name }],
  };
};

/** Edits ports of physical switches alike; `addVlans` are carried with a tag beside those they carry already. */
export interface EditSwitchPorts extends ChangeBase {
  type: 'switch-port.edit';
  ids: string[];
  fields: Values;
  addVlans?: number[];
}

export const editSwitchPorts: Decider<EditSwitchPorts> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const subjects = new Map<string, Subject>();
  const names: string[] = [];
  for (const id of new Set(change.ids)) {
    const held = fleet.get('switchPort', id);
    if (!held) return noSuch('switchPort');
    const vlans = parseVlans(String(change.fields.taggedVlans ?? held.taggedVlans));
    if (!vlans.ok)
      return refuse({ code: 'bad-vlans', field: 'taggedVlans', sentence: vlans.sentence });
    const fields = {
      ...change.fields,
      taggedVlans: formatVlans([...vlans.value, ...(change.addVlans ?? [])]),
    };
    const port = editFields(fleet, draft, 'switchPort', id, fields, [
      'untaggedVlan',
      'taggedVlans',
      'up',
      'purpose',
      'bitsPerSecond',
    ]);
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

export type DevicePortInput = Omit<NewFields<'devicePort'>, 'deviceId'> & {
  name: string;
  addresses?: { ip: string; prefixLength?: number | null }[];
};

/** Records the ports of a device as a list, with the addresses found on them. */
export interface SetDevicePorts extends ChangeBase {
  type: 'device.set-ports';
  id: string;
  ports: DevicePortInput[];
}

export const setDevicePorts: Decider<SetDevicePorts> = (fleet, change, edge) => {
  const device = fleet.get('device', change.id);
  if (!device) return noSuch('device');
  const draft = draftOf(fleet, edge);
  const fault = draftDevicePorts(fleet, draft, device.id, change.ports);
  if (fault) return fault;
  return {
    draft,
    title: `recorded ${change.ports.length} ports of ${device.name}`,
    subjects: [{ kind: 'device', id: device.id, name: device.name }],
  };
};

/** Records a device with its ports and the addresses found on them. */
export interface RecordDevice extends ChangeBase {
  type: 'device.record';
  fields: NewFields<'device'>;
  ports: DevicePortInput[];
}

export const recordDevice: Decider<RecordDevice> = (fleet, change, edge) => {
  const draft = draftOf(fleet, edge);
  const name = String(change.fields.name ?? '').trim();
  const id = draft.create('device', { ...tidy('device', change.fields as Values), name });
  const fault = draftDevicePorts(fleet, draft, id, change.ports);
  if (fault) return fault;
  return {
    draft,
    title: `recorded ${change.fields.kind} ${name}`,
    subjects: [{ kind: 'device', id, name }],
  };
};

function draftDevicePorts(
  fleet: Fleet,
  draft: Draft,
  deviceId: string,
  ports: readonly DevicePortInput[],
): Refusal | undefined {
  const twice = nameTwiceIn(ports);
  if (twice) return twice;
  const held = new Map(
    (fleet.get('device', deviceId) ? fleet.referring('devicePort', 'deviceId', deviceId) : []).map(
      (port) => [port.name, port],
    ),
  );
  for (const [i, { addresses, ...port }] of ports.entries()) {
    const fields = tidy('devicePort', port as Values);
    const row = held.get(port.name.trim());
    held.delete(port.name.trim());
    if (row) draft.update('devicePort', row.id, fields);
    const devicePortId = row?.id ?? draft.create('devicePort', { ...fields, deviceId });
    if (addresses === undefined) continue;
    const fault = replaceAddresses(
      fleet,
      draft,
      devicePortId,
      (fields.networkId as string | null) ?? null,
      addresses,
      `ports.${i}.addresses`,
      Boolean(row),
    );
    if (fault) return fault;
  }
  for (const port of held.values()) {
    for (const address of fleet.referring('address', 'devicePortId', port.id))
      draft.remove('address', address.id);
    draft.remove('devicePort', port.id);
  }
  return undefined;
}

function replaceAddresses(
  fleet: Fleet,
  draft: Draft,
  devicePortId: string,
  networkId: string | null,
  wanted: readonly { ip: string; prefixLength?: number | null }[],
  field: string,
  recorded: boolean,
): Refusal | undefined {
  const held = recorded ? fleet.referring('address', 'devicePortId', devicePortId) : [];
  const kept = new Set<string>();
  for (const [i, { ip, prefixLength }] of wanted.entries()) {
    const same = held.find((address) => address.ip === ip.trim());
    if (same) {
      kept.add(same.id);
      draft.update('address', same.id, { prefixLength: prefixLength ?? null });
      continue;
    }
    const given = giveAddress(fleet, draft, {
      holder: { devicePortId },
      networkId,
      ip,
      assigned: false,
      prefixLength: prefixLength ?? undefined,
      field: `${field}.${i}.ip`,
    });
    if (isRefusal(given)) return given;
  }
  for (const address of held) if (!kept.has(address.id)) draft.remove('address', address.id);
  return undefined;
}

function nameTwiceIn(ports: readonly { name: string }[]): Refusal | undefined {
  const seen = new Set<string>();
  for (const [i, { name }] of ports.entries()) {
    const key = name.trim();
    if (seen.has(key))
      return refuse({
        code: 'twice',
        field: `ports.${i}.name`,
        sentence: `The port ${key} stands here twice.`,
      });
    seen.add(key);
  }
  return undefined;
}
