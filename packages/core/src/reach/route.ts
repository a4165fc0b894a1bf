/** Where a machine sends a packet: its routing table, the longest prefix first, in the order it was configured among equals. */
import {
  containing,
  contains,
  last,
  prefixOf,
  type Address,
  type Prefix,
} from '../address/index.js';
import { owns, ownIface, type Iface, type Machine } from './topology.js';

export interface Route {
  to: Prefix;
  iface: Iface;
  /** Null: the destination itself is asked for on the segment. */
  via: Address | null;
}

/** With the last address it leads to, counted once. */
interface Entry extends Route {
  end: bigint;
}

const LINK_LOCAL = prefixOf('fe80::/10');
const tables = new WeakMap<Machine, Entry[]>();

/** Routes of a machine, most specific first. A gateway that lies in none of its subnets is not installed, unless it is meant to. */
export function routesOf(machine: Machine): readonly Entry[] {
  let table = tables.get(machine);
  if (!table)
    tables.set(
      machine,
      (table = makeTable(machine).map((route) => ({ ...route, end: last(route.to) }))),
    );
  return table;
}

function makeTable(machine: Machine): Route[] {
  if (machine.outside)
    return machine.routes
      .map(({ to, via }) => ({ to, iface: machine.ifaces[0]!, via }))
      .sort((a, b) => b.to.length - a.to.length);
  const table: Route[] = [];
  for (const iface of machine.ifaces) {
    if (!iface.up) continue;
    for (const address of iface.addresses)
      table.push({ to: containing(address, address.length), iface, via: null });
  }
  const direct = [...table];
  for (const { to, via } of machine.routes) {
    const found = via && nextHop(machine, direct, via);
    if (found) table.push({ to, ...found });
  }
  for (const family of [4, 6] as const) {
    const via = machine.gateway[family];
    if (!via) continue;
    const found = nextHop(machine, direct, via);
    const iface =
      machine.onLink || contains(LINK_LOCAL, via) ? firstWith(machine, family) : undefined;
    if (found ?? iface)
      table.push({ to: { family, first: 0n, length: 0 }, ...(found ?? { iface: iface!, via }) });
  }
  return table
    .map((route, i) => ({ route, i }))
    .sort((a, b) => b.route.to.length - a.route.to.length || a.i - b.i)
    .map(({ route }) => route);
}

/**
 * The interface whose own subnet holds a next hop. Where the next hop is the machine itself, IPv4 asks for every destination
 * on that interface's segment, as the kernel does; IPv6 installs no such route.
 */
function nextHop(
  machine: Machine,
  direct: readonly Route[],
  via: Address,
): { iface: Iface; via: Address | null } | undefined {
  if (owns(machine, via)) {
    return via.family === 4 ? { iface: ownIface(machine, via)!, via: null } : undefined;
  }
  const iface = direct
    .filter((route) => contains(route.to, via))
    .sort((a, b) => b.to.length - a.to.length)[0]?.iface;
  return iface && { iface, via };
}

const firstWith = (machine: Machine, family: 4 | 6): Iface | undefined =>
  machine.ifaces.find(
    (iface) => iface.up && iface.addresses.some((address) => address.family === family),
  );

export const routeTo = (machine: Machine, { family, value }: Address): Route | undefined =>
  routesOf(machine).find(
    (route) => route.to.family === family && route.to.first <= value && value <= route.end,
  );

/** The address a machine sends from by a route: the interface's own in the next hop's subnet, else its first. */
export function sourceFor({ iface, via }: Route, to: Address): Address | undefined {
  const mine = iface.addresses.filter((address) => address.family === to.family);
  const next = via ?? to;
  return mine.find((address) => contains(containing(address, address.length), next)) ?? mine[0];
}

/** Whether an address is within one of the machine's own subnets, as configured. */
export const inOwnSubnet = (machine: Machine, to: Address): boolean =>
  machine.ifaces.some(
    (iface) =>
      iface.up &&
      iface.addresses.some(
        (own) => own.family === to.family && contains(containing(own, own.length), to),
      ),
  );
