/**
 * Reverse names of addresses and the zones that hold them: in-addr.arpa (RFC 1035, section 3.5), ip6.arpa (RFC 3596,
 * section 2.5), and parts of a /24 delegated by aliases (RFC 2317). All names end in a point.
 */
import { BITS, formatAddress, type Address, type Family } from './ip.js';
import { last, type Prefix } from './prefix.js';

/** Bits that one label of a reverse name stands for. */
const STEP: Record<Family, number> = { 4: 8, 6: 4 };
const ROOT: Record<Family, string> = { 4: 'in-addr.arpa.', 6: 'ip6.arpa.' };

/** @example reverseName of 192.0.2.130 // '130.2.0.192.in-addr.arpa.' */
export function reverseName(address: Address): string {
  return `${labels(address, BITS[address.family]).join('.')}.${ROOT[address.family]}`;
}

function labels({ family, value }: Address, length: number): string[] {
  const step = STEP[family];
  const mask = (1n << BigInt(step)) - 1n;
  const found: string[] = [];
  for (let bits = length; bits > 0; bits -= step)
    found.push(((value >> BigInt(BITS[family] - bits)) & mask).toString(family === 4 ? 10 : 16));
  return found;
}

export interface ReverseZone {
  name: string;
  /** For a part of a /24: the zone that must hold the aliases, and where they point. */
  parent?: { name: string; label: string };
}

/**
 * Zones for a block: one where its length ends on a label, several where it does not, a child of the /24's zone where it
 * is longer than that (RFC 2317, label "first/length").
 */
export function reverseZones(block: Prefix): ReverseZone[] {
  const { family, length } = block;
  const step = STEP[family];
  if (family === 4 && length > 24) {
    const parent = zoneName({ family, value: block.first }, 24);
    const label = `${block.first & 255n}/${length}`;
    return [{ name: `${label}.${parent}`, parent: { name: parent, label } }];
  }
  const up = Math.min(BITS[family], Math.ceil(length / step) * step);
  const size = 1n << BigInt(BITS[family] - up);
  const zones: ReverseZone[] = [];
  for (let value = block.first; value <= last(block); value += size)
    zones.push({ name: zoneName({ family, value }, up) });
  return zones;
}

const zoneName = (address: Address, length: number): string =>
  [...labels(address, length), ROOT[address.family]].join('.');

/** The address of a reverse name, or undefined where it is none. Aliases of RFC 2317 are read, too. */
export function addressOfReverse(name: string): string | undefined {
  const lower = name.toLowerCase().replace(/\.?$/, '.');
  const four = /^((?:[^.]+\.)+)in-addr\.arpa\.$/.exec(lower);
  if (four) {
    const parts = four[1]!.split('.').filter(Boolean);
    const plain = parts.filter((part, i) => !(i === 1 && /[^0-9]/.test(part)));
    if (plain.length !== 4 || plain.some((part) => !/^\d{1,3}$/.test(part) || Number(part) > 255))
      return undefined;
    return plain.reverse().map(Number).join('.');
  }
  const six = /^((?:[0-9a-f]\.){32})ip6\.arpa\.$/.exec(lower);
  if (!six) return undefined;
  const value = six[1]!
    .split('.')
    .filter(Boolean)
    .reverse()
    .reduce((sum, nibble) => (sum << 4n) | BigInt(parseInt(nibble, 16)), 0n);
  return formatAddress({ family: 6, value });
}
