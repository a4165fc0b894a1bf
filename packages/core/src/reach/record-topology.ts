/** The record as a topology: every host, guest and device with what is configured on it, on the segments of the wiring. */
import {
  addressOf,
  BITS,
  containing,
  contains,
  last,
  prefixOf,
  routedOutside,
  type Family,
} from '../address/index.js';
import { OUT_OF_BAND } from '../host/management.js';
import { isolatesGuests } from '../host/translation.js';
import { blocksOf, type Altered, type Fleet, type Kind, type Row } from '../record/index.js';
import {
  byId,
  MachineParts,
  NOBODY_LOOKED,
  type IfaceInfo,
  type MachineInfo,
} from './machine-parts.js';
import { Topology, USUAL_HABITS, type Iface, type Machine, type Side } from './topology.js';
import { allPortsDown, nodeKeys } from './wire-record.js';
import type { WireEdge, Wiring } from './wiring.js';

/** Pseudo machine for everything beyond the ports that lead outside. */
export const OUTSIDE = 'outside';
/** Its own addresses: the dummy address of RFC 7600 and one of the discard block (RFC 6666), which no network uses. */
export const OUTSIDE_ADDRESS: Record<Family, string> = { 4: '192.0.0.8', 6: '100::8' };

export interface RecordTopology {
  topology: Topology;
  wiring: Wiring;
  ifaces: ReadonlyMap<Iface, IfaceInfo>;
  machines: ReadonlyMap<Machine, MachineInfo>;
  /** The same after guests have altered; null where that does not do, and all has to be built anew. */
  withGuests: (ids: ReadonlySet<string>) => RecordTopology | null;
}

/** Kept for each state of the record; after a change of guests alone these are built anew, and nothing else. */
export function worldOf(fleet: Fleet): RecordTopology {
  return fleet.whole(
    'reach',
    () => new Builder(fleet).build(),
    (before, altered) => {
      for (const kind of READ) fleet.all(kind);
      const ids = guestsIn(altered);
      return ids && before.withGuests(ids);
    },
  );
}

/** What it is built from. */
export const READ: readonly Kind[] = [
  ...(['host', 'guest', 'adapter', 'address', 'virtualSwitch', 'uplink', 'port'] as const),
  ...(['network', 'subnet', 'device', 'devicePort', 'route', 'forwardedPort'] as const),
  ...(['switchPort', 'physicalSwitch', 'switchLine', 'platform'] as const),
];
/** Of these, what a guest is made of where it is a part of one. */
const OF_GUESTS: ReadonlySet<Kind> = new Set([
  'guest',
  'adapter',
  'address',
  'route',
  'forwardedPort',
]);

/** The guests that were altered; null where something else was that it is built from. */
function guestsIn(altered: readonly Altered[]): Set<string> | null {
  const ids = new Set<string>();
  for (const { kind, id, before, after, roots } of altered) {
    if (!READ.includes(kind)) continue;
    if (!OF_GUESTS.has(kind)) return null;
    if (kind === 'guest') ids.add(id);
    else
      for (const row of [before, after])
        if (row && typeof row.guestId === 'string') ids.add(row.guestId);
        else if (row && typeof row.adapterId !== 'string') return null;
    for (const root of roots) ids.add(root);
  }
  return ids;
}

/** Edges between two interfaces with as few blocked ones as possible; null where nothing at all joins them. */
export function edgesBetween(
  { ifaces, wiring }: RecordTopology,
  from: Iface,
  to: Iface,
): WireEdge[] | null {
  const [a, b] = [ifaces.get(from), ifaces.get(to)];
  if (typeof a?.node !== 'number' || typeof b?.node !== 'number') return null;
  if (from === to) return [];
  const between = wiring.way(a.node, b.node);
  const cut = ({ node, blocked }: IfaceInfo): WireEdge[] =>
    blocked ? [{ a: node!, b: node!, label: '', blocked, hangsOn: [] }] : [];
  return between && [...cut(a), ...between, ...cut(b)];
}

const SIDES: Record<Row<'virtualSwitch'>['mode'], Side> = {
  bridged: 'uplink',
  NAT: 'nat',
  routed: 'routed',
  'host and guests': 'local',
  'guests only': 'local',
};

class Builder extends MachineParts {
  /** Segments of interfaces that are cut off from where they are joined: below zero. */
  private cutOff = 0;
  private lastGuestId = '';

  build(): RecordTopology {
    for (const host of this.fleet.all('host')) if (host.state !== 'retired') this.host(host);
    for (const device of this.fleet.all('device'))
      if (device.state !== 'retired') this.device(device);
    this.outside();
    // Last: one that comes later is added at the end.
    for (const guest of this.fleet.all('guest')) if (guest.state !== 'retired') this.guest(guest);
    // Only now is every node drawn: segments are counted once.
    for (const iface of this.ifaces.keys()) this.join(iface);
    return this.world(new Topology([...this.machines.keys()]));
  }

  private world(topology: Topology): RecordTopology {
    const { wiring, ifaces, machines } = this;
    const withGuests = (ids: ReadonlySet<string>) => {
      const mended = this.mend(topology, ids);
      return mended && this.world(mended);
    };
    return { topology, wiring, ifaces, machines, withGuests };
  }

  /** Cut off from its node an interface is on a segment of its own. */
  private join(iface: Iface): void {
    const { node, blocked } = this.ifaces.get(iface)!;
    iface.segment =
      node === null ? null : blocked ? (this.cutOff -= 1) : this.wiring.segmentOf(node);
  }

  /** Builds guests anew; null where others are not as they would be if all were built anew. */
  private mend(topology: Topology, ids: ReadonlySet<string>): Topology | null {
    const next: [string, Machine | undefined][] = [];
    for (const id of ids) {
      const held = topology.machines.get(id);
      const row = this.fleet.get('guest', id);
      const there = row !== undefined && row.state !== 'retired';
      // One that comes between others would stand elsewhere.
      if (there && !held && id < this.lastGuestId) return null;
      // Isolated NAT: what translates for a guest is a machine of its own.
      if (held?.ifaces.some((iface) => topology.machines.has(`translator|${iface.id}`)))
        return null;
      if (held) {
        this.machines.delete(held);
        for (const iface of held.ifaces) this.ifaces.delete(iface);
      }
      const before = this.machines.size;
      const made = there ? this.guest(row) : undefined;
      if (this.machines.size > before + 1) return null;
      for (const iface of made?.ifaces ?? []) this.join(iface);
      next.push([id, made]);
    }
    return topology.replacing(next);
  }

  private host(host: Row<'host'>): void {
    const rows = byId(this.fleet.referring('address', 'hostId', host.id));
    const switches = this.fleet.referring('virtualSwitch', 'hostId', host.id);
    const own = rows.filter((row) => row.purpose !== OUT_OF_BAND);
    const groups = new Map<
      string,
      { info: IfaceInfo; name: string; side: Side; rows: Row<'address'>[] }
    >();
    for (const row of own) {
      const place = this.placeOf(row, switches);
      const key = `${place.info.kind}|${place.info.rowId}`;
      const group = groups.get(key);
      if (group) group.rows.push(row);
      else groups.set(key, { ...place, rows: [row] });
    }
    const uplinkOf = (id: string) =>
      switches.find((found) => found.id === id && found.mode === 'NAT')?.natUplinkId ?? null;
    const ifaces = [...groups.values()].map(({ info, name, side, rows: held }) =>
      this.iface(info, name, held, { side, translatedBy: uplinkOf(info.rowId) }),
    );
    for (const found of switches) {
      const implied = this.impliedGateway(host, found, own);
      if (implied) ifaces.push(implied);
    }
    const running = host.state === 'in service' || host.state === 'maintenance';
    this.machine(
      { kind: 'host', id: host.id, name: host.name },
      { on: running, forwarding: host.forwards ? 'all' : 'sides', ifaces },
      host,
      own,
    );
    const controller = rows.filter((row) => row.purpose === OUT_OF_BAND);
    if (controller.length === 0) return;
    const place = this.placeOf(controller[0]!, []);
    const apart = this.iface(
      { ...place.info, rowId: `${host.id}|${OUT_OF_BAND}` },
      'out-of-band controller',
      controller,
    );
    this.machine(
      { kind: 'host', id: host.id, name: `${host.name}, out of band` },
      { on: host.state !== 'planned', forwarding: 'none', ifaces: [apart] },
      NOBODY_LOOKED,
      controller,
      `${host.id}|${OUT_OF_BAND}`,
    );
  }

  /** Where a host's address sits: on the switch it is said to, on the one that carries its network, else on the bare wire. */
  private placeOf(
    row: Row<'address'>,
    switches: readonly Row<'virtualSwitch'>[],
  ): { info: IfaceInfo; name: string; side: Side } {
    const networkId = this.fleet.get('subnet', row.subnetId)?.networkId ?? null;
    const found =
      switches.find((other) => other.id === row.virtualSwitchId) ??
      switches.find((other) => networkId !== null && other.networkId === networkId);
    if (found && !this.wirelessOnly(found)) {
      return {
        info: {
          node: this.wiring.find(nodeKeys.virtualSwitch(found.id)) ?? null,
          networkId: found.networkId,
          kind: 'virtualSwitch',
          rowId: found.id,
        },
        name: found.name,
        side: SIDES[found.mode],
      };
    }
    if (!networkId)
      return {
        info: { node: null, networkId: null, kind: 'network', rowId: 'none' },
        name: 'in no recorded network',
        side: 'plain',
      };
    const { name } = this.fleet.need('network', networkId);
    const node = this.bareNode(this.fleet.need('host', row.hostId!), networkId);
    return { info: { node, networkId, kind: 'network', rowId: networkId }, name, side: 'uplink' };
  }

  /** Where a host is joined to a network that none of its switches carries: the wire, unless no port of it is up. */
  private bareNode(host: Row<'host'>, networkId: string): number {
    const wire = this.wiring.node(nodeKeys.wire(networkId));
    const down = allPortsDown(this.fleet, host);
    if (!down) return wire;
    const key = nodeKeys.bare(host.id, networkId);
    const known = this.wiring.find(key);
    if (known !== undefined) return known;
    const node = this.wiring.node(key);
    this.wiring.join(node, wire, 'ports not recorded', down);
    return node;
  }

  private wirelessOnly(found: Row<'virtualSwitch'>): boolean {
    if (found.mode !== 'bridged') return false;
    const uplinks = this.fleet.referring('uplink', 'switchId', found.id);
    return (
      uplinks.length > 0 && uplinks.every((uplink) => !this.fleet.need('port', uplink.portId).wired)
    );
  }

  /** Behind shared NAT the host is the gateway of its guests, whether or not somebody recorded that address. */
  private impliedGateway(
    host: Row<'host'>,
    found: Row<'virtualSwitch'>,
    own: readonly Row<'address'>[],
  ): Iface | null {
    if (found.mode !== 'NAT' || !found.networkId || isolatesGuests(this.fleet, found)) return null;
    const subnet = this.fleet
      .referring('subnet', 'networkId', found.networkId)
      .find((row) => row.gateway !== null);
    if (!subnet || own.some((row) => row.subnetId === subnet.id)) return null;
    const iface = this.iface(
      {
        node: this.wiring.find(nodeKeys.virtualSwitch(found.id)) ?? null,
        networkId: found.networkId,
        kind: 'virtualSwitch',
        rowId: found.id,
      },
      found.name,
      [],
      { side: 'nat', translatedBy: found.natUplinkId },
    );
    iface.addresses.push({ ...addressOf(subnet.gateway!), length: prefixOf(subnet.prefix).length });
    return iface;
  }

  private guest(guest: Row<'guest'>): Machine {
    if (guest.id > this.lastGuestId) this.lastGuestId = guest.id;
    const adapters = this.fleet
      .referring('adapter', 'guestId', guest.id)
      .sort((a, b) => a.position - b.position);
    const rows = new Map(
      adapters.map((adapter) => [
        adapter.id,
        byId(this.fleet.referring('address', 'adapterId', adapter.id)),
      ]),
    );
    const host = this.fleet.need('host', guest.hostId);
    const isolated: Row<'adapter'>[] = [];
    const ifaces = adapters.map((adapter) => {
      const trunk = this.fleet.get('adapter', adapter.trunkId);
      const name = `adapter ${adapter.position + 1}${adapter.networkId ? ` on ${this.fleet.need('network', adapter.networkId).name}` : ''}`;
      const { node, blocked, alone } = this.places.of(adapter, guest, host);
      if (alone) isolated.push(adapter);
      return this.iface(
        {
          ...{ node, networkId: adapter.networkId, kind: 'adapter', rowId: adapter.id },
          ...(blocked && { blocked }),
        },
        name,
        rows.get(adapter.id)!,
        {
          up: adapter.connected && (trunk?.connected ?? true),
          ...translation(adapter),
        },
      );
    });
    const on =
      guest.state === 'in service' && (host.state === 'in service' || host.state === 'maintenance');
    const machine = this.machine(
      { kind: 'guest', id: guest.id, name: guest.name },
      { on, forwarding: guest.forwards ? 'all' : 'none', ifaces },
      guest,
      [...rows.values()].flat(),
    );
    for (const adapter of isolated) this.translator(adapter, host);
    return machine;
  }

  /** Isolated NAT: each adapter is alone with a translator that says everything again as the host. */
  private translator(adapter: Row<'adapter'>, host: Row<'host'>): void {
    const node = this.wiring.node(nodeKeys.inside(adapter.id));
    const subnet = this.fleet
      .referring('subnet', 'networkId', adapter.networkId!)
      .find((row) => row.gateway !== null);
    const iface = this.iface(
      { node, networkId: adapter.networkId, kind: 'network', rowId: `translator|${adapter.id}` },
      'translation',
      [],
    );
    if (subnet)
      iface.addresses.push({
        ...addressOf(subnet.gateway!),
        length: prefixOf(subnet.prefix).length,
      });
    this.machine(
      { kind: 'host', id: host.id, name: `${host.name}, translating` },
      {
        on: host.state === 'in service' || host.state === 'maintenance',
        forwarding: 'all',
        ifaces: [iface],
        speaksThrough: host.id,
      },
      null,
      [],
      `translator|${adapter.id}`,
    );
  }

  private device(device: Row<'device'>): void {
    const ports = byId(this.fleet.referring('devicePort', 'deviceId', device.id));
    const rows = new Map(
      ports.map((port) => [
        port.id,
        byId(this.fleet.referring('address', 'devicePortId', port.id)),
      ]),
    );
    const ifaces = ports.map((port) => {
      const node = port.outside
        ? this.outsideNode()
        : port.networkId
          ? (this.wiring.find(nodeKeys.devicePort(port.id)) ?? null)
          : null;
      return this.iface(
        { node, networkId: port.networkId, kind: 'devicePort', rowId: port.id },
        port.name,
        rows.get(port.id)!,
        { up: port.up, ...translation(port) },
      );
    });
    this.machine(
      { kind: 'device', id: device.id, name: device.name },
      { on: device.state === 'in service', forwarding: device.forwards ? 'all' : 'none', ifaces },
      device,
      [...rows.values()].flat(),
    );
  }

  private outsideNode(): number {
    return this.wiring.node(OUTSIDE);
  }

  /** The outside reaches what the ports that lead there carry, and recorded blocks that are not private, through their device. */
  private outside(): void {
    const routes: Machine['routes'] = [];
    for (const port of this.fleet.all('devicePort')) {
      const device = this.fleet.need('device', port.deviceId);
      if (!port.outside || !port.up || device.state !== 'in service') continue;
      const addresses = this.addressesOf(this.fleet.referring('address', 'devicePortId', port.id));
      for (const address of addresses)
        routes.push({ to: containing(address, address.length), via: null });
      for (const subnet of this.fleet.all('subnet')) {
        const block = prefixOf(subnet.prefix);
        const via = addresses.find((address) => address.family === block.family);
        const first = { family: block.family, value: block.first };
        if (
          via &&
          routedOutside(first) &&
          routedOutside({ family: block.family, value: last(block) }) &&
          !contains(containing(via, via.length), first)
        )
          routes.push({ to: block, via });
      }
    }
    const own = ([4, 6] as const).map((family) => ({
      ...addressOf(OUTSIDE_ADDRESS[family]),
      length: BITS[family],
    }));
    const node = this.outsideNode();
    const iface: Iface = {
      id: OUTSIDE,
      name: 'outside',
      segment: null,
      up: true,
      addresses: own,
      masquerade: false,
      side: 'plain',
    };
    this.ifaces.set(iface, { node, networkId: null, kind: 'outside', rowId: OUTSIDE });
    const machine: Machine = {
      id: OUTSIDE,
      name: 'a machine outside',
      on: true,
      forwarding: 'all',
      ifaces: [iface],
      routes,
      gateway: { 4: null, 6: null },
      onLink: false,
      ...USUAL_HABITS,
      outside: true,
    };
    this.machines.set(machine, { kind: 'outside', id: OUTSIDE, name: machine.name });
  }
}

const translation = ({
  masquerade,
  masqueradeFrom,
}: Pick<Row<'adapter'>, 'masquerade' | 'masqueradeFrom'>): Pick<
  Iface,
  'masquerade' | 'masqueradeFrom'
> => ({
  masquerade,
  masqueradeFrom: masqueradeFrom === '' ? null : blocksOf(masqueradeFrom),
});
