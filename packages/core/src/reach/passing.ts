/** What a machine makes of a packet: whether it takes it, passes it on, translates it, or leads it to a forwarded port. */
import { type Address, contains } from '../address/index.js';
import type { Failure } from './journey.js';
import type { Iface, Machine, PortForward, Service } from './machine.js';
import { routeTo } from './route.js';
import { sourceFor } from './source.js';
import { type Topology } from './topology.js';
import { broadcastOf, owns } from './own-addresses.js';

export interface Packet {
  from: Address | null;
  to: Address;
  /** Null: an echo, which no port forward takes. */
  service: Service | null;
}

export const same = (a: Address, b: Address): boolean =>
  a.family === b.family && a.value === b.value;

/** Why a machine drops what comes in by an interface from a source, whatever it is for: reverse-path filtering, IPv4 only. */
export function unwelcomeAt(
  topology: Topology,
  machine: Machine,
  came: Iface,
  from: Address | null,
): Failure | null {
  const filtering = topology.reversePathOf(machine);
  if (filtering === 'off' || from?.family !== 4 || machine.outside) return null;
  const way = broadcastOf(machine, from) ? null : (routeTo(machine, from)?.iface ?? null);
  if (way && (filtering === 'loose' || way === came)) return null;
  return { code: 'reverse-path', machine, in: came, from, way };
}

export function saidFrom(host: Machine, to: Address): Address | undefined {
  const route = routeTo(host, to);
  return route?.iface ? sourceFor(host, { iface: route.iface, via: route.via }, to) : undefined;
}

/** What a host passes on: from its NAT networks out, from and to its routed ones; replies of connections it has let through. */
export function passesInside(came: Iface, out: Iface, reply: boolean): boolean {
  if (came.side === 'nat') return out.side === 'uplink' || out.side === 'plain' || reply;
  if (came.side === 'routed') return out.side !== 'nat' && out.side !== 'local';
  if (came.side === 'uplink' || came.side === 'plain') return out.side === 'routed';
  return false;
}

/** A host translates what comes from its NAT networks, whatever else it forwards; where it is known by which uplink, by that one only. */
export const translates = (machine: Machine, came: Iface, out: Iface, from: Address): boolean =>
  (came.side === 'nat' &&
    out.side !== 'nat' &&
    (!came.translatedBy || came.translatedBy === out.id)) ||
  (machine.forwarding !== 'sides' &&
    out.masquerade &&
    (!out.masqueradeFrom || out.masqueradeFrom.some((block) => contains(block, from))));

/** The port forward of a machine that takes a packet for one of its own addresses on; the first of several. */
export const forwardAt = (machine: Machine, { to, service }: Packet): PortForward | undefined =>
  service && owns(machine, to)
    ? machine.portForwards?.find(
        ({ protocol, port, at, to: inner }) =>
          protocol === service.protocol &&
          port === service.port &&
          inner.family === to.family &&
          (at === null || same(at, to)),
      )
    : undefined;
