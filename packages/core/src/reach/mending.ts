/** Changes that may mend what fails on a way: a route, a gateway, a prefix, an address put right. */
import {
  BITS,
  containing,
  formatAddress,
  formatPrefix,
  prefixOf,
  type Address,
} from '../address/index.js';
import type { Change } from '../change/index.js';
import type { Fleet, Row, Values } from '../record/index.js';
import type { Echo, Journey } from './journey.js';
import { ifaceInfo, machineInfo, type MachineInfo } from './machine-parts.js';
import type { RecordTopology } from './record-topology.js';
import { inOwnSubnet } from './route.js';
import type { Iface, Machine } from './machine.js';

export interface Mend {
  label: string;
  change: Change;
}

export interface Explained {
  code: string;
  sentence: string;
  at: { kind: string; id: string; name: string } | null;
  mends: Mend[];
}

export class Mending {
  constructor(
    protected readonly fleet: Fleet,
    protected readonly world: RecordTopology,
    protected readonly echo: Echo,
  ) {}

  protected info = (machine: Machine): MachineInfo => machineInfo(machine)!;

  protected at(machine: Machine): Explained['at'] {
    const { kind, id, name } = this.info(machine);
    return kind === 'outside' ? null : { kind, id, name };
  }

  /** A change of fields of the machine itself. */
  protected edit(machine: Machine, fields: Values, label: string): Mend | null {
    const { kind, id } = this.info(machine);
    if (kind === 'host') return { label, change: { type: 'host.edit', input: { id, ...fields } } };
    if (kind === 'guest')
      return { label, change: { type: 'guest.edit', input: { id, ...fields } } };
    if (kind === 'device')
      return { label, change: { type: 'device.edit', input: { id, ...fields } } };
    return null;
  }

  protected edits(machine: Machine, fields: Values, label: string): Mend[] {
    const mend = this.edit(machine, fields, label);
    return mend ? [mend] : [];
  }

  protected gatewayOfSubnet(machine: Machine, family: 4 | 6): Mend[] {
    for (const iface of machine.ifaces) {
      for (const row of this.rowsOf(iface)) {
        const gateway = this.fleet.get('subnet', row.subnetId)?.gateway;
        if (!gateway || gateway === row.ip || gateway.includes(':') !== (family === 6)) continue;
        const mend = this.edit(
          machine,
          { [family === 4 ? 'gateway' : 'gateway6']: gateway, noGateway: false },
          `Set the gateway of ${machine.name} to ${gateway}`,
        );
        return mend ? [mend] : [];
      }
    }
    return [];
  }

  /** The machine that sent the packet the wrong way gets the gateway of its subnet. */
  protected properGateway(journey: Journey): Mend[] {
    const sender = journey.hops.at(-2)?.machine;
    return sender ? [...this.gatewayOfSubnet(sender, 4), ...this.gatewayOfSubnet(sender, 6)] : [];
  }

  /** The prefix length of its subnet, where another one is configured. */
  protected properPrefix(machine: Machine, to: Address): Mend[] {
    return machine.ifaces.flatMap((iface) =>
      this.rowsOf(iface).flatMap((row) => {
        const subnet = this.fleet.get('subnet', row.subnetId);
        const length = subnet && prefixOf(subnet.prefix).length;
        if (
          row.prefixLength === null ||
          length === undefined ||
          row.prefixLength === length ||
          row.ip.includes(':') !== (to.family === 6)
        )
          return [];
        return [
          {
            label: `Set the prefix of ${row.ip} on ${machine.name} to /${length}`,
            change: { type: 'address.edit' as const, input: { id: row.id, prefixLength: length } },
          },
        ];
      }),
    );
  }

  /** A static route by a neighbour that forwards and has the destination in one of its own subnets. */
  protected routeBy(machine: Machine, to: Address, journey: Journey): Mend[] {
    const { kind, id } = this.info(machine);
    if (kind === 'outside') return [];
    const origin = journey === this.echo.reply ? this.echo.request.hops[0]!.machine : null;
    const destination = formatPrefix(containing(to, this.lengthOf(to) ?? BITS[to.family]));
    const mends: Mend[] = [];
    for (const other of this.world.topology.machines.values()) {
      if (
        other === machine ||
        other === origin ||
        !other.on ||
        other.forwarding === 'none' ||
        !inOwnSubnet(other, to)
      )
        continue;
      const via = other.ifaces
        .flatMap((iface) => iface.addresses)
        .find((address) => inOwnSubnet(machine, address) && !inOwnSubnet(machine, to));
      if (via)
        mends.push({
          label: `Give ${machine.name} a route to ${destination} by ${formatAddress(via)} (${other.name})`,
          change: {
            type: 'route.record',
            input: { [`${kind}Id`]: id, destination, via: formatAddress(via), purpose: '' },
          },
        });
      if (mends.length >= 4) break;
    }
    return mends;
  }

  /** Of the prefix with which the first that has an address is configured. */
  private lengthOf({ family, value }: Address): number | undefined {
    for (const { ifaces } of this.world.topology.machines.values())
      for (const { addresses } of ifaces)
        for (const own of addresses)
          if (own.family === family && own.value === value) return own.length;
    return undefined;
  }

  protected rowsOf(iface: Iface): Row<'address'>[] {
    const info = ifaceInfo(iface);
    if (!info) return [];
    if (info.kind === 'adapter') return this.fleet.referring('address', 'adapterId', info.rowId);
    if (info.kind === 'devicePort')
      return this.fleet.referring('address', 'devicePortId', info.rowId);
    const found = [...this.world.topology.machines.values()].find(({ ifaces }) =>
      ifaces.includes(iface),
    );
    const machine = found && machineInfo(found);
    if (machine?.kind !== 'host') return [];
    const values = new Set(iface.addresses.map((address) => formatAddress(address)));
    return this.fleet
      .referring('address', 'hostId', machine.id)
      .filter((row) => values.has(row.ip));
  }

  protected networkName(iface: Iface): string {
    const networkId = ifaceInfo(iface)?.networkId;
    return this.fleet.get('network', networkId)?.name ?? 'no network';
  }

  /** Two adapters changed over where another one of the guest has the wanted network; else the adapter moved. */
  protected putRight(
    machine: Machine,
    adapterId: string | null,
    devicePortId: string | null,
    networkId: string,
  ): Mend[] {
    if (adapterId) {
      const adapter = this.fleet.need('adapter', adapterId);
      const swap = this.fleet
        .referring('adapter', 'guestId', adapter.guestId)
        .find((found) => found.id !== adapterId && found.networkId === networkId);
      const name = this.fleet.need('network', networkId).name;
      return [
        ...(swap
          ? [
              {
                label: `Change adapters ${adapter.position + 1} and ${swap.position + 1} of ${machine.name} over`,
                change: { type: 'adapter.swap' as const, input: { aId: adapterId, bId: swap.id } },
              },
            ]
          : []),
        {
          label: `Put adapter ${adapter.position + 1} of ${machine.name} on ${name}`,
          change: { type: 'adapter.edit', input: { id: adapterId, networkId } },
        },
      ];
    }
    if (!devicePortId) return [];
    const port = this.fleet.need('devicePort', devicePortId);
    const ports = this.fleet
      .referring('devicePort', 'deviceId', port.deviceId)
      .map(({ id: _, revision: __, deviceId: ___, ...fields }) =>
        fields.name === port.name
          ? { ...fields, networkId }
          : fields.networkId === networkId
            ? { ...fields, networkId: port.networkId }
            : fields,
      );
    return [
      {
        label: `Change the ports of ${machine.name} over`,
        change: { type: 'device.set-ports', input: { id: port.deviceId, ports } },
      },
    ];
  }

  protected rowWith(machine: Machine, ip: string): Row<'address'> | undefined {
    return machine.ifaces.flatMap((iface) => this.rowsOf(iface)).find((row) => row.ip === ip);
  }
}
