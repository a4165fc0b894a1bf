import { address as ip, addresses, choice, flag, initially, integer, name, optional, prefix, ref, text } from '../field.js';
import { described } from './described.js';

/** Inside one routing domain an address means one machine. */
export const routingDomain = { fields: { name: name(), ...described } };

/** A broadcast domain. */
export const network = {
  fields: {
    name: name(),
    purpose: text(),
    vlanId: optional(integer(1, 4094)),
    mtu: initially(integer(68, 65535), 1500),
    siteId: optional(ref('site')),
    ...described,
  },
};

export const subnet = {
  owner: 'networkId',
  fields: {
    networkId: ref('network'),
    domainId: ref('routingDomain'),
    prefix: prefix(),
    gateway: optional(ip()),
    nameServers: addresses(),
  },
} as const;

/** Addresses of a subnet that are not given out one by one. */
export const range = {
  owner: 'subnetId',
  fields: { subnetId: ref('subnet'), use: choice('dynamic', 'reserved'), firstIp: ip(), lastIp: ip(), purpose: text() },
} as const;

/** An address and the machine that carries it: a host, or a guest's adapter. */
export const address = {
  owner: 'adapterId',
  fields: {
    domainId: ref('routingDomain'),
    subnetId: optional(ref('subnet')),
    ip: ip(),
    /** True: given out by Insel and unique in its domain. False: found configured, possibly wrong. */
    assigned: flag(),
    use: choice('static', 'reservation', 'shared', 'lease'),
    /** Prefix length as configured on the machine, where it was looked at. */
    prefixLength: optional(integer(0, 128)),
    purpose: text(),
    hostId: optional(ref('host')),
    adapterId: optional(ref('adapter')),
  },
} as const;
