import {
  address as ip,
  addresses,
  choice,
  flag,
  initially,
  integer,
  name,
  optional,
  prefix,
  ref,
  since,
  text,
} from '../field.js';
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
    /** Machines of people one does not know are on it. */
    untrusted: flag(),
    ...described,
  },
};

/** One more site that a network reaches, beside its own. */
export const networkSite = {
  owner: 'networkId',
  fields: { networkId: ref('network'), siteId: ref('site') },
} as const;

export const ADDRESS_POLICIES = ['lowest', 'after last', 'random'] as const;

export const subnet = {
  owner: 'networkId',
  fields: {
    networkId: ref('network'),
    domainId: ref('routingDomain'),
    prefix: prefix(),
    gateway: optional(ip()),
    nameServers: addresses(),
    /** Domain of the names of its machines, and where they look names up. */
    domain: text(253),
    /** Which free address comes next. */
    policy: initially(choice(...ADDRESS_POLICIES), 'lowest'),
    /** Days that a released address rests before it is given out again. */
    quarantineDays: initially(integer(0, 365), 0),
    /** So many of its first addresses are offered last: kept for what holds the network together. */
    lowKept: since(8, initially(integer(0, 4096), 0)),
  },
} as const;

/** Addresses of a subnet set apart: handed out by a server, kept free, or the ones that single addresses are taken from. */
export const range = {
  owner: 'subnetId',
  fields: {
    subnetId: ref('subnet'),
    use: choice('dynamic', 'reserved', 'static'),
    firstIp: ip(),
    lastIp: ip(),
    purpose: text(),
  },
} as const;

/** An address and the machine that carries it: a host, a guest's adapter, or a port of a device. */
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
    devicePortId: optional(ref('devicePort')),
    /** For a host: the virtual switch it sits on, where that is not the one of its subnet's network. */
    virtualSwitchId: optional(ref('virtualSwitch')),
  },
} as const;
