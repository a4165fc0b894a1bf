/** What frames pass between hosts: physical switches, their ports, the lines between them. Speeds in bit/s. */
import { flag, initially, integer, name, optional, ref, text } from '../field.js';
import { described } from './described.js';

export const physicalSwitch = {
  fields: {
    name: name(),
    siteId: optional(ref('site')),
    rackId: optional(ref('rack')),
    model: text(),
    /** Largest layer-3 packet that its ports pass. */
    mtu: initially(integer(68, 65535), 1500),
    ...described,
  },
};

export const switchPort = {
  owner: 'physicalSwitchId',
  fields: {
    physicalSwitchId: ref('physicalSwitch'),
    name: name(),
    bitsPerSecond: optional(integer(1)),
    /** VLAN that frames without a tag belong to; null: such frames are dropped. */
    untaggedVlan: optional(integer(1, 4094)),
    /** VLANs carried with a tag, such as "10-12,20" (IEEE 802.1Q ids). */
    taggedVlans: text(2000),
    up: flag(true),
    purpose: text(),
  },
} as const;

/** A cable or a path between two switch ports, within a site or between sites. */
export const switchLine = {
  fields: {
    name: name(),
    aPortId: ref('switchPort'),
    bPortId: ref('switchPort'),
    up: flag(true),
    ...described,
  },
};
