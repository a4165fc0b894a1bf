/** Hosts of the record as machines, with their out-of-band controllers: which address is on which switch, or on the bare wire. */
import { addressOf, prefixOf } from '../address/index.js';
import { OUT_OF_BAND, isolatesGuests } from '../host/index.js';
import type { Row } from '../record/index.js';
import { byId, MachineParts, NOBODY_LOOKED, type IfaceInfo } from './machine-parts.js';
import type { Iface, Machine, Side } from './machine.js';
import { allPortsDown } from './wire-blocked.js';
import { nodeKeys } from './wire-record.js';

const SIDES: Record<Row<'virtualSwitch'>['mode'], Side> = {
  bridged: 'uplink',
  NAT: 'nat',
  routed: 'routed',
  'host and guests': 'local',
  'guests only': 'local',
};

export class HostMachines extends MachineParts {
  protected *host(host: Row<'host'>): Generator<Machine> {
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
    yield this.machine(
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
    yield this.machine(
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
}
