/** What must run before what: services, who provides them, and who needs whom to start. */
import { choice, name, optional, ref, text } from '../field.js';
import { described } from './described.js';

export const SERVICE_KINDS = [
  'names',
  'directory',
  'time',
  'storage',
  'backup',
  'management',
  'other',
] as const;

/** Something several machines can provide: whoever needs it can start once one of them runs. */
export const service = {
  fields: {
    name: name(),
    what: choice(...SERVICE_KINDS),
    /** Group of hosts that it manages or serves, if one. */
    hostGroupId: optional(ref('hostGroup')),
    ...described,
  },
};

/** A guest or a device that provides a service. */
export const provider = {
  owner: 'serviceId',
  fields: {
    serviceId: ref('service'),
    guestId: optional(ref('guest')),
    deviceId: optional(ref('device')),
  },
} as const;

/** That a host or guest cannot start its work before a service, or before one certain guest. */
export const dependency = {
  fields: {
    hostId: optional(ref('host')),
    guestId: optional(ref('guest')),
    serviceId: optional(ref('service')),
    onGuestId: optional(ref('guest')),
    purpose: text(),
  },
} as const;
