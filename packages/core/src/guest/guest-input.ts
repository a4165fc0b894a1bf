/** What is given of a guest when it is planned or recorded. */
import {
  beginning,
  fieldsOf,
  list,
  omittable,
  oneOf,
  refs,
  text,
  tighter,
  type InputOf,
} from '../record/index.js';

const guest = fieldsOf('guest');
const volume = fieldsOf('volume');
const adapter = fieldsOf('adapter');

/** A label of a name in the DNS: RFC 1035, section 2.3.4. */
export const LONGEST_LABEL = 63;
export const guestName = tighter(
  guest.name,
  'a label of a name in the DNS has at most 63 letters',
  {
    max: LONGEST_LABEL,
  },
);

/** Next free address of the network, a chosen one, or none. */
export const addressChoice = oneOf({
  next: {},
  given: { ip: text(50) },
  none: {},
});

export const volumeInput = {
  ...beginning(volume, 'poolId', 'bytes', 'thin', 'bus', 'use', 'split'),
  label: omittable(volume.label),
};
export const adapterInput = {
  ...beginning(adapter, 'networkId', 'model', 'nameInside', 'masquerade', 'masqueradeFrom'),
  /** Left out: planning generates one, recording leaves it unknown. */
  mac: omittable(text(50)),
  address: addressChoice,
};

/** What is said of a guest when it is made, and altered later. */
export const SAID_OF_GUEST = [
  'hostId',
  'family',
  'purpose',
  'vcpu',
  'memoryMiB',
  'template',
  'heldWhenStopped',
  'processorMode',
  'nestedVirtualisation',
  'startSeconds',
  'stopSeconds',
  'domain',
  'gateway',
  'gateway6',
  'noGateway',
  'gatewayOnLink',
  'forwards',
  'reversePath',
  'hostModel',
  'profileId',
  'groupId',
  'firmware',
  'bootFirst',
  'graphics',
  'criticality',
  'outageWindow',
  'endDate',
  'notes',
  'labels',
  'owner',
] as const;

/** Of a guest to be made; its state follows from the change, or is said. */
export const guestInput = {
  name: guestName,
  ...beginning(guest, ...SAID_OF_GUEST),
  volumes: list(volumeInput, 64),
  adapters: list(adapterInput, 64),
  /** Install images put into its drives, connected at power-on. */
  mediumIds: omittable(refs('medium', 8)),
};
export type GuestInput = InputOf<typeof guestInput>;
export type AdapterInput = InputOf<typeof adapterInput>;
export type VolumeInput = InputOf<typeof volumeInput>;
