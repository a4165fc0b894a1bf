/**
 * One echo request and its reply, hop by hop. "Reached" means: the request, sent from the source address that the sender's
 * own routing chooses, arrives at a machine that has the destination address, and the reply comes back to the sender.
 *
 * Where nobody said otherwise, Linux's answers to ARP are taken (arp_ignore 0: any of its addresses on any interface), and
 * a packet from any source; translation follows connections: replies go back by the translation that the request made, and
 * are translated by no other.
 */
import { type Address } from '../address/index.js';
import type { Echo, Journey, Verdict } from './journey.js';
import { type Topology } from './topology.js';
import { type Machine, type Service } from './machine.js';
import { type Packet, same } from './passing.js';
import { station, type Connection, carry } from './carry.js';

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
      ...{ as: answer.from!, expected: to },
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
