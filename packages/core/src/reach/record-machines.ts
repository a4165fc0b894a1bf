/** Every host, guest and device of the record as machines, with what is configured on them; and the outside. */
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
import { blocksOf, type Row } from '../record/index.js';
import { HostMachines } from './host-machines.js';
import { byId, translatorId } from './machine-parts.js';
import { USUAL_HABITS, type Iface, type Machine } from './machine.js';
import { nodeKeys } from './wire-record.js';

/** Pseudo machine for everything beyond the ports that lead outside. */
export const OUTSIDE = 'outside';
/** Its own addresses: the dummy address of RFC 7600 and one of the discard block (RFC 6666), which no network uses. */
export const OUTSIDE_ADDRESS: Record<Family, string> = { 4: '192.0.0.8', 6: '100::8' };

export class RecordMachines extends HostMachines {
  /** Hosts with their controllers, devices and the outside: all that is drawn into the wiring, and what is beyond it. */
  *ofThePlace(): Generator<Machine> {
    for (const host of this.fleet.all('host')) if (host.state !== 'retired') yield* this.host(host);
    for (const device of this.fleet.all('device'))
      if (device.state !== 'retired') yield this.device(device);
    yield this.outside();
  }

  /** A guest, and behind isolated NAT what translates for it; none where it is not there. */
  ofGuest(id: string): Machine[] {
    const guest = this.fleet.get('guest', id);
    return guest && guest.state !== 'retired' ? this.guest(guest) : [];
  }

  private guest(guest: Row<'guest'>): Machine[] {
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
    return [machine, ...isolated.map((adapter) => this.translator(adapter, host))];
  }

  /** Isolated NAT: each adapter is alone with a translator that says everything again as the host. */
  private translator(adapter: Row<'adapter'>, host: Row<'host'>): Machine {
    const node = this.wiring.numbers.of(nodeKeys.inside(adapter.id));
    const subnet = this.fleet
      .referring('subnet', 'networkId', adapter.networkId!)
      .find((row) => row.gateway !== null);
    const iface = this.iface(
      { node, networkId: adapter.networkId, kind: 'network', rowId: translatorId(adapter.id) },
      'translation',
      [],
    );
    if (subnet)
      iface.addresses.push({
        ...addressOf(subnet.gateway!),
        length: prefixOf(subnet.prefix).length,
      });
    return this.machine(
      {
        ...{ kind: 'host', id: host.id, name: `${host.name}, translating` },
        guestId: adapter.guestId,
      },
      {
        on: host.state === 'in service' || host.state === 'maintenance',
        forwarding: 'all',
        ifaces: [iface],
        speaksThrough: host.id,
      },
      null,
      [],
      translatorId(adapter.id),
    );
  }

  private device(device: Row<'device'>): Machine {
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
    return this.machine(
      { kind: 'device', id: device.id, name: device.name },
      { on: device.state === 'in service', forwarding: device.forwards ? 'all' : 'none', ifaces },
      device,
      [...rows.values()].flat(),
    );
  }

  private outsideNode(): number {
    return this.wiring.numbers.of(OUTSIDE);
  }

  /** The outside reaches what the ports that lead there carry, and recorded blocks that are not private, through their device. */
  private outside(): Machine {
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
    const iface = this.iface(
      { node: this.outsideNode(), networkId: null, kind: 'outside', rowId: OUTSIDE },
      'outside',
      [],
    );
    iface.addresses.push(...own);
    const machine = this.machine(
      { kind: 'outside', id: OUTSIDE, name: 'a machine outside' },
      { on: true, forwarding: 'all', ifaces: [iface], ...USUAL_HABITS, outside: true },
      null,
      [],
    );
    return Object.assign(machine, { routes });
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
