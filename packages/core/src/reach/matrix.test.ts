import fc from 'fast-check';
import { expect, it } from 'vitest';
import { addressOf, prefixOf } from '../address/index.js';
import { cellAt, matrix, MOST_CLASSES, ping, Topology, type Iface, type Machine } from './index.js';

const machine = (
  id: string,
  segment: number,
  ip: string,
  length: number,
  more: Partial<Machine> & { up?: boolean } = {},
): Machine => {
  const { up = true, ...fields } = more;
  const iface: Iface = {
    id: `${id}.0`,
    name: 'e0',
    node: segment,
    up,
    masquerade: false,
    side: 'plain',
    addresses: [{ ...addressOf(ip), length }],
  };
  return {
    id,
    name: id,
    on: true,
    forwarding: 'none',
    routes: [],
    gateway: { 4: addressOf(`10.7.${segment}.1`), 6: null },
    onLink: false,
    ifaces: [iface],
    ...fields,
  };
};

/** Three segments, a router that is sometimes missing or does not forward, prefixes and gateways that are sometimes wrong. */
const place = fc
  .record({
    members: fc.array(
      fc.record({
        segment: fc.integer({ min: 1, max: 3 }),
        host: fc.integer({ min: 2, max: 9 }),
        length: fc.constantFrom(24, 24, 24, 16, 29),
        on: fc.boolean(),
        up: fc.boolean(),
        gateway: fc.constantFrom(1, 1, 1, 2, 0),
      }),
      { minLength: 2, maxLength: 10 },
    ),
    router: fc.record({
      sides: fc.subarray([1, 2, 3], { minLength: 1 }),
      forwards: fc.boolean(),
      masquerade: fc.boolean(),
    }),
    route: fc.boolean(),
  })
  .map(({ members, router, route }) => {
    const machines = members.map(({ segment, host, length, on, up, gateway }, i) =>
      machine(`m${i}`, segment, `10.7.${segment}.${host}`, length, {
        on: on || i === 0,
        up: up || i < 2,
        gateway: { 4: gateway === 0 ? null : addressOf(`10.7.${segment}.${gateway}`), 6: null },
      }),
    );
    const ifaces = router.sides.map((segment): Iface => ({
      id: `r.${segment}`,
      name: `e${segment}`,
      node: segment,
      up: true,
      masquerade: router.masquerade && segment === 2,
      side: 'plain',
      addresses: [{ ...addressOf(`10.7.${segment}.1`), length: 24 }],
    }));
    const gate: Machine = {
      id: 'r',
      name: 'r',
      on: true,
      forwarding: router.forwards ? 'all' : 'none',
      routes: route ? [{ to: prefixOf('10.7.3.0/28'), via: addressOf('10.7.1.5') }] : [],
      gateway: { 4: null, 6: null },
      onLink: false,
      ifaces,
    };
    return [...machines, gate];
  });

it('classes answer as every pair alone does', () => {
  fc.assert(
    fc.property(place, (machines) => {
      const topology = new Topology(machines);
      const address = (one: Machine) => one.ifaces[0]!.addresses[0]!;
      const found = matrix(topology, machines, address)!;
      machines.forEach((from, i) =>
        machines.forEach((to, j) => {
          if (i !== j)
            expect(`${from.id}→${to.id} ${cellAt(found, i, j).verdict}`).toBe(
              `${from.id}→${to.id} ${ping(topology, from, address(to), to).verdict}`,
            );
        }),
      );
    }),
    { numRuns: 300 },
  );
});

it('machines that nothing tells apart are asked for once', () => {
  const machines = Array.from({ length: 120 }, (_, i) =>
    machine(`m${i}`, (i % 2) + 1, `10.7.${(i % 2) + 1}.${10 + i}`, 24),
  );
  const found = matrix(new Topology(machines), machines, (one) => one.ifaces[0]!.addresses[0]!)!;
  expect([found.cells.length, found.simulated]).toEqual([2, 4]);
  expect([cellAt(found, 0, 2).verdict, cellAt(found, 0, 1).verdict]).toEqual(['yes', 'no']);
});

it('a second interface without an address, and a second family, make no class of their own', () => {
  const machines = Array.from({ length: 60 }, (_, i) => {
    const one = machine(`m${i}`, 1, `10.7.1.${10 + i}`, 24);
    one.ifaces[0]!.addresses.push({
      ...addressOf(`2001:db8::${(10 + i).toString(16)}`),
      length: 64,
    });
    one.ifaces.push({
      id: `m${i}.1`,
      name: 'e1',
      node: 2,
      up: true,
      masquerade: false,
      side: 'plain',
      addresses: [],
    });
    return one;
  });
  expect(
    matrix(new Topology(machines), machines, (one) => one.ifaces[0]!.addresses[0]!)!.cells,
  ).toHaveLength(1);
});

it('a group that falls into too many classes is not worked out', () => {
  const machines = Array.from({ length: MOST_CLASSES + 1 }, (_, i) =>
    machine(`m${i}`, i % 200, '10.7.1.9', 24),
  );
  expect(
    matrix(new Topology(machines), machines, (one) => one.ifaces[0]!.addresses[0]!),
  ).toBeNull();
});
