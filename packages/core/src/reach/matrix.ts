/**
 * Who of a group reaches whom. Machines that nothing tells apart — one plain interface, the same segment, prefix and gateway,
 * an address nobody else has — are asked for once as a class: two addresses between which no routing table anywhere
 * draws a line are treated alike by all of them.
 */
import { containing, last, type Address } from '../address/index.js';
import { failureOf, type FailureCode } from './failure-words.js';
import { ping } from './ping.js';
import { type Echo, type Verdict } from './journey.js';
import { type Topology } from './topology.js';
import { keyOf, type AddressKey } from './own-addresses.js';
import { type Machine } from './machine.js';

export interface MatrixCell {
  verdict: Verdict;
  /** Of the first failure; empty for a yes. */
  code: FailureCode | '';
}

export interface Matrix {
  machines: Machine[];
  /** Classes of the machines, by their number. */
  classOf: number[];
  /** Verdict of class to class; within a class between two different members. */
  cells: MatrixCell[][];
  /** How many echoes were simulated. */
  simulated: number;
}

/** More classes than this are no group any more: every pair of them is worked out. */
export const MOST_CLASSES = 600;

/**
 * @param address of each machine that is asked for; null: it cannot be asked for
 * @returns null where the machines fall into more than `MOST_CLASSES` classes
 */
export function matrix(
  topology: Topology,
  machines: readonly Machine[],
  address: (machine: Machine) => Address | null,
): Matrix | null {
  const lines = boundaries(topology);
  const keys = new Map<string, number>();
  const members: Machine[][] = [];
  const classOf = machines.map((machine) => {
    const key = classKey(topology, machine, lines);
    let number = keys.get(key);
    if (number === undefined) {
      keys.set(key, (number = members.length));
      members.push([]);
    }
    if (members[number]!.length < 2) members[number]!.push(machine);
    return number;
  });
  if (members.length > MOST_CLASSES) return null;
  let simulated = 0;
  const cells = members.map((from, i) =>
    members.map((to, j): MatrixCell => {
      const target = i === j ? (to[1] ?? to[0]!) : to[0]!;
      const ip = address(target);
      if (!ip) return { verdict: 'no', code: 'no-address' };
      simulated += 1;
      return cellOf(ping(topology, from[0]!, ip, target));
    }),
  );
  return { machines: [...machines], classOf, cells, simulated };
}

export const cellAt = ({ classOf, cells }: Matrix, from: number, to: number): MatrixCell =>
  cells[classOf[from]!]![classOf[to]!]!;

const cellOf = (echo: Echo): MatrixCell => ({
  verdict: echo.verdict,
  code: failureOf(echo) ?? '',
});

/** Every place in the address space at which some routing table or translation changes its mind, in order. */
function boundaries(topology: Topology): Record<4 | 6, bigint[]> {
  const found: Record<4 | 6, Set<bigint>> = { 4: new Set(), 6: new Set() };
  // The last address of a subnet is its broadcast address, unlike its neighbours.
  const draw = (family: 4 | 6, first: bigint, end: bigint) =>
    found[family]
      .add(first)
      .add(end)
      .add(end + 1n);
  for (const machine of topology.machines.values()) {
    for (const iface of machine.ifaces) {
      for (const own of iface.addresses) {
        const block = containing(own, own.length);
        draw(own.family, block.first, last(block));
      }
      // What comes from there is translated, what lies beside it is not.
      for (const block of iface.masqueradeFrom ?? []) draw(block.family, block.first, last(block));
    }
    for (const { to } of machine.routes) draw(to.family, to.first, last(to));
  }
  const sorted = (set: Set<bigint>) => [...set].sort((a, b) => (a < b ? -1 : a > b ? 1 : 0));
  return { 4: sorted(found[4]), 6: sorted(found[6]) };
}

function cellIndex(lines: readonly bigint[], value: bigint): number {
  let [low, high] = [0, lines.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (lines[middle]! <= value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/**
 * What tells a machine apart from others: where it is joined, its addresses by the stretch of the address space they lie in,
 * its prefixes and gateways. Machines that pass packets on, have routes, several addressed interfaces, an address that
 * others have too, or one that others send through, are like no other.
 */
function classKey(topology: Topology, machine: Machine, lines: Record<4 | 6, bigint[]>): string {
  const alone = `alone|${machine.id}`;
  const addressed = machine.ifaces.filter((iface) => iface.addresses.length > 0);
  const [iface] = addressed;
  if (
    !iface ||
    addressed.length !== 1 ||
    machine.forwarding === 'all' ||
    machine.routes.length > 0 ||
    machine.outside ||
    machine.speaksThrough ||
    (machine.forwarding === 'sides' && machine.ifaces.length > 1)
  )
    return alone;
  if (!iface.up || iface.node === null) return alone;
  const owners = machine.on ? 1 : 0;
  const parts: string[] = [];
  for (const own of iface.addresses) {
    if (topology.ownersOf(own).length !== owners || asGateway(topology).has(keyOf(own)))
      return alone;
    parts.push(
      `${own.family}/${own.length}/${containing(own, own.length).first}/${cellIndex(lines[own.family], own.value)}`,
    );
  }
  // An interface without addresses still answers for those of the others, wherever it is joined.
  const others = machine.ifaces.flatMap((other) =>
    other !== iface && other.up && other.node !== null ? [topology.segmentOf(other)] : [],
  );
  const gateways = ([4, 6] as const).map((family) =>
    machine.gateway[family] ? keyOf(machine.gateway[family]) : '',
  );
  return [
    machine.on,
    topology.segmentOf(iface),
    others.sort().join(),
    gateways.join(),
    machine.onLink,
    machine.reversePath,
    machine.strongHost,
    ...parts,
  ].join('|');
}

/** Addresses that somebody sends through: their machines are not like others. */
const gateways = new WeakMap<Topology, Set<AddressKey>>();
function asGateway(topology: Topology): Set<AddressKey> {
  let found = gateways.get(topology);
  if (!found) {
    found = new Set();
    for (const machine of topology.machines.values()) {
      for (const family of [4, 6] as const)
        if (machine.gateway[family]) found.add(keyOf(machine.gateway[family]));
      for (const { via } of machine.routes) if (via) found.add(keyOf(via));
    }
    gateways.set(topology, found);
  }
  return found;
}
