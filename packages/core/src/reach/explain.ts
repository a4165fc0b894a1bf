/** The first thing that fails on a way, in a sentence of the trade, with the changes that may mend it, smallest first. */
import { formatAddress, formatPrefix, specialUse, type Address } from '../address/index.js';
import type { Fleet } from '../record/index.js';
import { Unanswered } from './unanswered.js';
import type { Explained } from './mending.js';
import type { Echo, Failure, Journey } from './journey.js';
import type { RecordTopology } from './record-topology.js';
import type { Machine } from './machine.js';

export function explain(
  fleet: Fleet,
  world: RecordTopology,
  echo: Echo,
  to: Address,
  target: Machine | null,
): Explained | null {
  const scene = new Scene(fleet, world, echo);
  const journey = echo.request.failure ? echo.request : echo.reply?.failure ? echo.reply : null;
  if (journey) return scene.failed(journey, journey === echo.reply);
  const contested = echo.request.contested ?? echo.reply?.contested;
  if (contested) return scene.contested(contested.address, contested.machines, target);
  if (echo.verdict === 'somebody else answered')
    return scene.stranger(to, echo.answeredBy!, target!);
  if (echo.verdict === 'one way' && echo.reply?.arrived)
    return scene.wentAstray(echo.reply.arrived, echo.request.hops[0]!.machine);
  return null;
}

class Scene extends Unanswered {
  failed(journey: Journey, reply: boolean): Explained {
    const failure = journey.failure!;
    const explained = this.tell(failure, journey);
    return reply ? { ...explained, sentence: `On the way back: ${explained.sentence}` } : explained;
  }

  private tell(failure: Failure, journey: Journey): Explained {
    switch (failure.code) {
      case 'sender-off':
        return this.off(this.echo.request.hops[0]!.machine);
      case 'no-address':
        return this.noAddress(failure.family);
      case 'no-route':
        return this.noRoute(failure.machine, failure.to, journey);
      case 'not-joined':
        return {
          code: 'not-joined',
          sentence: `${failure.iface.name} of ${failure.machine.name} is joined to no network.`,
          at: this.at(failure.machine),
          mends: [],
        };
      case 'nobody-answers':
        return this.nobodyAnswers(failure.machine, failure.iface, failure.next, failure.gateway);
      case 'does-not-forward': {
        const { machine } = failure;
        const mends = this.edits(machine, { forwards: true }, `Let ${machine.name} forward`);
        return {
          code: 'does-not-forward',
          sentence: `${machine.name} gets the packet for ${formatAddress(failure.to)}, but does not forward.`,
          at: this.at(machine),
          mends: [...this.properGateway(journey), ...mends],
        };
      }
      case 'not-forwarded-inside': {
        const inside =
          failure.out.side === 'nat' || failure.out.side === 'local' ? failure.out : failure.in;
        const how =
          inside.side === 'nat'
            ? 'stands behind translation: new connections from outside are dropped'
            : 'is for the host and its guests only';
        return {
          code: 'not-forwarded-inside',
          sentence: `${inside.name} on ${failure.machine.name} ${how}.`,
          at: this.at(failure.machine),
          mends: [],
        };
      }
      case 'broadcast-here': {
        const ip = formatAddress(failure.to);
        return {
          code: 'broadcast-here',
          sentence: `${failure.machine.name} takes ${ip} for the broadcast address of its own subnet ${formatPrefix(failure.block)}, not for a machine.`,
          at: this.at(failure.machine),
          mends: this.properPrefix(failure.machine, failure.to),
        };
      }
      case 'strong-host':
        return {
          code: 'strong-host',
          sentence: `${failure.machine.name} gets the packet for ${formatAddress(failure.to)} by ${failure.in.name}, which does not have that address, and takes it by the adapter that has it only.`,
          at: this.at(failure.machine),
          mends: this.edits(
            failure.machine,
            { hostModel: 'weak' },
            `Let ${failure.machine.name} answer for each of its addresses by any adapter`,
          ),
        };
      case 'reverse-path':
        return {
          code: 'reverse-path',
          sentence: `${failure.machine.name} drops what comes from ${formatAddress(failure.from)} by ${failure.in.name}: ${failure.way ? `it would answer by ${failure.way.name}` : 'it knows no way back there'} (reverse-path filtering).`,
          at: this.at(failure.machine),
          mends: this.edits(
            failure.machine,
            { reversePath: failure.way ? 'loose' : 'off' },
            `Let ${failure.machine.name} ${failure.way ? 'filter loosely' : 'not filter'} by reverse path`,
          ),
        };
      case 'blackholed':
        return {
          code: 'blackholed',
          sentence: `${failure.machine.name} drops what is for ${formatPrefix(failure.block)} on purpose (a route that leads nowhere).`,
          at: this.at(failure.machine),
          mends: [],
        };
      case 'not-carried-outside': {
        const special = specialUse(failure.to);
        const why = special
          ? `${formatAddress(failure.to)} is ${special.use} (${special.source})`
          : `${formatAddress(failure.to)} lies in no block that leads here`;
        const sender = journey.hops.at(-2)?.machine;
        if (!sender)
          return {
            code: 'not-carried-outside',
            sentence: `${why}: no router outside knows a way to it.`,
            at: null,
            mends: [],
          };
        return {
          code: 'no-way-but-outside',
          sentence: `${sender.name} knows no way of its own to ${formatAddress(failure.to)} and sends it outside, where nobody does either.`,
          at: this.at(sender),
          mends: this.routeBy(sender, failure.to, journey),
        };
      }
      case 'answers-as-another':
        return {
          code: 'answers-as-another',
          sentence: `${failure.machine.name} answers as ${formatAddress(failure.as)} straight away, without whoever led the port on; ${this.echo.request.hops[0]!.machine.name} asked ${formatAddress(failure.expected)} and does not take that for its answer.`,
          at: this.at(failure.machine),
          mends: [],
        };
      case 'loop':
        return {
          code: 'loop',
          sentence: `The packet goes round in a circle: ${[...new Set(journey.hops.slice(-6).map((hop) => hop.machine.name))].join(', ')} send it to each other.`,
          at: this.at(failure.machine),
          mends: [],
        };
    }
  }
}
