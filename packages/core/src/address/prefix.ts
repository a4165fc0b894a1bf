/**
 * Address blocks: a network address and a prefix length (RFC 4632, section 3.1). A block with host bits set is an
 * interface, not a block, and is refused with the block it probably means.
 *
 * Which addresses of a block a machine may carry: all but the first and last for IPv4 up to /30 (RFC 1122, section
 * 3.2.1.3), both of a /31 (RFC 3021), the one of a /32; for IPv6 all but the first, the subnet-router anycast address
 * (RFC 4291, section 2.6.1), except /127 (RFC 6164) and /128.
 */
import {
  BITS,
  formatAddress,
  parseAddress,
  type Address,
  type AddressResult,
  type Family,
} from './ip.js';

export interface Prefix {
  family: Family;
  first: bigint;
  length: number;
}

/** @example parsePrefix('192.0.2.5/24') // refused, suggestion '192.0.2.0/24' */
export function parsePrefix(text: string): AddressResult<Prefix> {
  const match = /^\s*([^/\s]+)\/(\d{1,3})\s*$/.exec(text);
  if (!match)
    return {
      ok: false,
      sentence: `${text.trim() || 'Nothing'}: write a block as address/length, such as 192.0.2.0/24.`,
    };
  const address = parseAddress(match[1]!);
  if (!address.ok) return address;
  const length = Number(match[2]);
  const bits = BITS[address.value.family];
  if (length > bits || (match[2]!.length > 1 && match[2]!.startsWith('0'))) {
    return {
      ok: false,
      sentence: `/${match[2]}: a prefix length of IPv${address.value.family} is 0 to ${bits}.`,
    };
  }
  const prefix = containing(address.value, length);
  if (prefix.first !== address.value.value) {
    return {
      ok: false,
      sentence: `${text.trim()} has host bits set: the block is ${formatPrefix(prefix)}.`,
      suggestion: formatPrefix(prefix),
    };
  }
  return { ok: true, value: prefix };
}

/** The block of that length which contains the address. */
export function containing({ family, value }: Address, length: number): Prefix {
  const host = BigInt(BITS[family] - length);
  return { family, first: (value >> host) << host, length };
}

/** The block of a text that is known to be one. @throws Error if it is not */
export function prefixOf(text: string): Prefix {
  const parsed = parsePrefix(text);
  if (!parsed.ok) throw new Error(parsed.sentence);
  return parsed.value;
}

export function formatPrefix(prefix: Prefix): string {
  return `${formatAddress({ family: prefix.family, value: prefix.first })}/${prefix.length}`;
}

/** Number of addresses in the block: 2^(32 − length) or 2^(128 − length). */
export function total(prefix: Prefix): bigint {
  return 1n << BigInt(BITS[prefix.family] - prefix.length);
}

export function last(prefix: Prefix): bigint {
  return prefix.first + total(prefix) - 1n;
}

/** First and last address that a machine may carry. */
export function usable(prefix: Prefix): { first: bigint; last: bigint; count: bigint } {
  const host = BITS[prefix.family] - prefix.length;
  const lead = host <= 1 ? 0n : 1n;
  const trail = prefix.family === 4 && host > 1 ? 1n : 0n;
  const first = prefix.first + lead;
  const end = last(prefix) - trail;
  return { first, last: end, count: end - first + 1n };
}

/** IPv4 directed broadcast address; undefined for IPv6, /31 (RFC 3021) and /32. */
export function broadcast(prefix: Prefix): bigint | undefined {
  return prefix.family === 4 && prefix.length <= 30 ? last(prefix) : undefined;
}

/** Netmask in dotted decimal (IPv4 only). @throws RangeError for IPv6 */
export function netmask(prefix: Prefix): string {
  if (prefix.family !== 4) throw new RangeError('IPv6 has no dotted netmask');
  return formatAddress({ family: 4, value: (1n << 32n) - total(prefix) });
}

export function contains(prefix: Prefix, address: Address): boolean {
  return (
    address.family === prefix.family &&
    address.value >= prefix.first &&
    address.value <= last(prefix)
  );
}

/** Two blocks overlap if and only if one contains the other. */
export function overlap(a: Prefix, b: Prefix): boolean {
  return a.family === b.family && a.first <= last(b) && b.first <= last(a);
}

/** Smallest IPv4 prefix length whose usable addresses hold n machines. @throws RangeError if none does */
export function smallestLength(n: number): number {
  if (!Number.isInteger(n) || n < 1 || n > 2 ** 32 - 2)
    throw new RangeError(`no IPv4 block holds ${n} machines`);
  return 32 - (n + 1).toString(2).length;
}
