/**
 * MAC addresses as lower-case text with colons, as Linux prints them. Read in the usual notations: hyphens, colons,
 * groups of four with points, twelve digits. Bits of the first octet: 0x01 group, 0x02 locally administered
 * (IEEE Std 802, clause 8; restated in RFC 9542, section 2).
 */
import type { AddressResult } from './ip.js';

/** @example parseMac('02-00-5E-10-00-01') // '02:00:5e:10:00:01' */
export function parseMac(text: string): AddressResult<string> {
  const trimmed = text.trim().toLowerCase();
  const shape = /^([0-9a-f]{2}([:-])(?:[0-9a-f]{2}\2){4}[0-9a-f]{2}|[0-9a-f]{4}\.[0-9a-f]{4}\.[0-9a-f]{4}|[0-9a-f]{12})$/;
  if (!shape.test(trimmed)) {
    return { ok: false, sentence: `${text.trim() || 'Nothing'}: a MAC address is twelve hexadecimal digits, such as 02:00:5e:10:00:01.` };
  }
  const digits = trimmed.replace(/[^0-9a-f]/g, '');
  return { ok: true, value: digits.match(/../g)!.join(':') };
}

/** Why a guest's adapter cannot carry this MAC, or undefined if it can. */
export function macComplaint(mac: string): string | undefined {
  const first = parseInt(mac.slice(0, 2), 16);
  if (mac === 'ff:ff:ff:ff:ff:ff') return `${mac} is the broadcast address.`;
  if (mac === '00:00:00:00:00:00') return `${mac} is the null address.`;
  if (first & 1) return `${mac} is a group address (its second digit is odd): no adapter carries one.`;
  if (mac.startsWith('00:00:5e:00:01:')) return `${mac} belongs to a virtual router (RFC 9568, section 7.3).`;
  return undefined;
}

/**
 * Makes a unicast MAC in the administratively assigned quadrant (first octet 02, IEEE Std 802c), drawn again until it
 * is not taken, so that the chance of a repetition inside one record is 0.
 *
 * @param randomByte gives 0 … 255
 */
export function generateMac(taken: (mac: string) => boolean, randomByte: () => number): string {
  for (let draws = 0; draws < 1000; draws += 1) {
    const octets = [2, ...Array.from({ length: 5 }, () => randomByte())];
    const mac = octets.map((octet) => octet.toString(16).padStart(2, '0')).join(':');
    if (!taken(mac)) return mac;
  }
  throw new Error('a thousand draws gave no free MAC address: the random source is broken');
}
