/**
 * IPv6 addresses made from others: the interface identifier of a MAC (modified EUI-64: RFC 4291, appendix A), the
 * link-local and the autoconfigured address with it (RFC 4862), and a random unique local prefix (RFC 4193).
 */
import { formatAddress, type Address, type AddressResult } from './ip.js';
import { parseMac } from './mac.js';
import { containing, formatPrefix, type Prefix } from './prefix.js';

/** @example interfaceId('34:56:78:9a:bc:de') // 0x3656_78ff_fe9a_bcdf-like: 36:56:78:ff:fe:9a:bc:de */
function interfaceId(mac: string): bigint {
  const octets = mac.split(':').map((octet) => parseInt(octet, 16));
  const eui = [
    octets[0]! ^ 0x02,
    octets[1]!,
    octets[2]!,
    0xff,
    0xfe,
    octets[3]!,
    octets[4]!,
    octets[5]!,
  ];
  return eui.reduce((sum, octet) => (sum << 8n) | BigInt(octet), 0n);
}

/** The address that stateless autoconfiguration makes from a /64 and a MAC. @throws RangeError unless it is an IPv6 /64 */
export function autoconfigured(prefix: Prefix, mac: string): Address {
  if (prefix.family !== 6 || prefix.length !== 64)
    throw new RangeError('autoconfiguration takes an IPv6 /64');
  return { family: 6, value: prefix.first | interfaceId(mac) };
}

const LINK_LOCAL = 0xfe80n << 112n;

/** The link-local address of an adapter, as text: fe80:: and its interface identifier. */
export function linkLocal(macText: string): AddressResult<string> {
  const mac = parseMac(macText);
  return mac.ok
    ? { ok: true, value: formatAddress({ family: 6, value: LINK_LOCAL | interfaceId(mac.value) }) }
    : mac;
}

/**
 * A unique local /48: fd, then 40 random bits (RFC 4193, section 3.1 and 3.2; from a cryptographic source, which its
 * section 3.2.2 only gives an example for).
 *
 * @param randomByte gives 0 … 255
 */
export function uniqueLocalPrefix(randomByte: () => number): string {
  const octets = [0xfd, ...Array.from({ length: 5 }, () => randomByte())];
  const high = octets.reduce((sum, octet) => (sum << 8n) | BigInt(octet), 0n);
  return formatPrefix(containing({ family: 6, value: high << 80n }, 48));
}
