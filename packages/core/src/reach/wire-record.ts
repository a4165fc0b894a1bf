/**
 * Draws the wiring of the whole record: one pass over virtual switches, devices, physical switches and lines. An adapter of a guest
 * is no node of its own: it is where its switch is (`adapter-place.ts`).
 */
import type { Fleet, Row } from '../record/index.js';
import type { NodeNumbers } from './node-numbers.js';
import {
  allPortsDown,
  dropped,
  hostPortBlocked,
  lineDown,
  portBlocked,
  type Tag,
} from './wire-blocked.js';
import { taggedVlans, Wiring, type Blocked } from './wiring.js';

/** @param numbers of a wiring whose nodes are to keep theirs */
export function wireRecord(fleet: Fleet, numbers?: NodeNumbers): Wiring {
  const drawing = new Drawing(fleet, new Wiring(numbers));
  for (const found of fleet.all('virtualSwitch')) drawing.virtualSwitch(found);
  for (const port of fleet.all('devicePort')) drawing.devicePort(port);
  for (const line of fleet.all('switchLine')) drawing.line(line);
  drawing.anchorWires();
  return drawing.wiring;
}

/** The same, kept: for whoever asks of switches and cables only. */
export const wiringOf = (fleet: Fleet): Wiring => fleet.whole('wiring', () => wireRecord(fleet));

export const nodeKeys = {
  virtualSwitch: (id: string) => `vs:${id}`,
  wire: (networkId: string) => `net:${networkId}`,
  bare: (hostId: string, networkId: string) => `bare:${hostId}:${networkId}`,
  switchVlan: (id: string, vlan: number) => `sw:${id}:${vlan}`,
  devicePort: (id: string) => `dp:${id}`,
  inside: (adapterId: string) => `alone:${adapterId}`,
} as const;

class Drawing {
  /** Where frames of a network were first seen on a recorded switch: its unrecorded cabling is taken to end there. */
  private readonly anchors = new Map<string, number>();
  private readonly vlansOn = new Map<string, Set<number>>();

  constructor(
    private readonly fleet: Fleet,
    readonly wiring: Wiring,
  ) {}

  private switchNode(id: string, vlan: number): number {
    let known = this.vlansOn.get(id);
    if (!known) this.vlansOn.set(id, (known = new Set()));
    known.add(vlan);
    return this.wiring.node(nodeKeys.switchVlan(id, vlan));
  }

  private wire(networkId: string): number {
    return this.wiring.node(nodeKeys.wire(networkId));
  }

  virtualSwitch(found: Row<'virtualSwitch'>): void {
    const host = this.fleet.need('host', found.hostId);
    const node = this.wiring.node(nodeKeys.virtualSwitch(found.id));
    if (found.mode !== 'bridged' || !found.networkId) return;
    const uplinks = this.fleet.referring('uplink', 'switchId', found.id);
    if (uplinks.length === 0)
      return void this.wiring.join(
        node,
        this.wire(found.networkId),
        'ports not recorded',
        allPortsDown(this.fleet, host),
      );
    const network = this.fleet.need('network', found.networkId);
    const tag: Tag = found.untagged ? null : network.vlanId;
    for (const uplink of uplinks) {
      const port = this.fleet.need('port', uplink.portId);
      const own = hostPortBlocked(port, host);
      this.plug(node, port.switchPortId, tag, network, `${port.name} of ${host.name}`, own, [
        `port:${port.id}`,
      ]);
    }
  }

  devicePort(port: Row<'devicePort'>): void {
    const device = this.fleet.need('device', port.deviceId);
    const node = this.wiring.node(nodeKeys.devicePort(port.id));
    const network = this.fleet.get('network', port.networkId);
    if (!network) return;
    this.plug(
      node,
      port.switchPortId,
      port.tagged ? network.vlanId : null,
      network,
      `${port.name} of ${device.name}`,
      null,
      [`deviceport:${port.id}`],
    );
  }

  /** Joins an end to what its cable leads to, with the reason where frames do not pass. */
  private plug(
    node: number,
    switchPortId: string | null,
    tag: Tag,
    network: Row<'network'>,
    name: string,
    own: Blocked | null,
    hangsOn: string[],
  ): void {
    const port = this.fleet.get('switchPort', switchPortId);
    if (!port)
      return void this.wiring.join(
        node,
        this.wire(network.id),
        `${name}, cable not recorded`,
        own,
        hangsOn,
      );
    const found = this.fleet.need('physicalSwitch', port.physicalSwitchId);
    const vlan = tag ?? port.untaggedVlan;
    const label = `${name} → ${found.name} port ${port.name}`;
    const on = [...hangsOn, `switch:${found.id}`, `switchport:${port.id}`];
    if (vlan === null) {
      this.wiring.join(
        node,
        this.wire(network.id),
        label,
        own ?? dropped(port, found, network),
        on,
      );
      return;
    }
    const target = this.switchNode(found.id, vlan);
    const passes = tag === null || taggedVlans(port).has(tag);
    if (passes && !this.anchors.has(network.id)) this.anchors.set(network.id, target);
    this.wiring.join(
      node,
      target,
      label,
      own ?? portBlocked(port, found, passes ? null : tag, network),
      on,
    );
  }

  line(line: Row<'switchLine'>): void {
    const [a, b] = [
      this.fleet.need('switchPort', line.aPortId),
      this.fleet.need('switchPort', line.bPortId),
    ];
    const [left, right] = [
      this.fleet.need('physicalSwitch', a.physicalSwitchId),
      this.fleet.need('physicalSwitch', b.physicalSwitchId),
    ];
    const down = lineDown(line);
    const label = `line ${line.name}`;
    const on = [`line:${line.id}`, `switchport:${a.id}`, `switchport:${b.id}`];
    const [onA, onB] = [taggedVlans(a), taggedVlans(b)];
    const join = (va: number, vb: number, blocked: Blocked | null) =>
      this.wiring.join(
        this.switchNode(left.id, va),
        this.switchNode(right.id, vb),
        label,
        blocked ??
          down ??
          portBlocked(a, left, null, { name: '' }) ??
          portBlocked(b, right, null, { name: '' }),
        on,
      );
    for (const vlan of onA) if (onB.has(vlan)) join(vlan, vlan, null);
    if (a.untaggedVlan !== null && b.untaggedVlan !== null)
      join(a.untaggedVlan, b.untaggedVlan, null);
    // VLANs that both switches know and only this line fails to carry: recorded as blocked, so that they can be named.
    const known = new Set([
      ...(this.vlansOn.get(left.id) ?? []),
      ...(this.vlansOn.get(right.id) ?? []),
      ...onA,
      ...onB,
    ]);
    for (const vlan of known) {
      if ((onA.has(vlan) && onB.has(vlan)) || a.untaggedVlan === vlan || b.untaggedVlan === vlan)
        continue;
      const [port, found] = onA.has(vlan) ? [b, right] : [a, left];
      const blocked = portBlocked(port, found, vlan, this.networkOf(vlan))!;
      const both = !onA.has(vlan) && !onB.has(vlan);
      const mends = both
        ? [
            {
              label: `Carry VLAN ${vlan} on the line ${line.name}`,
              change: {
                type: 'switch-port.edit' as const,
                input: { ids: [a.id, b.id], addVlans: [vlan] },
              },
            },
          ]
        : blocked.mends;
      join(
        vlan,
        vlan,
        both
          ? {
              ...blocked,
              sentence: `The line ${line.name} between ${left.name} and ${right.name} does not carry VLAN ${vlan} (${this.networkOf(vlan).name}).`,
              mends,
            }
          : blocked,
      );
    }
  }

  private networkOf(vlan: number): { name: string } {
    for (const network of this.fleet.all('network')) if (network.vlanId === vlan) return network;
    return { name: 'no network of that id' };
  }

  /** The unrecorded part of a network ends at one place of its recorded part, never at several: it must not bridge what cables do not. */
  anchorWires(): void {
    for (const network of this.fleet.all('network')) {
      const wire = this.wiring.find(nodeKeys.wire(network.id));
      const anchor = this.anchors.get(network.id) ?? this.firstSwitchWith(network.vlanId);
      if (wire !== undefined && anchor !== undefined)
        this.wiring.join(wire, anchor, 'taken to be joined');
    }
  }

  private firstSwitchWith(vlan: number | null): number | undefined {
    if (vlan === null) return undefined;
    for (const [id, vlans] of this.vlansOn)
      if (vlans.has(vlan)) return this.wiring.find(nodeKeys.switchVlan(id, vlan));
    return undefined;
  }
}
