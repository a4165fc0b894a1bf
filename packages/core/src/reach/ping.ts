/**
 * One echo request and its reply, hop by hop. "Reached" means: the request, sent from the source address that the sender's
 * own routing chooses, arrives at a machine that has the destination address, and the reply comes back to the sender.
 *
 * Linux's answers to ARP are taken (arp_ignore 0: any of its addresses on any interface); translation follows connections:
 * replies go back by the translation that the request made, and are translated by no other.
 */
import { broadcast, containing, type Address, type Prefix } from '../address/index.js';
import { routeTo, sourceFor } from './route.js';
import { owns, type Iface, type Machine, type Topology } from './topology.js';

export interface Hop {
  machine: Machine;
  /** Interface it came in by; null at the beginning. */
  in: Iface | null;
  /** Interface it went out by; null at the end. */
  out: Iface | null;
  /** Who was asked for on the segment. */
  next: Address | null;
  /** The packet left with this source address instead of its own. */
  translatedTo: Address | null;
}

export type Failure =
  | { code: 'sender-off' }
  | { code: 'no-address'; family: 4 | 6 }
  | { code: 'no-route'; machine: Machine; to: Address }
  | { code: 'not-joined'; machine: Machine; iface: Iface }
  | { code: 'nobody-answers'; machine: Machine; iface: Iface; next: Address; gateway: boolean }
  | { code: 'does-not-forward'; machine: Machine; in: Iface; to: Address }
  | { code: 'not-forwarded-inside'; machine: Machine; in: Iface; out: Iface }
  | { code: 'broadcast-here'; machine: Machine; to: Address; block: Prefix }
  | { code: 'not-carried-outside'; to: Address }
  | { code: 'loop'; machine: Machine };

export interface Journey {
  hops: Hop[];
  /** Machine at which the packet arrived. */
  arrived: Machine | null;
  failure: Failure | null;
  /** Several machines answered for one address on the way. */
  contested: { segment: number; address: Address; machines: Machine[] } | null;
}

export type Verdict = 'yes' | 'no' | 'somebody else answered' | 'one way' | 'refused';

export interface Echo {
  verdict: Verdict;
  request: Journey;
  reply: Journey | null;
  /** Machine that answered, where one did. */
  answeredBy: Machine | null;
}

interface Translation {
  at: Machine;
  /** Source address it left with. */
  outer: Address;
  original: Address;
  /** Machine that passes the reply on. */
  resume: Machine;
}

interface Packet {
  from: Address | null;
  to: Address;
}

const MOST_HOPS = 64;
const same = (a: Address, b: Address): boolean => a.family === b.family && a.value === b.value;

/** @param target machine that is meant; null: whoever has the address */
export function ping(
  topology: Topology,
  sender: Machine,
  to: Address,
  target: Machine | null = null,
): Echo {
  const nothing: Journey = {
    hops: [{ machine: sender, in: null, out: null, next: null, translatedTo: null }],
    arrived: null,
    failure: null,
    contested: null,
  };
  if (!sender.on)
    return {
      verdict: 'no',
      request: { ...nothing, failure: { code: 'sender-off' } },
      reply: null,
      answeredBy: null,
    };
  if (
    !sender.ifaces.some(
      (iface) => iface.up && iface.addresses.some((address) => address.family === to.family),
    )
  ) {
    return {
      verdict: 'no',
      request: { ...nothing, failure: { code: 'no-address', family: to.family } },
      reply: null,
      answeredBy: null,
    };
  }
  const translations: Translation[] = [];
  const packet: Packet = { from: null, to };
  const request = carry(topology, sender, packet, translations, false);
  if (!request.arrived)
    return {
      verdict: request.failure?.code === 'not-forwarded-inside' ? 'refused' : 'no',
      request,
      reply: null,
      answeredBy: null,
    };
  const stranger = target !== null && request.arrived !== target;
  if (request.arrived === sender && translations.length === 0)
    return {
      verdict: stranger ? 'somebody else answered' : 'yes',
      request,
      reply: null,
      answeredBy: sender,
    };
  const reply = carry(
    topology,
    request.arrived,
    { from: to, to: packet.from! },
    translations,
    true,
  );
  const back = reply.arrived === sender;
  const doubtful = stranger || request.contested !== null;
  const verdict: Verdict = back
    ? doubtful
      ? 'somebody else answered'
      : reply.contested
        ? 'one way'
        : 'yes'
    : stranger
      ? 'somebody else answered'
      : 'one way';
  return { verdict, request, reply, answeredBy: request.arrived };
}

function carry(
  topology: Topology,
  start: Machine,
  packet: Packet,
  translations: Translation[],
  reply: boolean,
): Journey {
  const hops: Hop[] = [];
  let contested: Journey['contested'] = null;
  let machine = start;
  let came: Iface | null = null;
  /** It said the packet itself, or passes on what belongs to a connection it has let through. */
  let mayPass = true;
  const end = (failure: Failure | null, arrived: Machine | null = null): Journey => {
    hops.push({ machine, in: came, out: null, next: null, translatedTo: null });
    return { hops, arrived, failure, contested };
  };
  for (let count = 0; count < MOST_HOPS; count += 1) {
    if (owns(machine, packet.to)) {
      const index = reply
        ? translations.findIndex((found) => found.at === machine && same(found.outer, packet.to))
        : -1;
      if (index < 0) return end(null, machine);
      const [translation] = translations.splice(index, 1);
      packet.to = translation!.original;
      if (translation!.resume !== machine) {
        hops.push({ machine, in: came, out: null, next: null, translatedTo: null });
        machine = translation!.resume;
        came = null;
      }
      mayPass = true;
      if (owns(machine, packet.to)) return end(null, machine);
    }
    if (machine.outside && count > 0 && topology.ownersOf(packet.to).length === 0)
      return end(null, machine);
    if (came && machine.speaksThrough && !reply) {
      const host = topology.machines.get(machine.speaksThrough)!;
      hops.push({ machine, in: came, out: null, next: null, translatedTo: null });
      const said = owns(host, packet.to) ? packet.to : saidFrom(host, packet.to);
      if (said) {
        translations.push({ at: host, outer: said, original: packet.from!, resume: machine });
        packet.from = said;
      }
      machine = host;
      came = null;
      mayPass = true;
      if (owns(machine, packet.to)) return end(null, machine);
    }
    // A request to a broadcast address is refused; a reply goes out to everybody on the segment, and so to whom it is for.
    const broad = broadcastOf(machine, packet.to);
    if (broad && !reply)
      return end({ code: 'broadcast-here', machine, to: packet.to, block: broad.block });
    if (came && !mayPass && machine.forwarding === 'none')
      return end({ code: 'does-not-forward', machine, in: came, to: packet.to });
    const route = broad
      ? { to: broad.block, iface: broad.iface, via: null }
      : routeTo(machine, packet.to);
    if (!route)
      return end(
        machine.outside
          ? { code: 'not-carried-outside', to: packet.to }
          : { code: 'no-route', machine, to: packet.to },
      );
    const out = route.iface;
    if (came && !mayPass && machine.forwarding === 'sides' && !passesInside(came, out, reply))
      return end({ code: 'not-forwarded-inside', machine, in: came, out });
    let translatedTo: Address | null = null;
    packet.from ??= sourceFor(route, packet.to) ?? null;
    if (came && !reply && translates(machine, came, out)) {
      translatedTo = sourceFor(route, packet.to) ?? null;
      if (translatedTo && packet.from) {
        translations.push({
          at: machine,
          outer: translatedTo,
          original: packet.from,
          resume: machine,
        });
        packet.from = translatedTo;
      }
    }
    const next = route.via ?? packet.to;
    if (out.segment === null) return end({ code: 'not-joined', machine, iface: out });
    const answering = topology.answering(out.segment, next, machine, packet.from);
    if (answering.length === 0)
      return end({
        code: 'nobody-answers',
        machine,
        iface: out,
        next,
        gateway: route.via !== null,
      });
    if (answering.length > 1)
      contested ??= {
        segment: out.segment,
        address: next,
        machines: answering.map((found) => found.machine),
      };
    hops.push({ machine, in: came, out, next, translatedTo });
    machine = answering[0]!.machine;
    came = answering[0]!.iface;
    mayPass = false;
  }
  return end({ code: 'loop', machine });
}

/** The machine's own subnet, as configured, whose last address this is: no request goes to one machine there. */
const broadcastOf = (machine: Machine, to: Address): Broadcast | undefined =>
  to.family === 6 ? undefined : broadcastsOf(machine).get(to.value);

interface Broadcast {
  block: Prefix;
  iface: Iface;
}

const kept = new WeakMap<Machine, Map<bigint, Broadcast>>();
function broadcastsOf(machine: Machine): Map<bigint, Broadcast> {
  let found = kept.get(machine);
  if (!found) {
    kept.set(machine, (found = new Map()));
    for (const iface of machine.ifaces) {
      for (const own of iface.up ? iface.addresses : []) {
        if (own.family !== 4 || own.length > 30) continue;
        const block = containing(own, own.length);
        const top = broadcast(block)!;
        if (!found.has(top)) found.set(top, { block, iface });
      }
    }
  }
  return found;
}

function saidFrom(host: Machine, to: Address): Address | undefined {
  const route = routeTo(host, to);
  return route && sourceFor(route, to);
}

/** What a host passes on: from its NAT networks out, from and to its routed ones; replies of connections it has let through. */
function passesInside(came: Iface, out: Iface, reply: boolean): boolean {
  if (came.side === 'nat') return out.side === 'uplink' || out.side === 'plain' || reply;
  if (came.side === 'routed') return out.side !== 'nat' && out.side !== 'local';
  if (came.side === 'uplink' || came.side === 'plain') return out.side === 'routed';
  return false;
}

const translates = (machine: Machine, came: Iface, out: Iface): boolean =>
  machine.forwarding === 'sides' ? came.side === 'nat' && out.side !== 'nat' : out.masquerade;
