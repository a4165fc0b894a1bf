/**
 * Which of its own addresses a machine sends from. IPv4: the one that its subnet was configured with, towards a next hop the
 * first whose subnet holds it. IPv6: chosen for the destination by the rules of RFC 6724, section 5, as far as a record can know them (no
 * temporary, deprecated or home addresses); among equals the one configured last, as the Linux kernel does.
 */
import {
  BITS,
  containing,
  contains,
  prefixOf,
  type Address,
  type Prefix,
} from '../address/index.js';
import type { Iface, IfaceAddress, Machine } from './machine.js';

/** Labels of the default policy table, RFC 6724, section 2.1; the longest prefix counts. */
const LABELS: readonly (readonly [Prefix, number])[] = (
  [
    ['::1/128', 0],
    ['::ffff:0:0/96', 4],
    ['::/96', 3],
    ['2001::/32', 5],
    ['2002::/16', 2],
    ['3ffe::/16', 12],
    ['fec0::/10', 11],
    ['fc00::/7', 13],
    ['::/0', 1],
  ] as const
).map(([block, label]) => [prefixOf(block), label]);

const labelOf = (address: Address): number =>
  LABELS.find(([block]) => contains(block, address))![1];

const LINK_LOCAL = prefixOf('fe80::/10');
/** Link-local (RFC 4291, section 2.7) or global; unique local addresses are global in scope (RFC 4193, section 3.3). */
const scopeOf = (address: Address): number => (contains(LINK_LOCAL, address) ? 2 : 14);

/** Leading bits that both have in common, as far as the source's prefix goes. */
function commonBits(source: IfaceAddress, to: Address): number {
  const differing = (source.value ^ to.value).toString(2);
  const common = source.value === to.value ? BITS[6] : BITS[6] - differing.length;
  return Math.min(common, source.length);
}

interface Candidate {
  iface: Iface;
  address: IfaceAddress;
}

/** Below 0: the first is better for the destination. */
function compare(a: Candidate, b: Candidate, out: Iface, to: Address): number {
  const [same, other] = [a.address.value === to.value, b.address.value === to.value];
  if (same !== other) return same ? -1 : 1;
  const [scopeA, scopeB, wanted] = [scopeOf(a.address), scopeOf(b.address), scopeOf(to)];
  if (scopeA !== scopeB)
    return scopeA < scopeB ? (scopeA < wanted ? 1 : -1) : scopeB < wanted ? -1 : 1;
  if ((a.iface === out) !== (b.iface === out)) return a.iface === out ? -1 : 1;
  const label = labelOf(to);
  const [labelA, labelB] = [labelOf(a.address) === label, labelOf(b.address) === label];
  if (labelA !== labelB) return labelA ? -1 : 1;
  return commonBits(b.address, to) - commonBits(a.address, to);
}

/**
 * @param out interface that the packet leaves by
 * @param via next hop; null: the destination itself
 * @param source address that its route was made with, IPv4
 */
export function sourceFor(
  machine: Machine,
  { iface: out, via, source }: { iface: Iface; via: Address | null; source?: Address },
  to: Address,
): Address | undefined {
  if (to.family === 4) {
    if (source) return source;
    const mine = out.addresses.filter((address) => address.family === 4);
    const next = via ?? to;
    return mine.find((address) => contains(containing(address, address.length), next)) ?? mine[0];
  }
  const near = contains(LINK_LOCAL, to);
  let best: Candidate | undefined;
  for (const iface of near ? [out] : machine.ifaces) {
    if (!iface.up) continue;
    for (const address of [...iface.addresses].reverse()) {
      if (address.family !== 6) continue;
      const candidate = { iface, address };
      if (!best || compare(candidate, best, out, to) < 0) best = candidate;
    }
  }
  return best?.address;
}
