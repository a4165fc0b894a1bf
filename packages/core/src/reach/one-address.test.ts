/** A machine with one address is read without keeping anything of it; it has, and broadcasts to, the same as one that is kept. */
import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { Address } from '../address/index.js';
import type { Iface, Machine } from './machine.js';
import { broadcastOf, ownIface } from './own-addresses.js';

const iface = (id: string, addresses: Iface['addresses'], up = true): Iface => ({
  ...{ id, name: id, node: 1, up, addresses, masquerade: false, side: 'plain' },
});
const machine = (ifaces: Iface[]): Machine => ({
  ...{ id: 'm', name: 'm', on: true, forwarding: 'none', ifaces, routes: [] },
  ...{ gateway: { 4: null, 6: null }, onLink: false },
});

it('as a machine with a second interface that has none', () => {
  const address = fc.oneof(
    fc.record({
      family: fc.constant(4 as const),
      value: fc.integer({ min: 0xc0000200, max: 0xc0000220 }).map(BigInt),
      length: fc.integer({ min: 26, max: 32 }),
    }),
    fc.record({
      family: fc.constant(6 as const),
      value: fc.integer({ min: 0, max: 16 }).map(BigInt),
      length: fc.integer({ min: 124, max: 128 }),
    }),
  );
  fc.assert(
    fc.property(address, address, fc.boolean(), fc.boolean(), (own, to, up, same) => {
      const asked: Address = same ? own : to;
      const first = iface('a', [own], up);
      const kept = machine([first, iface('b', [])]);
      const bare = machine([first]);
      expect(ownIface(bare, asked)).toBe(ownIface(kept, asked));
      expect(broadcastOf(bare, asked)).toEqual(broadcastOf(kept, asked));
    }),
    { numRuns: 3000 },
  );
});
