/** Machines that are neither host nor guest and have a place in the network: routers, printers, access points, computers. */
import {
  address as ip,
  choice,
  flag,
  initially,
  integer,
  mac,
  name,
  optional,
  prefix,
  ref,
  since,
  text,
  texts,
} from '../field.js';
import { blocks } from './blocks.js';
import { described } from './described.js';

export const DEVICE_KINDS = [
  'router',
  'firewall',
  'printer',
  'access point',
  'storage',
  'computer',
  'other',
] as const;
export const DEVICE_STATES = ['in service', 'off', 'retired'] as const;

/** How a machine finds its way beyond its own subnets, as configured on it. */
export const routing = {
  /** Null: nobody has looked; the gateway of its subnet is taken. */
  gateway: optional(ip()),
  gateway6: optional(ip()),
  /** It has no default gateway on purpose, whatever its subnet says. */
  noGateway: flag(),
  /** Its gateway lies outside its own subnets on purpose, as some providers require. */
  gatewayOnLink: flag(),
  /** It passes on packets that are not for itself. */
  forwards: flag(),
  /** Whether a packet is dropped whose source it would answer by another interface, or by none (RFC 3704). */
  reversePath: since(11, initially(choice('unknown', 'off', 'loose', 'strict'), 'unknown')),
  /** Weak: it answers for each of its addresses by any interface; strong: by the one that has it only (RFC 1122, section 3.3.4.2). */
  hostModel: since(11, initially(choice('unknown', 'weak', 'strong'), 'unknown')),
};

export const device = {
  fields: {
    name: name(),
    nameAssigned: flag(),
    kind: choice(...DEVICE_KINDS),
    state: initially(choice(...DEVICE_STATES), 'in service'),
    siteId: optional(ref('site')),
    model: text(),
    domain: text(253),
    /** What was said of it in a pasted list and could not be read, one fault each. */
    unread: texts(),
    ...routing,
    ...described,
  },
};

export const devicePort = {
  owner: 'deviceId',
  fields: {
    deviceId: ref('device'),
    name: name(),
    /** Null: joined to nothing, or leading outside. */
    networkId: optional(ref('network')),
    mac: optional(mac()),
    up: flag(true),
    /** Frames carry the network's VLAN tag. */
    tagged: flag(),
    /** Where its cable goes; null: not recorded. */
    switchPortId: optional(ref('switchPort')),
    /** It leads to the provider: beyond it is the outside. */
    outside: flag(),
    /** What is forwarded out here gets this port's address (source translation). */
    masquerade: flag(),
    purpose: text(),
    /** As negotiated, in bit/s; null: nobody has looked. */
    bitsPerSecond: since(12, optional(integer(1))),
    duplex: since(12, initially(choice('unknown', 'full', 'half'), 'unknown')),
    /** Only what comes from these blocks is translated; empty: whatever is forwarded out here. */
    masqueradeFrom: since(14, blocks()),
  },
} as const;

/** A static route of one machine. */
export const route = {
  fields: {
    hostId: optional(ref('host')),
    guestId: optional(ref('guest')),
    deviceId: optional(ref('device')),
    destination: prefix(),
    /** Null: what goes there is dropped on purpose. */
    via: optional(ip()),
    purpose: text(),
    /** Of two routes to one block the lower leads; null: what its system takes by itself. */
    metric: since(11, optional(integer(0, 4_294_967_295))),
  },
} as const;

/** What arrives at a port of one machine goes on to another behind it (destination translation; RFC 2663, section 4.1.2). */
export const forwardedPort = {
  fields: {
    hostId: optional(ref('host')),
    guestId: optional(ref('guest')),
    deviceId: optional(ref('device')),
    protocol: initially(choice('tcp', 'udp'), 'tcp'),
    port: integer(1, 65_535),
    /** Null: at any of its addresses. */
    atIp: optional(ip()),
    toIp: ip(),
    toPort: integer(1, 65_535),
    purpose: text(),
  },
} as const;
