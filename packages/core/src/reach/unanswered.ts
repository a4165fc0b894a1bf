/** Why nothing comes back where a machine asks for the next one: it has no address, no route, or nobody answers. */
import { containing, formatAddress, formatPrefix, type Address } from '../address/index.js';
import type { Journey } from './journey.js';
import { MachineFaults } from './machine-faults.js';
import type { Iface, Machine } from './machine.js';
import type { Explained } from './mending.js';
import { edgesBetween } from './record-topology.js';
import { carriedBy } from './own-addresses.js';

export class Unanswered extends MachineFaults {
  protected noAddress(family: 4 | 6): Explained {
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

  protected noRoute(machine: Machine, to: Address, journey: Journey): Explained {
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

  protected nobodyAnswers(
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
