/** One packet, hop by hop, until it arrives or something stops it. */
import type { Address, Prefix } from '../address/index.js';
import type { Failure, Hop, Journey } from './journey.js';
import type { Iface, Machine, Neighbour, PortForward } from './machine.js';
import { broadcastOf, carriedBy, isConfigured, owns } from './own-addresses.js';
import {
  forwardAt,
  type Packet,
  passesInside,
  saidFrom,
  same,
  translates,
  unwelcomeAt,
} from './passing.js';
import { type Route, routeTo } from './route.js';
import { sourceFor } from './source.js';
import type { Topology } from './topology.js';

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

export interface Connection {
  /** Machines that passed the request on, and let its answer through. */
  passed: ReadonlySet<Machine>;
  translations: Translation[];
  forwardings: Forwarding[];
}

const MOST_HOPS = 64;

export function carry(
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
    const forwardedAt = reply
      ? forwardings.findIndex(({ at, inner }) => at === machine && same(inner, packet.from!))
      : -1;
    if (forwardedAt >= 0) packet.from = translatedTo = forwardings.splice(forwardedAt, 1)[0]!.outer;
    const next = route.via ?? packet.to;
    const segment = topology.segmentOf(out);
    if (segment === null) return end({ code: 'not-joined', machine, iface: out });
    const source =
      packet.from && isConfigured(machine, packet.from)
        ? packet.from
        : sourceFor(machine, { iface: out, via: null }, next);
    const answering: Neighbour[] = topology
      .answering(segment, next, machine, packet.from, broad !== undefined)
      .filter(
        (found) => broad ?? !unwelcomeAt(topology, found.machine, found.iface, source ?? null),
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

export const station = (machine: Machine, came: Iface | null): Hop => ({
  ...{ machine, in: came, out: null, next: null },
  ...{ translatedTo: null, forwardedTo: null },
});
