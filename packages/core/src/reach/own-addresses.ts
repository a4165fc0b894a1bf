/** The addresses that a machine has itself, by which interface, and those by which it speaks to all of a subnet. */
import { type Address, broadcast, containing, type Family, type Prefix } from '../address/index.js';
import type { Iface, IfaceAddress, Machine } from './machine.js';

export type AddressKey = number | bigint;

/** IPv4 addresses are numbers, IPv6 ones are not. */
export const keyOf = ({ family, value }: Address): AddressKey =>
  family === 4 ? Number(value) : value;

/** The interface by which a machine has an address, if it is up. */
export function ownIface(machine: Machine, address: Address): Iface | undefined {
  const { family, value } = address;
  const only = onlyIface(machine);
  if (only) return only.up && carriedBy(only, address) ? only : undefined;
  return ownersIn(machine)[family].get(value);
}

/** Of a machine with one interface and one address at most: nothing needs to be kept of it. */
const onlyIface = ({ ifaces }: Machine): Iface | undefined =>
  ifaces.length === 1 && ifaces[0]!.addresses.length <= 1 ? ifaces[0] : undefined;

/** Whether the machine itself has the address, on an interface that is up, and takes packets for it. */
export const owns = (machine: Machine, address: Address): boolean =>
  ownIface(machine, address) !== undefined;

/** Whether an address is configured on the interface. */
export const carriedBy = (iface: Iface, { family, value }: Address): boolean =>
  iface.addresses.some((own) => own.family === family && own.value === value);

/** Whether an address is configured on the machine, taken for a broadcast address or not. */
export const isConfigured = (machine: Machine, address: Address): boolean =>
  machine.ifaces.some((iface) => iface.up && carriedBy(iface, address));

/** The machine's own subnet, as configured, whose last address this is: it stands for all of them, not for one machine. */
export function broadcastOf(machine: Machine, to: Address): Broadcast | undefined {
  if (to.family === 6) return undefined;
  const only = onlyIface(machine);
  if (!only) return broadcastsOf(machine).get(to.value);
  const [own] = only.up ? only.addresses : [];
  const block = own && blockOf(own);
  return block && own.value !== to.value && broadcast(block) === to.value
    ? { block, iface: only }
    : undefined;
}

/** The block of an address that has a broadcast address; two addresses or one have none (RFC 3021). */
const blockOf = (address: IfaceAddress): Prefix | undefined =>
  address.family === 6 || address.length > 30 ? undefined : containing(address, address.length);

export interface Broadcast {
  block: Prefix;
  iface: Iface;
}

const broadcasts = new WeakMap<Machine, Map<bigint, Broadcast>>();

function broadcastsOf(machine: Machine): Map<bigint, Broadcast> {
  let found = broadcasts.get(machine);
  if (!found) readAddresses(machine, (found = new Map()), { 4: new Map(), 6: new Map() });
  broadcasts.set(machine, found!);
  return found!;
}

const kept = new WeakMap<Machine, Record<Family, Map<bigint, Iface>>>();

/** Addresses of a machine with their interface, the first configured where one stands twice. */
function ownersIn(machine: Machine): Record<Family, Map<bigint, Iface>> {
  let found = kept.get(machine);
  if (!found) readAddresses(machine, new Map(), (found = { 4: new Map(), 6: new Map() }));
  kept.set(machine, found!);
  return found!;
}

/** In the order of configuration: what an earlier prefix made a broadcast address is none of the machine's own, and the other way round. */
function readAddresses(
  machine: Machine,
  last: Map<bigint, Broadcast>,
  own: Record<Family, Map<bigint, Iface>>,
): void {
  for (const iface of machine.ifaces) {
    for (const address of iface.up ? iface.addresses : []) {
      const { family, value } = address;
      if (!own[family].has(value) && !(family === 4 && last.has(value)))
        own[family].set(value, iface);
      const block = blockOf(address);
      if (!block) continue;
      const top = broadcast(block)!;
      if (!last.has(top) && !own[4].has(top)) last.set(top, { block, iface });
    }
  }
}
