/** The ports of a device as a list, with the addresses found on them; a list that is given replaces the one recorded. */
import {
  beginning,
  fieldsOf,
  isRefusal,
  list,
  omittable,
  tidy,
  without,
  type Draft,
  type Fleet,
  type InputOf,
  type Refusal,
} from '../record/index.js';
import { giveAddress } from './give-address.js';
import { nameTwiceIn } from './name-twice.js';

const devicePort = fieldsOf('devicePort');

export const devicePortInput = {
  ...beginning(devicePort, ...without(devicePort, 'deviceId')),
  addresses: omittable(list(beginning(fieldsOf('address'), 'ip', 'prefixLength'), 32)),
};
export type DevicePortInput = InputOf<typeof devicePortInput>;

export function draftDevicePorts(
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
    const fields = tidy('devicePort', port);
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
