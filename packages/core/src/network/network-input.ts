/** What is given of a network, a subnet, a range when it is recorded. */
import {
  beginning,
  fieldsOf,
  list,
  omittable,
  part,
  ref,
  refs,
  said,
  type InputOf,
} from '../record/index.js';

const subnet = fieldsOf('subnet');
const range = fieldsOf('range');

export const rangeInput = beginning(range, 'use', 'firstIp', 'lastIp', 'purpose');

export const subnetInput = {
  ...beginning(
    subnet,
    'prefix',
    'gateway',
    'nameServers',
    'domain',
    'policy',
    'quarantineDays',
    'lowKept',
  ),
  /** Routing domain; left out: the first one. */
  domainId: omittable(ref('routingDomain')),
  ranges: omittable(list(rangeInput, 64)),
};
export type SubnetInput = InputOf<typeof subnetInput>;

const ownFields = ['name', 'purpose', 'vlanId', 'mtu', 'siteId', 'untrusted'] as const;

export const networkInput = {
  ...beginning(fieldsOf('network'), ...ownFields),
  subnet: omittable(part(subnetInput)),
  /** Sites it reaches beside its own. */
  alsoAt: omittable(refs('site', 100)),
};
export type NetworkInput = InputOf<typeof networkInput>;

/** A network of a prefix plan: with its subnet. */
export const plannedNetworkInput = { ...networkInput, subnet: said(part(subnetInput)) };
