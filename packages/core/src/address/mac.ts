/**
 * MAC addresses as lower-case text with colons, as Linux prints them. Read in the usual notations: hyphens, colons,
 * groups of four with points, twelve digits. Bits of the first octet: 0x01 group, 0x02 locally administered
 * (IEEE Std 802, clause 8; restated in RFC 9542, section 2).
 */
import type { AddressResult } from './ip.js';

/** @example parseMac('02-00-5E-10-00-01') // '02:00:5e:10:00:01' */
export function parseMac(text: string): AddressResult<string> {
  const trimmed = text.trim().toLowerCase();
  const shape =
    /^([0-9a-f]{2}([:-])(?:[0-9a-f]{2}\2){4}[0-9a-f]{2}|[0-9a-f]{4}\.[0-9a-f]{4}\.[0-9a-f]{4}|[0-9a-f]{12})$/;
  if (!shape.test(trimmed)) {
    return {
      ok: false,
      sentence: `${text.trim() || 'Nothing'}: a MAC address is twelve hexadecimal digits, such as 02:00:5e:10:00:01.`,
    };
  }
  const digits = trimmed.replace(/[^0-9a-f]/g, '');
  return { ok: true, value: digits.match(/../g)!.join(':') };
}

/** Why a guest's adapter cannot carry this MAC, or undefined if it can. */
export function macComplaint(mac: string): string | undefined {
  const first = parseInt(mac.slice(0, 2), 16);
  if (mac === 'ff:ff:ff:ff:ff:ff') return `${mac} is the broadcast address.`;
  if (mac === '00:00:00:00:00:00') return `${mac} is the null address.`;
  if (first & 1)
    return `${mac} is a group address (its second digit is odd): no adapter carries one.`;
  if (mac.startsWith('00:00:5e:00:01:'))
    return `${mac} belongs to a virtual router (RFC 9568, section 7.3).`;
  return undefined;
}

/** Octets every generated MAC begins with, where a site has no block of its own: locally administered, free use (IEEE Std 802c). */
export const MAC_BLOCK = '02';

/**
 * Reads the fixed first octets of a block, one to four of them, such as "02:1f:0a".
 *
 * @returns lower case with colons
 */
export function parseMacBlock(text: string): AddressResult<string> {
  const digits = text.trim().toLowerCase().replace(/[:.-]/g, '');
  if (!/^([0-9a-f]{2}){1,4}$/.test(digits))
    return {
      ok: false,
      sentence: `${text.trim() || 'Nothing'}: write one to four octets, such as 02:1f:0a.`,
    };
  const block = digits.match(/../g)!.join(':');
  const first = parseInt(digits.slice(0, 2), 16);
  if (first & 1)
    return {
      ok: false,
      sentence: `${block} is a block of group addresses: no adapter carries one.`,
    };
  if (!(first & 2)) {
    const local = `${(first | 2).toString(16).padStart(2, '0')}${block.slice(2)}`;
    return {
      ok: false,
      sentence: `${block} is not locally administered: such addresses are given out by makers of hardware.`,
      suggestion: local,
    };
  }
  return { ok: true, value: block };
}

/**
 * Makes a unicast MAC that begins with a block, drawn again until it is not taken, so that the chance of a repetition inside
 * one record is 0.
 *
 * @param randomByte gives 0 … 255
 * @param block fixed first octets
 */
export function generateMac(
  taken: (mac: string) => boolean,
  randomByte: () => number,
  block = MAC_BLOCK,
): string {
  const fixed = block.split(':');
  for (let draws = 0; draws < 1000; draws += 1) {
    const octets = [
      ...fixed,
      ...Array.from({ length: 6 - fixed.length }, () => randomByte().toString(16).padStart(2, '0')),
    ];
    const mac = octets.join(':');
    if (!taken(mac)) return mac;
  }
  throw new Error(
    'a thousand draws gave no free MAC address: the block is full or the random source is broken',
  );
}

/** A MAC in the usual notations: colons, hyphens (IEEE Std 802), groups of four, bare digits. */
export function macNotations(mac: string): string[] {
  const bare = mac.replaceAll(':', '');
  return [mac, mac.replaceAll(':', '-').toUpperCase(), bare.match(/..../g)!.join('.'), bare];
}

/** What the bits of a MAC say about where it comes from (IEEE Std 802, clause 8; 802c for the quadrants). */
export function macOrigin(mac: string): string {
  const first = parseInt(mac.slice(0, 2), 16);
  if (first & 1) return 'group address';
  if (!(first & 2)) return 'given by a maker of hardware';
  return [
    'locally administered, free use',
    'locally administered, quadrant reserved',
    'locally administered, holds a company id',
    'locally administered, given by a protocol',
  ][[0, 4, 8, 12].indexOf(first & 12)]!;
}
