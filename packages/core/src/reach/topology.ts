/**
 * What reachability is computed on: machines with interfaces, joined by layer-2 segments. Built from the record, or by hand in
 * tests that compare it with real kernels. Conventions are those of a Linux machine with default routing and reverse-path
 * filtering off; addresses are family and unsigned integer.
 */
import type { Address, Family, Prefix } from '../address/index.js';

export interface IfaceAddress extends Address {
  /** Prefix length as configured on the machine. */
  length: number;
}

/** What a host forwards between its sides; guests and devices have plain interfaces only. */
export type Side = 'plain' | 'uplink' | 'nat' | 'routed' | 'local';

export interface Iface {
  id: string;
  name: string;
  /** Layer-2 segment; null: joined to nothing. */
  segment: number | null;
  /** The cable is plugged in and the port is up: otherwise its addresses and routes are not there. */
  up: boolean;
  addresses: IfaceAddress[];
  /** What is forwarded out here takes this interface's address. */
  masquerade: boolean;
  side: Side;
}

export interface StaticRoute {
  to: Prefix;
  /** Null, for the outside only: whoever it is answers on the segment itself. */
  via: Address | null;
}

export interface Machine {
  id: string;
  name: string;
  on: boolean;
  /** 'sides': a host, which forwards from NAT and routed networks inside it, and from nowhere else. */
  forwarding: 'none' | 'all' | 'sides';
  ifaces: Iface[];
  routes: StaticRoute[];
  gateway: Record<Family, Address | null>;
  /** The gateway lies outside the machine's own subnets on purpose. */
  onLink: boolean;
  /** Isolated NAT: whatever is not for itself is said again by that machine, as if a program there had said it. */
  speaksThrough?: string;
  /** Stands for all machines outside: has every address that nobody in the record has. */
  outside?: boolean;
}

export interface Neighbour {
  machine: Machine;
  iface: Iface;
}

/** Machines by id, and who answers for an address on a segment. */
export class Topology {
  readonly machines = new Map<string, Machine>();
  private readonly onSegment = new Map<number, Map<string, Neighbour[]>>();
  private readonly owners = new Map<string, Machine[]>();
  private readonly outsiders = new Map<number, Neighbour>();

  constructor(machines: readonly Machine[]) {
    for (const machine of machines) {
      this.machines.set(machine.id, machine);
      if (machine.on) this.file(machine);
    }
  }

  private file(machine: Machine): void {
    const up = machine.ifaces.filter((iface) => iface.up);
    for (const iface of up) {
      for (const address of iface.addresses) add(this.owners, keyOf(address), machine);
      if (iface.segment === null) continue;
      if (machine.outside) this.outsiders.set(iface.segment, { machine, iface });
      let known = this.onSegment.get(iface.segment);
      if (!known) this.onSegment.set(iface.segment, (known = new Map()));
      // IPv4: a machine answers for any of its addresses on any interface (weak host model); IPv6: only on the one that has it.
      for (const other of up)
        for (const address of other.addresses)
          if (address.family === 4 || other === iface)
            add(known, keyOf(address), { machine, iface });
    }
  }

  /** Machines that are on and have the address. */
  ownersOf(address: Address): readonly Machine[] {
    return this.owners.get(keyOf(address)) ?? [];
  }

  /** Who would answer when a machine, with a packet from that source, asks for an address on a segment; the outside answers for what nobody has. */
  answering(segment: number, address: Address, asker: Machine, from: Address | null): Neighbour[] {
    // An IPv4 packet that seems to come from oneself is dropped, and so is the question who has an address.
    const found = (this.onSegment.get(segment)?.get(keyOf(address)) ?? []).filter(
      ({ machine }) => machine !== asker && !(from?.family === 4 && owns(machine, from)),
    );
    const outsider = this.outsiders.get(segment);
    if (found.length === 0 && outsider && outsider.machine !== asker) return [outsider];
    return found.filter(
      (neighbour, i) => found.findIndex((other) => other.machine === neighbour.machine) === i,
    );
  }
}

export const keyOf = ({ family, value }: Address): string => `${family}|${value}`;

function add<T>(map: Map<string, T[]>, key: string, value: T): void {
  const held = map.get(key);
  if (!held) map.set(key, [value]);
  else if (!held.includes(value)) held.push(value);
}

/** The interface by which a machine has an address, if it is up. */
export const ownIface = (machine: Machine, { family, value }: Address): Iface | undefined =>
  ownersIn(machine)[family].get(value);

/** Whether the machine itself has the address, on an interface that is up. */
export const owns = (machine: Machine, address: Address): boolean =>
  ownIface(machine, address) !== undefined;

const kept = new WeakMap<Machine, Record<Family, Map<bigint, Iface>>>();
/** Addresses of a machine with their interface, the first configured where one stands twice. */
function ownersIn(machine: Machine): Record<Family, Map<bigint, Iface>> {
  let found = kept.get(machine);
  if (!found) {
    kept.set(machine, (found = { 4: new Map(), 6: new Map() }));
    for (const iface of machine.ifaces)
      if (iface.up)
        for (const { family, value } of iface.addresses)
          if (!found[family].has(value)) found[family].set(value, iface);
  }
  return found;
}
