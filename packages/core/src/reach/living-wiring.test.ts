/**
 * A topology that was mended after a change is the one that would be built anew, and so is one that is laid over another. Rows here
 * are as few and as alike as chance needs to make trouble: two hosts, a network that one of them does not carry, six guests.
 */
import fc from 'fast-check';
import { expect, it, vi } from 'vitest';
import { Fleet, KIND_NAMES, type Kind, type Patch } from '../record/index.js';
import { Tracks } from '../record/tracking.js';
import { ifaceInfo } from './machine-parts.js';
import { READ, worldOf, type RecordTopology } from './record-topology.js';

const create = (kind: Kind, id: string, after: object) =>
  ({ op: 'create', kind, id, after }) as Patch;
const ROUTED = {
  ...{ forwards: false, gateway: null, gateway6: null, noGateway: false, gatewayOnLink: false },
  ...{ reversePath: 'unknown', hostModel: 'unknown' },
};

const NOBODYS = { adapterId: null, hostId: null, devicePortId: null, guestId: null };
/** What a row is made with, and which rows it needs to be there. */
const WHOLE: Partial<Record<Kind, [object, Record<string, Kind>]>> = {
  guest: [{ ...ROUTED, name: 'a guest' }, {}],
  adapter: [
    { position: 0, trunkId: null, masquerade: false, masqueradeFrom: '', mac: null },
    { guestId: 'guest' },
  ],
  address: [
    {
      ...NOBODYS,
      ...{ subnetId: 's-n1', domainId: 'd', prefixLength: null, purpose: '', assigned: true },
    },
    { adapterId: 'adapter' },
  ],
  route: [
    { hostId: null, deviceId: null, destination: '203.0.113.0/24', metric: null },
    { guestId: 'guest' },
  ],
  forwardedPort: [
    { ...NOBODYS, deviceId: null, protocol: 'tcp', port: 80, atIp: null, toPort: 80 },
    {},
  ],
  host: [{ ...ROUTED, platformId: 'f' }, {}],
};

/** Rows that are there from the beginning. */
function begun(): Fleet {
  const fleet = new Fleet();
  const host = (id: string) =>
    create('host', id, { ...ROUTED, name: id, state: 'in service', platformId: 'f' });
  const carries = (id: string, hostId: string, networkId: string, more = {}) =>
    create('virtualSwitch', id, {
      ...{ hostId, networkId, mode: 'bridged', name: id, untagged: false, natUplinkId: null },
      ...{ translation: 'as its platform', ...more },
    });
  const guest = (n: number, hostId: string, networkId: string) => [
    create('guest', `guest-${n}`, {
      ...{ ...WHOLE.guest![0], hostId, state: 'in service', purpose: '' },
    }),
    create('adapter', `adapter-${n}`, {
      ...{ ...WHOLE.adapter![0], guestId: `guest-${n}`, networkId, connected: true },
    }),
    create('address', `address-${n}`, {
      ...{ ...WHOLE.address![0], adapterId: `adapter-${n}`, ip: `192.0.0.${10 + n}` },
    }),
  ];
  fleet.apply(
    [
      create('routingDomain', 'd', { name: 'all' }),
      create('platform', 'f', { name: 'f', natShared: true }),
      ...['n1', 'n2'].map((id, i) =>
        create('network', id, { name: id, vlanId: i + 1, siteId: null }),
      ),
      ...['n1', 'n2'].map((networkId, i) =>
        create('subnet', `s-${networkId}`, {
          ...{ networkId, domainId: 'd', prefix: `192.0.${i}.0/24`, gateway: `192.0.${i}.254` },
        }),
      ),
      ...[host('h1'), host('h2'), carries('v1', 'h1', 'n1'), carries('v3', 'h2', 'n1')],
      // A port of the host leads to a guest that is alone behind a translation.
      carries('v2', 'h1', 'n2', { mode: 'NAT', translation: 'isolated' }),
      create('forwardedPort', 'f-h', {
        ...{ ...WHOLE.forwardedPort![0], hostId: 'h1', toIp: '192.0.0.12' },
      }),
      create('physicalSwitch', 'p', { name: 'p' }),
      create('switchPort', 'p1', {
        ...{ physicalSwitchId: 'p', name: '1', up: true, untaggedVlan: null, taggedVlans: '1-2' },
      }),
      create('port', 'o1', {
        ...{ hostId: 'h1', name: 'o1', wired: true, up: true, switchPortId: 'p1' },
      }),
      create('uplink', 'u1', { switchId: 'v1', portId: 'o1' }),
      create('device', 'g', { ...ROUTED, name: 'g', state: 'in service', forwards: true }),
      create('devicePort', 'g1', {
        ...{ deviceId: 'g', name: 'g1', networkId: 'n1', tagged: false, up: true, outside: false },
        ...{ switchPortId: null, masquerade: false, masqueradeFrom: '' },
      }),
      create('address', 'a-g1', {
        ...{ ...WHOLE.address![0], devicePortId: 'g1', ip: '192.0.0.254' },
      }),
      ...[...guest(1, 'h1', 'n1'), ...guest(2, 'h1', 'n2'), ...guest(3, 'h2', 'n1')],
    ],
    1,
  );
  return fleet;
}

const few = fc.integer({ min: 0, max: 5 });
const flag = fc.boolean();
const ip = fc.integer({ min: 1, max: 40 }).map((n) => `192.0.0.${n}`);
/** What becomes of a row, which is made if it was not there; null: it goes. */
const becomes = <K extends Kind>(
  kind: K,
  id: fc.Arbitrary<string>,
  after: Record<string, fc.Arbitrary<unknown>>,
  goes = false,
) =>
  fc.record({
    kind: fc.constant(kind),
    id,
    after: goes
      ? fc.option(fc.record(after), { freq: 5 })
      : (fc.record(after) as fc.Arbitrary<Record<string, unknown> | null>),
  });
const numbered = (kind: string) => few.map((n) => `${kind}-${n}`);
const hosts = fc.constantFrom('h1', 'h2');
const networks = fc.constantFrom('n1', 'n1', 'n2', null);

const ofGuests = fc.oneof(
  becomes('guest', numbered('guest'), {
    hostId: hosts,
    state: fc.constantFrom('in service', 'in service', 'stopped', 'retired'),
    purpose: fc.constantFrom('', 'post'),
  }),
  becomes('adapter', numbered('adapter'), {
    guestId: numbered('guest'),
    networkId: networks,
    connected: fc.constantFrom(true, true, false),
  }),
  becomes('address', numbered('address'), { adapterId: numbered('adapter'), ip }, true),
  becomes(
    'route',
    numbered('route'),
    { guestId: numbered('guest'), via: fc.constantFrom('192.0.0.7', null) },
    true,
  ),
);
const ofThePlace = fc.oneof(
  becomes('host', fc.constantFrom('h1', 'h2', 'h3'), {
    name: fc.constantFrom('one', 'other'),
    state: fc.constantFrom('in service', 'maintenance', 'planned', 'retired'),
    forwards: flag,
  }),
  becomes('virtualSwitch', fc.constantFrom('v1', 'v2', 'v3'), {
    networkId: networks,
    mode: fc.constantFrom('bridged', 'NAT', 'routed'),
    translation: fc.constantFrom('as its platform', 'isolated', 'shared'),
  }),
  becomes('platform', fc.constant('f'), { natShared: flag }),
  becomes('network', fc.constantFrom('n1', 'n2'), {
    name: fc.constantFrom('one', 'other'),
    vlanId: fc.constantFrom(1, 2, 3),
  }),
  becomes('subnet', fc.constantFrom('s-n1', 's-n2'), {
    gateway: fc.constantFrom('192.0.0.254', '192.0.0.1', null),
  }),
  becomes('port', fc.constant('o1'), { up: flag, wired: flag }),
  becomes('uplink', fc.constant('u1'), { switchId: fc.constantFrom('v1', 'v2') }),
  becomes('switchPort', fc.constant('p1'), { up: flag, taggedVlans: fc.constantFrom('1', '2') }),
  becomes('device', fc.constant('g'), {
    name: fc.constantFrom('g', 'gate'),
    state: fc.constantFrom('in service', 'retired'),
  }),
  becomes('devicePort', fc.constant('g1'), { up: flag, networkId: networks, outside: flag }),
  becomes('address', fc.constant('a-h'), { hostId: hosts, ip }),
  becomes('forwardedPort', fc.constant('f-h'), { hostId: hosts, toIp: ip }, true),
);
const rowsOf = fc.oneof({ weight: 3, arbitrary: ofGuests }, { weight: 2, arbitrary: ofThePlace });

/** Nothing where a row that it needs is not there. */
function patchesOf(
  fleet: Fleet,
  { kind, id, after }: { kind: Kind; id: string; after: Record<string, unknown> | null },
): Patch[] {
  const there = fleet.get(kind, id);
  if (!after) return there ? [{ op: 'delete', kind, id, seen: 1, before: there } as never] : [];
  const [whole, needs] = WHOLE[kind] ?? [{}, {}];
  const lacks = Object.entries(needs).some(
    ([field, of]) => typeof after[field] === 'string' && !fleet.get(of, after[field]),
  );
  if (lacks) return [];
  return [
    there
      ? ({ op: 'update', kind, id, seen: 1, before: {}, after } as Patch)
      : create(kind, id, { ...whole, ...after }),
  ];
}

/** The same rows, of which nothing was asked yet. */
function fresh(fleet: Fleet): Fleet {
  const anew = new Fleet();
  for (const kind of KIND_NAMES) for (const row of fleet.all(kind)) anew.load(kind, row as never);
  return anew;
}

/** As text: segments by who is on them. */
function said({ topology }: RecordTopology): string {
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
        node: numbered(topology.segmentOf(iface)),
        info: { ...ifaceInfo(iface), node: ifaceInfo(iface)!.node === null },
        owners: iface.addresses.map((one) => topology.ownersOf(one).map(({ id }) => id)),
      })),
    ]),
    (_, part: unknown) => (typeof part === 'bigint' ? String(part) : part),
  );
}

it('is what it would be if it were built anew, and so is what is laid over it', () => {
  let [asked, mended] = [0, 0];
  const steps = fc.array(fc.array(rowsOf, { minLength: 1, maxLength: 3 }), { maxLength: 15 });
  fc.assert(
    fc.property(steps, (groups) => {
      const fleet = begun();
      let before = worldOf(fleet);
      for (const group of groups) {
        const all: Patch[] = [];
        let would = fleet;
        for (const one of group) {
          const patches = patchesOf(would, one);
          would = would.overlay(patches);
          all.push(...patches);
          expect(said(worldOf(would))).toBe(said(worldOf(fresh(would))));
        }
        expect(said(worldOf(fleet))).toBe(said(before));
        fleet.apply(all, fleet.revision + 1);
        const now = worldOf(fleet);
        asked += 1;
        mended += Number(now.wiring.numbers === before.wiring.numbers);
        before = now;
        expect(said(now)).toBe(said(worldOf(fresh(fleet))));
      }
    }),
    { numRuns: 500 },
  );
  expect(mended).toBe(asked);
});

it('is built from no kind but those that it says it reads', () => {
  const seen = new Set<string>();
  const noted = vi.spyOn(Tracks.prototype, 'table').mockImplementation((kind) => seen.add(kind));
  worldOf(begun());
  noted.mockRestore();
  expect([...seen].filter((kind) => !READ.includes(kind as Kind))).toEqual([]);
});
