/** What every machine of the topology has, whatever it is: interfaces with addresses, routes, ports that lead on, gateways. */
import { addressOf, BITS, prefixOf, type Address, type Family } from '../address/index.js';
import type { Fleet, NamedKind, Row } from '../record/index.js';
import { AdapterPlaces } from './adapter-place.js';
import type { Iface, IfaceAddress, Machine } from './machine.js';
import type { Blocked, Wiring } from './wiring.js';

export interface IfaceInfo {
  /** Node of the wiring that it is to be joined to, or null where there is none. */
  node: number | null;
  /** Why frames do not pass between it and that node. */
  blocked?: Blocked | null;
  networkId: string | null;
  /** Row that it stands for. */
  kind: 'adapter' | 'devicePort' | 'virtualSwitch' | 'network' | 'outside';
  rowId: string;
}

export interface MachineInfo {
  kind: NamedKind | 'outside';
  id: string;
  name: string;
  /** Guest that it is for: what translates for one alone. */
  guestId?: string;
}

/** Machines and interfaces of the record know what they stand for; others, such as a probe, do not. */
interface Recorded<T> {
  info: T;
}
export const ifaceInfo = (iface: Iface): IfaceInfo | undefined =>
  (iface as Partial<Recorded<IfaceInfo>>).info;
export const machineInfo = (machine: Machine): MachineInfo | undefined =>
  (machine as Partial<Recorded<MachineInfo>>).info;

/** What is configured on a machine. */
export type Routed = Pick<
  Row<'guest'>,
  'gateway' | 'gateway6' | 'noGateway' | 'gatewayOnLink' | 'reversePath' | 'hostModel'
>;

export const NOBODY_LOOKED: Routed = {
  ...{ gateway: null, gateway6: null, noGateway: false, gatewayOnLink: false },
  ...{ reversePath: 'unknown', hostModel: 'unknown' },
};

export class MachineParts {
  protected readonly places: AdapterPlaces;
  /** The same few gateways and blocks are read once. */
  private readonly addressRead = remembered(addressOf);
  private readonly lengthRead = remembered((prefix: string) => prefixOf(prefix).length);

  constructor(
    protected readonly fleet: Fleet,
    readonly wiring: Wiring,
  ) {
    this.places = new AdapterPlaces(fleet, wiring);
  }

  protected machine(
    info: MachineInfo,
    fields: Pick<Machine, 'on' | 'forwarding' | 'ifaces'> & Partial<Machine>,
    routed: Routed | null,
    addresses: readonly Row<'address'>[],
    id = info.id,
  ): Machine {
    const machine: Machine & Recorded<MachineInfo> = {
      info,
      id,
      name: info.name,
      reversePath: !routed || routed.reversePath === 'unknown' ? null : routed.reversePath,
      strongHost: !routed || routed.hostModel === 'unknown' ? null : routed.hostModel === 'strong',
      ...fields,
      routes: this.routes(info),
      ...this.forwards(info),
      onLink: routed?.gatewayOnLink ?? false,
      gateway: { 4: null, 6: null },
    };
    if (routed)
      for (const family of [4, 6] as const)
        machine.gateway[family] = this.gatewayOf(routed, addresses, family);
    return machine;
  }

  private routes({ kind, id }: MachineInfo): Machine['routes'] {
    if (kind === 'outside' || this.fleet.count('route') === 0) return [];
    return this.fleet.referring('route', `${kind}Id` as never, id).map((row: Row<'route'>) => ({
      to: prefixOf(row.destination),
      via: row.via === null ? null : addressOf(row.via),
      blackhole: row.via === null,
      metric: row.metric,
    }));
  }

  private forwards({ kind, id }: MachineInfo): Pick<Machine, 'portForwards'> {
    if (kind === 'outside' || this.fleet.count('forwardedPort') === 0) return {};
    const rows = this.fleet.referring('forwardedPort', `${kind}Id` as never, id);
    if (rows.length === 0) return {};
    return {
      portForwards: byId(rows).map((row: Row<'forwardedPort'>) => ({
        protocol: row.protocol,
        port: row.port,
        at: row.atIp === null ? null : addressOf(row.atIp),
        to: addressOf(row.toIp),
        toPort: row.toPort,
        through: kind === 'host' ? this.tellerOf(id, row.toIp) : null,
      })),
    };
  }

  /** Isolated NAT: who tells a guest of the host what came for it, where one guest alone has the address. */
  private tellerOf(hostId: string, ip: string): string | null {
    const alone = this.fleet
      .referring('guest', 'hostId', hostId)
      .filter(({ state }) => state !== 'retired')
      .flatMap((guest) => this.fleet.referring('adapter', 'guestId', guest.id))
      .filter(
        (adapter) =>
          this.places.isAlone(adapter, hostId) &&
          this.fleet.referring('address', 'adapterId', adapter.id).some((row) => row.ip === ip),
      );
    return alone.length === 1 ? translatorId(alone[0]!.id) : null;
  }

  /** As configured on the machine; where nobody has looked, what its first subnet with a gateway says. */
  private gatewayOf(
    routed: Routed,
    addresses: readonly Row<'address'>[],
    family: Family,
  ): Address | null {
    const own = family === 4 ? routed.gateway : routed.gateway6;
    if (own) return this.addressRead(own);
    if (routed.noGateway) return null;
    for (const address of addresses) {
      const gateway = this.fleet.get('subnet', address.subnetId)?.gateway;
      if (
        !gateway ||
        gateway.includes(':') !== (family === 6) ||
        addresses.some(({ ip }) => ip === gateway)
      )
        continue;
      return this.addressRead(gateway);
    }
    return null;
  }

  protected addressesOf(rows: readonly Row<'address'>[]): IfaceAddress[] {
    return rows.map((row) => {
      const address = addressOf(row.ip);
      const subnet = this.fleet.get('subnet', row.subnetId);
      return {
        ...address,
        length:
          row.prefixLength ?? (subnet ? this.lengthRead(subnet.prefix) : BITS[address.family]),
      };
    });
  }

  protected iface(
    info: IfaceInfo,
    name: string,
    rows: readonly Row<'address'>[],
    more: Partial<Iface> = {},
  ): Iface {
    const { node, blocked } = info;
    const iface: Iface & Recorded<IfaceInfo> = {
      info,
      id: info.rowId,
      name,
      // Cut off from its node it is on a segment of its own.
      node: node !== null && blocked ? this.wiring.numbers.alone() : node,
      up: true,
      addresses: this.addressesOf(rows),
      masquerade: false,
      side: 'plain',
      ...more,
    };
    return iface;
  }
}

/** Isolated NAT: what translates for an adapter alone. */
export const translatorId = (adapterId: string): string => `translator|${adapterId}`;

/** In the order of recording: ids are made in order of time. */
export const byId = <T extends { id: string }>(rows: T[]): T[] =>
  [...rows].sort((a, b) => (a.id < b.id ? -1 : 1));

function remembered<T>(compute: (text: string) => T): (text: string) => T {
  const kept = new Map<string, T>();
  return (text) => {
    let value = kept.get(text);
    if (value === undefined) kept.set(text, (value = compute(text)));
    return value;
  };
}
