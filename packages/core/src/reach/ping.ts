/**
 * One echo request and its reply, hop by hop. "Reached" means: the request, sent from the source address that the sender's
 * own routing chooses, arrives at a machine that has the destination address, and the reply comes back to the sender.
 *
 * Where nobody said otherwise, Linux's answers to ARP are taken (arp_ignore 0: any of its addresses on any interface), and
 * a packet from any source; translation follows connections: replies go back by the translation that the request made, and
 * are translated by no other.
 */
import { contains, type Address, type Prefix } from '../address/index.js';
import type { Echo, Journey, Verdict, Hop, Failure } from './journey.js';
import { routeTo, type Route } from './route.js';
import { sourceFor } from './source.js';
import { broadcastOf, carriedBy, isConfigured, owns, type Topology } from './topology.js';
import {
  type Iface,
  type Machine,
  type Neighbour,
  type PortForward,
  type Service,
} from './machine.js';

interface Translation {
  at: Machine;
  /** Source address it left with. */
  outer: Address;
  original: Address;
  /** Machine that passes the reply on. */
  resume: Machine;
}

/** A port that was forwarded: the answer of the inner machine leaves as if the outer address had said it. */
interface Forwarding {
  at: Machine;
  outer: Address;
  inner: Address;
}

interface Packet {
  from: Address | null;
  to: Address;
  /** Null: an echo, which no port forward takes. */
  service: Service | null;
}

interface Connection {
  /** Machines that passed the request on, and let its answer through. */
  passed: ReadonlySet<Machine>;
  translations: Translation[];
  forwardings: Forwarding[];
}

const MOST_HOPS = 64;
const same = (a: Address, b: Address): boolean => a.family === b.family && a.value === b.value;

/**
 * @param target machine that is meant; null: whoever has the address
 * @param service the first packet of a connection to it, instead of an echo: ports that are forwarded take it on
 */
export function ping(
  topology: Topology,
  sender: Machine,
  to: Address,
  target: Machine | null = null,
  service: Service | null = null,
): Echo {
  const nothing: Journey = {
    hops: [station(sender, null)],
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
  const connection: Connection = { passed: new Set(), translations: [], forwardings: [] };
  const packet: Packet = { from: null, to, service };
  const request = carry(topology, sender, packet, connection, false);
  if (!request.arrived)
    return {
      verdict: request.failure?.code === 'not-forwarded-inside' ? 'refused' : 'no',
      request,
      reply: null,
      answeredBy: null,
    };
  const forwarded = connection.forwardings.length > 0;
  const stranger = target !== null && request.arrived !== target && !forwarded;
  if (request.arrived === sender && connection.translations.length === 0 && !forwarded)
    return {
      verdict: stranger ? 'somebody else answered' : 'yes',
      request,
      reply: null,
      answeredBy: sender,
    };
  const answer: Packet = { from: packet.to, to: packet.from!, service: null };
  connection.passed = new Set(request.hops.map(({ machine }) => machine));
  const reply = carry(topology, request.arrived, answer, connection, true);
  if (reply.arrived === sender && !same(answer.from!, to))
    reply.failure = {
      ...{ code: 'answers-as-another', machine: request.arrived },
      ...{ as: answer.from!, asked: to },
    };
  const back = reply.arrived === sender && !reply.failure;
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
  { passed, translations, forwardings }: Connection,
  reply: boolean,
): Journey {
  const hops: Hop[] = [];
  let contested: Journey['contested'] = null;
  let machine = start;
  let came: Iface | null = null;
  /** It said the packet itself, or passes on what belongs to a connection it has let through. */
  let mayPass = true;
  /** What it was sent to is a port that leads on: a host lets that through to its networks inside. */
  let forwardedTo: Hop['forwardedTo'] = null;
  /** The frame it came in went to everybody on the segment: nobody passes that on. */
  let toAll: { machine: Machine; block: Prefix } | null = null;
  const end = (failure: Failure | null, arrived: Machine | null = null): Journey => {
    hops.push({ ...station(machine, came), forwardedTo });
    return { hops, arrived, failure, contested };
  };
  for (let count = 0; count < MOST_HOPS; count += 1) {
    const unwelcome = came && unwelcomeAt(topology, machine, came, packet.from);
    if (unwelcome) return end(unwelcome);
    const leading: PortForward | undefined =
      came && !reply ? forwardAt(machine, packet) : undefined;
    if (leading) {
      forwardings.push({ at: machine, outer: packet.to, inner: leading.to });
      packet.to = leading.to;
      packet.service = { protocol: leading.protocol, port: leading.toPort };
      forwardedTo = { ...packet.service, to: leading.to };
      const teller: Machine | undefined = leading.through
        ? topology.machines.get(leading.through)
        : undefined;
      const said: Address | undefined = teller?.ifaces[0]?.addresses.find(
        ({ family }) => family === leading.to.family,
      );
      if (teller && said) {
        hops.push({ ...station(machine, came), forwardedTo });
        translations.push({ at: teller, outer: said, original: packet.from!, resume: machine });
        packet.from = said;
        [machine, came, mayPass, forwardedTo] = [teller, null, true, null];
      }
    }
    if (owns(machine, packet.to)) {
      const index = reply
        ? translations.findIndex((found) => found.at === machine && same(found.outer, packet.to))
        : -1;
      if (index < 0)
        return came && topology.isStrong(machine) && !carriedBy(came, packet.to)
          ? end({ code: 'strong-host', machine, in: came, to: packet.to })
          : end(null, machine);
      const [translation] = translations.splice(index, 1);
      packet.to = translation!.original;
      if (translation!.resume !== machine) {
        hops.push(station(machine, came));
        machine = translation!.resume;
        came = null;
      }
      mayPass = true;
      if (owns(machine, packet.to)) return end(null, machine);
      if (toAll) return end({ code: 'broadcast-here', to: packet.from!, ...toAll });
    }
    if (machine.outside && count > 0 && topology.ownersOf(packet.to).length === 0)
      return end(null, machine);
    if (came && machine.speaksThrough && !reply) {
      const host = topology.machines.get(machine.speaksThrough)!;
      hops.push(station(machine, came));
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
    // A request to a broadcast address is refused. Who replies sends to everybody on the segment, and so to whom it is for; who passes on takes it for its own.
    const broad = broadcastOf(machine, packet.to);
    if (broad && (!reply || count > 0))
      return end({ code: 'broadcast-here', machine, to: packet.to, block: broad.block });
    if (came && !mayPass && machine.forwarding === 'none')
      return end({ code: 'does-not-forward', machine, in: came, to: packet.to });
    const route: Route | undefined = broad
      ? { to: broad.block, iface: broad.iface, via: null }
      : routeTo(machine, packet.to);
    if (!route)
      return end(
        machine.outside
          ? { code: 'not-carried-outside', to: packet.to }
          : { code: 'no-route', machine, to: packet.to },
      );
    const out = route.iface;
    if (!out) return end({ code: 'blackholed', machine, to: packet.to, block: route.to });
    const way = { iface: out, via: route.via };
    const lets =
      forwardedTo !== null || passed.has(machine) || (came && passesInside(came, out, reply));
    if (came && !mayPass && machine.forwarding === 'sides' && !lets)
      return end({ code: 'not-forwarded-inside', machine, in: came, out });
    let translatedTo: Address | null = null;
    packet.from ??= sourceFor(machine, { ...way, source: route.source }, packet.to) ?? null;
    if (came && !reply && packet.from && translates(machine, came, out, packet.from)) {
      translatedTo = sourceFor(machine, way, packet.to) ?? null;
      if (translatedTo) {
        translations.push({
          at: machine,
          outer: translatedTo,
          original: packet.from,
          resume: machine,
        });
        packet.from = translatedTo;
      }
    }
    const told = reply
      ? forwardings.findIndex(({ at, inner }) => at === machine && same(inner, packet.from!))
      : -1;
    if (told >= 0) packet.from = translatedTo = forwardings.splice(told, 1)[0]!.outer;
    const next = route.via ?? packet.to;
    const segment = topology.segmentOf(out);
    if (segment === null) return end({ code: 'not-joined', machine, iface: out });
    const asked =
      packet.from && isConfigured(machine, packet.from)
        ? packet.from
        : sourceFor(machine, { iface: out, via: null }, next);
    const answering: Neighbour[] = topology
      .answering(segment, next, machine, packet.from, broad !== undefined)
      .filter(
        (found) => broad ?? !unwelcomeAt(topology, found.machine, found.iface, asked ?? null),
      );
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
        segment,
        address: next,
        machines: answering.map((found) => found.machine),
      };
    hops.push({ machine, in: came, out, next, translatedTo, forwardedTo });
    forwardedTo = null;
    machine = answering[0]!.machine;
    came = answering[0]!.iface;
    toAll = broad ? { machine: hops.at(-1)!.machine, block: broad.block } : null;
    mayPass = false;
  }
  return end({ code: 'loop', machine });
}

/** Why a machine drops what comes in by an interface from a source, whatever it is for: reverse-path filtering, IPv4 only. */
function unwelcomeAt(
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

function saidFrom(host: Machine, to: Address): Address | undefined {
  const route = routeTo(host, to);
  return route?.iface ? sourceFor(host, { iface: route.iface, via: route.via }, to) : undefined;
}

/** What a host passes on: from its NAT networks out, from and to its routed ones; replies of connections it has let through. */
function passesInside(came: Iface, out: Iface, reply: boolean): boolean {
  if (came.side === 'nat') return out.side === 'uplink' || out.side === 'plain' || reply;
  if (came.side === 'routed') return out.side !== 'nat' && out.side !== 'local';
  if (came.side === 'uplink' || came.side === 'plain') return out.side === 'routed';
  return false;
}

/** A host translates what comes from its NAT networks, whatever else it forwards; where it is known by which uplink, by that one only. */
const translates = (machine: Machine, came: Iface, out: Iface, from: Address): boolean =>
  (came.side === 'nat' &&
    out.side !== 'nat' &&
    (!came.translatedBy || came.translatedBy === out.id)) ||
  (machine.forwarding !== 'sides' &&
    out.masquerade &&
    (!out.masqueradeFrom || out.masqueradeFrom.some((block) => contains(block, from))));

/** The port forward of a machine that takes a packet for one of its own addresses on; the first of several. */
const forwardAt = (machine: Machine, { to, service }: Packet): PortForward | undefined =>
  service && owns(machine, to)
    ? machine.portForwards?.find(
        ({ protocol, port, at, to: inner }) =>
          protocol === service.protocol &&
          port === service.port &&
          inner.family === to.family &&
          (at === null || same(at, to)),
      )
    : undefined;

const station = (machine: Machine, came: Iface | null): Hop => ({
  ...{ machine, in: came, out: null, next: null },
  ...{ translatedTo: null, forwardedTo: null },
});
