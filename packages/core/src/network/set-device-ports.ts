import { counted } from '../quantity/index.js';
import { change, draftOf, list, noSuch, ref, type DeciderOf } from '../record/index.js';
import { devicePortInput, draftDevicePorts } from './draft-device-ports.js';

/** The ports of a device, by a whole list, with the addresses found on them. */
export const setDevicePorts = change({
  type: 'device.set-ports',
  title: 'Record the ports of the device',
  alters: ['id'],
  input: { id: ref('device'), ports: list(devicePortInput, 64) },
});

export const decideSetDevicePorts: DeciderOf<typeof setDevicePorts> = (
  fleet,
  { id, ports },
  context,
) => {
  const device = fleet.get('device', id);
  if (!device) return noSuch('device');
  const draft = draftOf(fleet, context);
  const fault = draftDevicePorts(fleet, draft, device.id, ports);
  if (fault) return fault;
  return {
    draft,
    title: `recorded ${counted(ports.length, 'port')} of ${device.name}`,
    subjects: [{ kind: 'device', id: device.id, name: device.name }],
  };
};
