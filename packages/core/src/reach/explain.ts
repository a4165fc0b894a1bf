/** The first thing that fails on a way, in a sentence of the trade, with the changes that may mend it, smallest first. */
import {
  containing,
  formatAddress,
  formatPrefix,
  specialUse,
  type Address,
} from '../address/index.js';
import type { Fleet, Row } from '../record/index.js';
import { Mending, type Explained, type Mend } from './mending.js';
import type { Echo, Failure, Journey } from './journey.js';
import { ifaceInfo } from './machine-parts.js';
import { edgesBetween, type RecordTopology } from './record-topology.js';
import { carriedBy } from './topology.js';
import { type Iface, type Machine } from './machine.js';

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

class Scene extends Mending {
  failed(journey: Journey, reply: boolean): Explained {
    const failure = journey.failure!;
    const told = this.tell(failure, journey);
    return reply ? { ...told, sentence: `On the way back: ${told.sentence}` } : told;
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
          sentence: `${failure.machine.name} answers as ${formatAddress(failure.as)} straight away, without whoever led the port on; ${this.echo.request.hops[0]!.machine.name} asked ${formatAddress(failure.asked)} and does not take that for its answer.`,
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

  private off(machine: Machine): Explained {
    const { kind, id, name } = this.info(machine);
    const state = kind === 'outside' ? '' : String(this.fleet.get(kind, id)?.state ?? '');
    const mends: Mend[] =
      kind === 'guest'
        ? [
            {
              label: `Record ${name} as in service`,
              change: { type: 'guest.set-state', input: { id, state: 'in service' } },
            },
          ]
        : kind === 'device'
          ? [
              {
                label: `Record ${name} as in service`,
                change: { type: 'device.edit', input: { id, state: 'in service' } },
              },
            ]
          : kind === 'host'
            ? [
                {
                  label: `Record ${name} as in service`,
                  change: { type: 'host.edit', input: { id, state: 'in service' } },
                },
              ]
            : [];
    const host =
      kind === 'guest' && state === 'in service'
        ? this.fleet.get('host', this.fleet.need('guest', id).hostId)
        : undefined;
    return {
      code: 'powered-off',
      sentence: host
        ? `${name} does not run: its host ${host.name} is ${host.state}.`
        : `${name} is ${state}, not running.`,
      at: this.at(machine),
      mends: host ? [] : mends,
    };
  }

  private noAddress(family: 4 | 6): Explained {
    const { machine } = this.echo.request.hops[0]!;
    const down = machine.ifaces.find(
      (iface) => !iface.up && iface.addresses.some((address) => address.family === family),
    );
    if (down) return this.unplugged(machine, down);
    return {
      code: 'no-address',
      sentence: `${machine.name} has no IPv${family} address.`,
      at: this.at(machine),
      mends: [],
    };
  }

  private noRoute(machine: Machine, to: Address, journey: Journey): Explained {
    const gateway = machine.gateway[to.family];
    const own = machine.ifaces.flatMap((iface) =>
      iface.up ? iface.addresses.filter((address) => address.family === to.family) : [],
    );
    const mine = own.map((address) => formatPrefix(containing(address, address.length)));
    const mends = [
      ...this.properPrefix(machine, to),
      ...this.gatewayOfSubnet(machine, to.family),
      ...this.routeBy(machine, to, journey),
    ];
    const at = this.at(machine);
    if (gateway && !own.some((address) => address.value === gateway.value)) {
      return {
        code: 'gateway-outside-subnet',
        sentence: `${machine.name}'s gateway ${formatAddress(gateway)} is not in its own subnet ${mine.join(' or ') || '(it has none)'}.`,
        at,
        mends,
      };
    }
    return {
      code: 'no-gateway',
      sentence: `${machine.name} has no gateway, and ${formatAddress(to)} is not in its own subnet ${mine.join(' or ')}.`,
      at,
      mends,
    };
  }

  private nobodyAnswers(
    machine: Machine,
    iface: Iface,
    next: Address,
    gateway: boolean,
  ): Explained {
    const ip = formatAddress(next);
    const what = gateway ? `${machine.name}'s gateway ${ip}` : ip;
    const { topology } = this.world;
    // Whoever is off, or unplugged, is looked for only where nobody else has it: that is a walk along all machines.
    const known = topology.ownersOf(next).filter((other) => other !== machine);
    const owners = carriers(known.length > 0 ? known : topology.machines.values(), next);
    const others = owners.filter(({ other }) => other !== machine);
    if (others.length === 0) {
      const sentence =
        owners.length > 0
          ? `${machine.name} takes itself for ${ip}.`
          : gateway
            ? `Nobody in the record has ${what}: record the router that does.`
            : `Nobody in the record has ${ip}.`;
      return {
        code: gateway ? 'gateway-nobody' : 'nobody-has-it',
        sentence,
        at: this.at(machine),
        mends: gateway ? this.gatewayOfSubnet(machine, next.family) : [],
      };
    }
    const running = others.find(({ other }) => other.on);
    if (!running) return this.off(others[0]!.other);
    const { other, found } = running;
    if (!found.up) return this.unplugged(other, found);
    const astray =
      this.onWrongNetwork(other, found, next) ?? this.ownOnWrongNetwork(machine, iface);
    const blocked = edgesBetween(this.world.wiring, iface, found)?.find(
      (edge) => edge.blocked,
    )?.blocked;
    if (blocked && !astray)
      return {
        code: blocked.code,
        sentence: blocked.sentence,
        at: blocked.at,
        mends: blocked.mends,
      };
    if (astray) return astray;
    const prefix = this.properPrefix(machine, next);
    const [here, there] = [this.networkName(iface), this.networkName(found)];
    if (prefix.length > 0) {
      const row = this.rowsOf(iface).find((address) => address.prefixLength !== null);
      return {
        code: 'wrong-prefix',
        sentence: `${machine.name} takes ${ip} for one of its own subnet${row ? ` (${row.ip}/${row.prefixLength})` : ''} and looks for it on ${here}, but it is on ${there}.`,
        at: this.at(machine),
        mends: prefix,
      };
    }
    return {
      code: 'on-another-network',
      sentence: `${machine.name} looks for ${what} on ${here}, but ${other.name} has it on ${there}.`,
      at: this.at(machine),
      mends: [...this.gatewayOfSubnet(machine, next.family)],
    };
  }

  private unplugged(machine: Machine, iface: Iface): Explained {
    const info = ifaceInfo(iface)!;
    const mends: Mend[] =
      info.kind === 'adapter'
        ? [
            {
              label: `Connect ${iface.name} of ${machine.name}`,
              change: { type: 'adapter.edit', input: { id: info.rowId, connected: true } },
            },
          ]
        : [];
    return {
      code: 'adapter-unplugged',
      sentence: `${iface.name} of ${machine.name} is not connected.`,
      at: this.at(machine),
      mends,
    };
  }

  /** An address that belongs to another network than the one its adapter is on. */
  private onWrongNetwork(machine: Machine, iface: Iface, address: Address): Explained | null {
    const info = ifaceInfo(iface)!;
    const row = this.rowsOf(iface).find((found) => found.ip === formatAddress(address));
    const subnet = this.fleet.get('subnet', row?.subnetId);
    if (!row || !subnet || subnet.networkId === info.networkId) return null;
    const [home, here] = [
      this.fleet.need('network', subnet.networkId).name,
      this.networkName(iface),
    ];
    return {
      code: 'address-on-wrong-network',
      sentence: `${machine.name} has ${row.ip}, which belongs to ${home}, on its ${iface.name.replace(/ on .*/, '')}, which is on ${here}.`,
      at: this.at(machine),
      mends: this.putRight(
        machine,
        info.kind === 'adapter' ? info.rowId : null,
        info.kind === 'devicePort' ? info.rowId : null,
        subnet.networkId,
      ),
    };
  }

  private ownOnWrongNetwork(machine: Machine, iface: Iface): Explained | null {
    for (const row of this.rowsOf(iface)) {
      const subnet = this.fleet.get('subnet', row.subnetId);
      const networkId = ifaceInfo(iface)?.networkId;
      if (!subnet || !networkId || subnet.networkId === networkId) continue;
      return this.onWrongNetwork(machine, iface, {
        ...iface.addresses.find((own) => formatAddress(own) === row.ip)!,
      });
    }
    return null;
  }

  contested(address: Address, machines: readonly Machine[], target: Machine | null): Explained {
    const ip = formatAddress(address);
    const wrong = machines.find((machine) => machine !== target) ?? machines[0]!;
    const row = this.rowWith(wrong, ip);
    const subnet = this.fleet.get('subnet', row?.subnetId);
    const mends: Mend[] =
      row && subnet
        ? [
            {
              label: `Give ${wrong.name} the next free address instead`,
              change: {
                type: 'address.set',
                input: {
                  ...holderFields(row),
                  networkId: subnet.networkId,
                  subnetId: subnet.id,
                  assigned: true,
                  replaces: row.id,
                },
              },
            },
          ]
        : [];
    return {
      code: 'address-twice',
      sentence: `${ip} is carried by ${machines.map((machine) => machine.name).join(' and by ')}.`,
      at: this.at(wrong),
      mends,
    };
  }

  stranger(to: Address, answered: Machine, target: Machine): Explained {
    const ip = formatAddress(to);
    const asker = this.echo.request.hops[0]!.machine;
    const sentence =
      answered === asker
        ? `${asker.name} has ${ip} itself, and answers itself.`
        : `${answered.name} answers for ${ip}, which ${target.name} is meant to have.`;
    const { mends } = this.contested(to, [answered, target], target);
    return {
      code: answered === asker ? 'own-twin' : 'answered-by-another',
      sentence,
      at: this.at(answered),
      mends,
    };
  }

  wentAstray(arrived: Machine, sender: Machine): Explained {
    return {
      code: 'reply-astray',
      sentence: `The reply goes to ${arrived.name}, which has the address of ${sender.name} too.`,
      at: this.at(arrived),
      mends: [],
    };
  }
}

function holderFields(row: Row<'address'>): {
  hostId?: string;
  adapterId?: string;
  devicePortId?: string;
} {
  if (row.hostId) return { hostId: row.hostId };
  return row.adapterId ? { adapterId: row.adapterId } : { devicePortId: row.devicePortId! };
}

/** Interfaces of these machines on which an address is configured. */
function carriers(
  machines: Iterable<Machine>,
  address: Address,
): { other: Machine; found: Iface }[] {
  const all: { other: Machine; found: Iface }[] = [];
  for (const other of machines)
    for (const found of other.ifaces) if (carriedBy(found, address)) all.push({ other, found });
  return all;
}
