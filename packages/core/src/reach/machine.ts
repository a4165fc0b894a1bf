/** A machine as it is configured: interfaces, addresses, routes, what it forwards. */
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
  /** Where it is joined on layer 2: nodes are segments of their own, or the topology is told what joins them; null: to nothing. */
  node: number | null;
  /** The cable is plugged in and the port is up: otherwise its addresses and routes are not there. */
  up: boolean;
  addresses: IfaceAddress[];
  /** What is forwarded out here takes this interface's address. */
  masquerade: boolean;
  /** Only what comes from one of these blocks does; null or left out: whatever it comes from. */
  masqueradeFrom?: readonly Prefix[] | null;
  side: Side;
  /** NAT: id of the interface by which its host translates; null or left out: by whichever it leaves. */
  translatedBy?: string | null;
}

/** What a packet is for, beside the address. */
export interface Service {
  protocol: 'tcp' | 'udp';
  port: number;
}

/** What arrives at a port of one of a machine's addresses goes on to another (destination translation, RFC 2663, section 4.1.2). */
export interface PortForward extends Service {
  /** Null: at any of its addresses. */
  at: Address | null;
  to: Address;
  toPort: number;
  /** Isolated NAT: the machine that says it anew to whom it is for. */
  through?: string | null;
}

export interface StaticRoute {
  to: Prefix;
  /** Null: dropped on purpose; for the outside: whoever it is answers on the segment itself. */
  via: Address | null;
  blackhole?: boolean;
  /** The lower leads among routes to the same block; null: what the kernel takes by itself. */
  metric?: number | null;
}

/** Whether a packet is taken from a source that would be answered by another interface (RFC 3704, sections 2.2 to 2.4). */
export const REVERSE_PATHS = ['off', 'loose', 'strict'] as const;
export type ReversePath = (typeof REVERSE_PATHS)[number];

/** What a machine does that its addresses do not tell. */
export interface Habits {
  reversePath: ReversePath;
  /** Takes packets, and answers ARP, for an address by the interface that has it only (RFC 1122, section 3.3.4.2). */
  strongHost: boolean;
}

/** What is taken for true where nobody said: a Linux kernel's own settings. */
export const USUAL_HABITS: Habits = { reversePath: 'off', strongHost: false };

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
  /** Null or left out: nobody said. */
  reversePath?: ReversePath | null;
  strongHost?: boolean | null;
  /** Isolated NAT: whatever is not for itself is said again by that machine, as if a program there had said it. */
  speaksThrough?: string;
  portForwards?: readonly PortForward[];
  /** Stands for all machines outside: has every address that nobody in the record has. */
  outside?: boolean;
}

export interface Neighbour {
  machine: Machine;
  iface: Iface;
}

/** Machines by id, in their order. */
export interface Machines {
  get(id: string): Machine | undefined;
  values(): Iterable<Machine>;
}
