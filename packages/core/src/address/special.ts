/**
 * Special-purpose blocks with their meaning and source, most specific first where they nest. The living list is the IANA
 * special-purpose registries (RFC 6890, updated by RFC 8190); sections from memory of the texts.
 */
import type { Address } from './ip.js';
import { contains, prefixOf, type Prefix } from './prefix.js';

export type SpecialUse =
  | 'this network'
  | 'private'
  | 'shared'
  | 'loopback'
  | 'link-local'
  | 'protocol'
  | 'documentation'
  | 'benchmarking'
  | 'multicast'
  | 'reserved'
  | 'broadcast'
  | 'unspecified'
  | 'mapped'
  | 'translation'
  | 'discard'
  | 'unique local'
  | 'deprecated';

export interface SpecialBlock {
  block: Prefix;
  use: SpecialUse;
  source: string;
}

const ROWS: readonly [string, SpecialUse, string][] = [
  ['0.0.0.0/8', 'this network', 'RFC 6890'],
  ['10.0.0.0/8', 'private', 'RFC 1918, section 3'],
  ['172.16.0.0/12', 'private', 'RFC 1918, section 3'],
  ['192.168.0.0/16', 'private', 'RFC 1918, section 3'],
  ['100.64.0.0/10', 'shared', 'RFC 6598, section 7'],
  ['127.0.0.0/8', 'loopback', 'RFC 1122, section 3.2.1.3'],
  ['169.254.0.0/16', 'link-local', 'RFC 3927, section 2.1'],
  ['192.0.2.0/24', 'documentation', 'RFC 5737, section 3'],
  ['198.51.100.0/24', 'documentation', 'RFC 5737, section 3'],
  ['203.0.113.0/24', 'documentation', 'RFC 5737, section 3'],
  ['192.0.0.0/24', 'protocol', 'RFC 6890, section 2.1'],
  ['192.88.99.0/24', 'deprecated', 'RFC 7526'],
  ['198.18.0.0/15', 'benchmarking', 'RFC 2544'],
  ['224.0.0.0/4', 'multicast', 'RFC 5771'],
  ['255.255.255.255/32', 'broadcast', 'RFC 919, section 7'],
  ['240.0.0.0/4', 'reserved', 'RFC 1112, section 4'],
  ['::/128', 'unspecified', 'RFC 4291, section 2.5.2'],
  ['::1/128', 'loopback', 'RFC 4291, section 2.5.3'],
  ['::ffff:0.0.0.0/96', 'mapped', 'RFC 4291, section 2.5.5.2'],
  ['64:ff9b::/96', 'translation', 'RFC 6052'],
  ['64:ff9b:1::/48', 'translation', 'RFC 8215'],
  ['100::/64', 'discard', 'RFC 6666'],
  ['2001:db8::/32', 'documentation', 'RFC 3849'],
  ['3fff::/20', 'documentation', 'RFC 9637'],
  ['2001::/23', 'protocol', 'RFC 2928'],
  ['2002::/16', 'deprecated', 'RFC 7526'],
  ['fc00::/7', 'unique local', 'RFC 4193, section 3.1'],
  ['fe80::/10', 'link-local', 'RFC 4291, section 2.5.6'],
  ['ff00::/8', 'multicast', 'RFC 4291, section 2.7'],
];

const SPECIAL_BLOCKS: readonly SpecialBlock[] = ROWS.map(([text, use, source]) => ({
  block: prefixOf(text),
  use,
  source,
}));

/** What an address is set aside for, or undefined for an ordinary one. */
export function specialUse(address: Address): SpecialBlock | undefined {
  return SPECIAL_BLOCKS.find(({ block }) => contains(block, address));
}

/** Addresses that the routers of the internet carry nowhere. */
const INSIDE: ReadonlySet<SpecialUse> = new Set([
  'private',
  'shared',
  'link-local',
  'loopback',
  'unique local',
  'this network',
  'unspecified',
  'reserved',
  'broadcast',
  'discard',
]);

/** Whether a machine outside could have a route to it at all. Documentation blocks count as ordinary ones: they stand for them. */
export const routedOutside = (address: Address): boolean => {
  const special = specialUse(address);
  return !special || !INSIDE.has(special.use);
};
