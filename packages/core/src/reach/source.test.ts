/** Which IPv6 address a machine sends from: RFC 6724, section 5, with the examples of its section 10.1 (from memory). */
import { describe, expect, it } from 'vitest';
import { addressOf, formatAddress } from '../address/index.js';
import type { Iface, Machine } from './machine.js';
import { sourceFor } from './source.js';

const iface = (name: string, ...ips: string[]): Iface => ({
  id: name,
  name,
  node: null,
  up: true,
  addresses: ips.map((ip) => ({ ...addressOf(ip), length: 64 })),
  masquerade: false,
  side: 'plain',
});
const machine = (...ifaces: Iface[]): Machine => ({
  id: 'm',
  name: 'm',
  on: true,
  forwarding: 'none',
  ifaces,
  routes: [],
  gateway: { 4: null, 6: null },
  onLink: false,
});
const from = (to: string, out: Iface, ...others: Iface[]): string => {
  const source = sourceFor(machine(...others, out), { iface: out, via: null }, addressOf(to));
  return source ? formatAddress(source) : 'none';
};

describe('the address that IPv6 is sent from', () => {
  it.each([
    ['2001:db8:1::1', ['2001:db8:3::1', 'fe80::1'], '2001:db8:3::1', 'appropriate scope'],
    ['2001:db8:1::1', ['2001:db8:1::1', '2001:db8:2::1'], '2001:db8:1::1', 'same address'],
    ['fe80::1', ['fe80::2', '2001:db8:1::1'], 'fe80::2', 'appropriate scope'],
    ['2001:db8:1::1', ['2001:db8:1::2', '2001:db8:3::2'], '2001:db8:1::2', 'longest prefix'],
    ['2002:c633:6401::1', ['2002:c633:6401::2', '2001:db8:1::2'], '2002:c633:6401::2', 'label'],
  ])('to %s of %j is %s: %s', (to, ips, wanted) => {
    expect(from(to, iface('a', ...ips))).toBe(wanted);
    expect(from(to, iface('a', ...ips.toReversed()))).toBe(wanted);
  });
  it('is one of the interface it leaves by, even if another has more in common with the destination (rule 5)', () => {
    const [near, far] = [iface('near', '2001:db8:1::2'), iface('far', '2001:db8:9::2')];
    expect(from('2001:db8:1::1', far, near)).toBe('2001:db8:9::2');
    expect(from('2001:db8:1::1', near, far)).toBe('2001:db8:1::2');
  });
  it('is none of an interface that is down', () =>
    expect(from('2001:db8:1::1', { ...iface('a', '2001:db8:1::2'), up: false })).toBe('none'));
});
