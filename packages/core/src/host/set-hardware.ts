import { change, draftOf, noSuch, part, ref, type DeciderOf } from '../record/index.js';
import { draftHardware } from './draft-hardware.js';
import { hardwareInput } from './host-input.js';

/** The parts of a host, by whole lists. */
export const setHardware = change({
  type: 'host.set-hardware',
  title: 'Record the hardware',
  alters: ['hostId'],
  input: { hostId: ref('host'), hardware: part(hardwareInput) },
});

export const decideSetHardware: DeciderOf<typeof setHardware> = (
  fleet,
  { hostId, hardware },
  context,
) => {
  const host = fleet.get('host', hostId);
  if (!host) return noSuch('host');
  const draft = draftOf(fleet, context);
  const fault = draftHardware(fleet, draft, host.id, hardware);
  if (fault) return fault;
  return {
    draft,
    title: `recorded the hardware of ${host.name}: ${Object.keys(hardware).join(', ')}`,
    subjects: [{ kind: 'host', id: host.id, name: host.name }],
  };
};
