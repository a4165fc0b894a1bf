/** Where a machine sends a packet: its routing table, the longest prefix first, then the lowest metric, then as configured. */
import {
  containing,
  contains,
  last,
  prefixOf,
  type Address,
  type Prefix,
} from '../address/index.js';
import { owns, ownIface } from './own-addresses.js';
import { type Iface, type Machine } from './machine.js';

export interface Route {
  to: Prefix;
  /** Null: what goes there is dropped on purpose. */
  iface: Iface | null;
  /** Null: the destination itself is asked for on the segment. */
  via: Address | null;
  /** Address of the machine that its own subnet was configured with: sent from by itself. */
  source?: Address;
}

/** With the last address it leads to, counted once. */
interface Entry extends Route {
  end: bigint;
}

/** Metrics that the Linux kernel takes by itself. */
const METRIC = { direct: { 4: 0, 6: 256 }, given: { 4: 0, 6: 1024 } } as const;

/** A subnet of the machine itself. */
interface Direct extends Route {
  iface: Iface;
}

const LINK_LOCAL = prefixOf('fe80::/10');
const tables = new WeakMap<Machine, Entry[]>();

/** Routes of a machine, most specific first. A gateway that lies in none of its subnets is not installed, unless it is meant to. */
function routesOf(machine: Machine): readonly Entry[] {
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
  const table: (Route & { metric: number })[] = [];
  const direct: Direct[] = [];
  for (const iface of machine.ifaces) {
    if (!iface.up) continue;
    // An address that an earlier prefix took for its broadcast address brings no route either.
    for (const address of iface.addresses)
      if (owns(machine, address))
        direct.push({
          to: containing(address, address.length),
          iface,
          via: null,
          source: address,
        });
  }
  for (const route of direct) table.push({ ...route, metric: METRIC.direct[route.to.family] });
  for (const { to, via, blackhole, metric: set } of machine.routes) {
    const metric = set ?? METRIC.given[to.family];
    const found = blackhole ? { iface: null, via: null } : via && nextHop(machine, direct, via);
    if (found) table.push({ to, ...found, metric });
  }
  for (const family of [4, 6] as const) {
    const via = machine.gateway[family];
    if (!via) continue;
    const found = nextHop(machine, direct, via);
    const iface =
      machine.onLink || contains(LINK_LOCAL, via) ? firstWith(machine, family) : undefined;
    if (found ?? iface)
      table.push({
        to: { family, first: 0n, length: 0 },
        ...(found ?? { iface: iface!, via }),
        metric: METRIC.given[family],
      });
  }
  return table.sort((a, b) => b.to.length - a.to.length || a.metric - b.metric);
}

/**
 * The interface whose own subnet holds a next hop. Where the next hop is the machine itself, IPv4 asks for every destination
 * on that interface's segment, as the kernel does; IPv6 installs no such route.
 */
function nextHop(
  machine: Machine,
  direct: readonly Direct[],
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

/** Whether an address is within one of the machine's own subnets, as configured. */
export const inOwnSubnet = (machine: Machine, to: Address): boolean =>
  machine.ifaces.some(
    (iface) =>
      iface.up &&
      iface.addresses.some(
        (own) => own.family === to.family && contains(containing(own, own.length), to),
      ),
  );
