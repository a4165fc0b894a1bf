import {
  beginning,
  change,
  draftOf,
  fieldsOf,
  list,
  tidy,
  without,
  type DeciderOf,
} from '../record/index.js';
import { devicePortInput, draftDevicePorts } from './draft-device-ports.js';

const device = fieldsOf('device');
/** Its name is only found, never given out. */
const deviceFields = without(device, 'nameAssigned', 'confirmedAt', 'confirmedBy');

/** A device with its ports and the addresses found on them. */
export const recordDevice = change({
  type: 'device.record',
  title: 'Record equipment',
  input: { ...beginning(device, ...deviceFields), ports: list(devicePortInput, 64) },
});

export const decideRecordDevice: DeciderOf<typeof recordDevice> = (
  fleet,
  { ports, ...fields },
  context,
) => {
  const draft = draftOf(fleet, context);
  const name = fields.name.trim();
  const id = draft.create('device', { ...tidy('device', fields), name });
  const fault = draftDevicePorts(fleet, draft, id, ports);
  if (fault) return fault;
  return {
    draft,
    title: `recorded ${fields.kind} ${name}`,
    subjects: [{ kind: 'device', id, name }],
  };
};
