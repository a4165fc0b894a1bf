/**
 * A topology that was mended after changes of guests is the one that would be built anew, and it is mended where that does. Rows
 * here are as few and as alike as chance needs to make trouble: two hosts, a network that one of them does not carry.
 */
import fc from 'fast-check';
import { expect, it, vi } from 'vitest';
import { Fleet, type Kind, type Patch } from '../record/index.js';
import { Tracks } from '../record/tracking.js';
import { READ, worldOf, type RecordTopology } from './record-topology.js';

const create = (kind: Kind, id: string, after: object) =>
  ({ op: 'create', kind, id, after }) as Patch;
const ROUTED = {
  ...{ forwards: false, gateway: null, gateway6: null, noGateway: false, gatewayOnLink: false },
  ...{ reversePath: 'unknown', hostModel: 'unknown' },
};

function begun(): Fleet {
  const fleet = new Fleet();
  const host = (id: string) => create('host', id, { ...ROUTED, name: id, state: 'in service' });
  const carries = (id: string, hostId: string, networkId: string) =>
    create('virtualSwitch', id, {
      ...{ hostId, networkId, mode: 'bridged', name: id, untagged: true, natUplinkId: null },
    });
  fleet.apply(
    [
      create('routingDomain', 'd', { name: 'all' }),
      ...['n1', 'n2'].map((id, i) =>
        create('network', id, { name: id, vlanId: i + 1, siteId: null }),
      ),
      ...['n1', 'n2'].map((networkId, i) =>
        create('subnet', `s-${networkId}`, {
          ...{ networkId, domainId: 'd', prefix: `192.0.${i}.0/24`, gateway: `192.0.${i}.254` },
        }),
      ),
      ...[host('h1'), host('h2'), carries('v1', 'h1', 'n1'), carries('v2', 'h1', 'n2')],
      carries('v3', 'h2', 'n1'),
    ],
    1,
  );
  return fleet;
}

const few = fc.integer({ min: 0, max: 5 });
const row = fc.oneof(
  fc.record({
    kind: fc.constant('guest' as const),
    n: few,
    after: fc.record({
      hostId: fc.constantFrom('h1', 'h2'),
      state: fc.constantFrom('in service', 'in service', 'stopped', 'retired'),
      purpose: fc.constantFrom('', 'post'),
    }),
  }),
  fc.record({
    kind: fc.constant('adapter' as const),
    n: few,
    after: fc.record({
      guestId: few.map((n) => `guest-${n}`),
      networkId: fc.constantFrom('n1', 'n1', 'n2', null),
      connected: fc.constantFrom(true, true, false),
    }),
  }),
  fc.record({
    kind: fc.constant('address' as const),
    n: few,
    after: fc.record({
      adapterId: few.map((n) => `adapter-${n}`),
      ip: fc.integer({ min: 1, max: 40 }).map((n) => `192.0.0.${n}`),
    }),
  }),
  fc.record({
    kind: fc.constant('route' as const),
    n: few,
    after: fc.record({
      guestId: few.map((n) => `guest-${n}`),
      via: fc.constantFrom('192.0.0.7', null),
    }),
  }),
  fc.record({
    kind: fc.constant('host' as const),
    n: fc.constant(0),
    after: fc.record({ state: fc.constantFrom('in service', 'maintenance', 'planned') }),
  }),
);

/** What a row is made with, and which rows it needs to be there. */
const WHOLE = {
  guest: [{ ...ROUTED, name: 'a guest' }, {}],
  adapter: [{ position: 0, trunkId: null, masquerade: false, masqueradeFrom: '', mac: null }, { guestId: 'guest' }],
  address: [
    {
      ...{ hostId: null, devicePortId: null, guestId: null, subnetId: 's-n1', domainId: 'd' },
      ...{ prefixLength: null, purpose: '', assigned: true },
    },
    { adapterId: 'adapter' },
  ],
  route: [{ hostId: null, deviceId: null, destination: '203.0.113.0/24', metric: null }, { guestId: 'guest' }],
  host: [{}, {}],
} as const; // prettier-ignore

/** As text: segments by who is on them. */
function said({ topology, ifaces }: RecordTopology): string {
  const segments = new Map<number | null, number>();
  const numbered = (segment: number | null) => {
    if (segment !== null && !segments.has(segment)) segments.set(segment, segments.size);
    return segment === null ? null : segments.get(segment);
  };
  return JSON.stringify(
    [...topology.machines.values()].map(({ ifaces: own, ...machine }) => [
      machine,
      own.map((iface) => ({
        ...iface,
        segment: numbered(iface.segment),
        info: { ...ifaces.get(iface), node: ifaces.get(iface)!.node === null },
        owners: iface.addresses.map((one) => topology.ownersOf(one).map(({ id }) => id)),
      })),
    ]),
    (_, part: unknown) => (typeof part === 'bigint' ? String(part) : part),
  );
}

it('is what it would be if it were built anew', () => {
  let [asked, mended] = [0, 0];
  fc.assert(
    fc.property(fc.array(row, { minLength: 5, maxLength: 40 }), (rows) => {
      const fleet = begun();
      let before = worldOf(fleet);
      for (const { kind, n, after } of rows) {
        const id = kind === 'host' ? 'h2' : `${kind}-${n}`;
        const [whole, needs] = WHOLE[kind];
        const there = fleet.get(kind, id);
        const lacks = Object.entries(needs).some(
          ([field, of]) => !fleet.get(of as Kind, (after as Record<string, string>)[field]!),
        );
        if (lacks) continue;
        const patch = there
          ? ({ op: 'update', kind, id, seen: 1, before: {}, after } as Patch)
          : create(kind, id, { ...whole, ...after });
        fleet.apply([patch], fleet.revision + 1);
        const now = worldOf(fleet);
        asked += 1;
        mended += Number(now.ifaces === before.ifaces);
        before = now;
        const anew = begun();
        for (const each of ['host', 'guest', 'adapter', 'address', 'route'] as const)
          for (const one of fleet.all(each)) anew.load(each, one as never);
        expect(said(now)).toBe(said(worldOf(anew)));
      }
    }),
    { numRuns: 300 },
  );
  expect(mended / asked).toBeGreaterThan(0.3);
});

it('is built from no kind but those that it says it reads', () => {
  const seen = new Set<string>();
  const noted = vi.spyOn(Tracks.prototype, 'table').mockImplementation((kind) => seen.add(kind));
  worldOf(begun());
  noted.mockRestore();
  expect([...seen].filter((kind) => !READ.includes(kind as Kind))).toEqual([]);
});
