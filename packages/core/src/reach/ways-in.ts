/** By which ports of others a machine is reached that stands behind a translation. */
import { addressOf, formatAddress } from '../address/index.js';
import type { Fleet, Row } from '../record/index.js';
import { ping, type Verdict } from './ping.js';
import type { MachineInfo, RecordTopology } from './record-topology.js';
import { inOwnSubnet } from './route.js';
import type { Machine } from './topology.js';

/** A port of one machine that leads, at once or by others, to the one that is asked about. */
export interface WayIn {
  /** Whose port it is. */
  at: MachineInfo;
  ip: string;
  protocol: 'tcp' | 'udp';
  port: number;
  purpose: string;
  /** Whether the sender gets an answer by it. */
  verdict: Verdict;
  /** It leads to the machine; false: the packet does not arrive there. */
  arrives: boolean;
}

/** Costs one question for each forwarded port that leads there; grows with all that are recorded. */
export function waysIn(
  fleet: Fleet,
  world: RecordTopology,
  sender: Machine,
  target: Machine,
): WayIn[] {
  const rows = [...fleet.all('forwardedPort')];
  const led: Row<'forwardedPort'>[] = [];
  const wanted = ipsOf(target);
  for (let before = -1; before < led.length;) {
    before = led.length;
    for (const row of rows) {
      const machine = machineWith(world, row);
      if (led.includes(row) || !machine || machine === target || !wanted.has(row.toIp)) continue;
      led.push(row);
      for (const ip of ipsOf(machine)) wanted.add(ip);
    }
  }
  return led.flatMap((row) => {
    const machine = machineWith(world, row)!;
    if (machine === sender) return [];
    const { protocol, port, purpose } = row;
    const family = row.toIp.includes(':') ? 6 : 4;
    const own = machine.ifaces.flatMap(({ addresses }) =>
      addresses.filter((address) => address.family === family),
    );
    const near = own.filter((address) => inOwnSubnet(sender, address));
    const asked = row.atIp ? [addressOf(row.atIp)] : [...new Set([...near, ...own])];
    const tried = asked.map((to) => ({
      to,
      echo: ping(world.topology, sender, to, null, { protocol, port }),
    }));
    const best = tried.find(({ echo }) => echo.verdict === 'yes') ?? tried[0];
    if (!best) return [];
    return [
      {
        ...{ at: world.machines.get(machine)!, ip: formatAddress(best.to) },
        ...{ protocol, port, purpose },
        verdict: best.echo.verdict,
        arrives: best.echo.answeredBy === target,
      },
    ];
  });
}

const ipsOf = (machine: Machine): Set<string> =>
  new Set(machine.ifaces.flatMap(({ addresses }) => addresses.map((one) => formatAddress(one))));

const machineWith = (world: RecordTopology, row: Row<'forwardedPort'>): Machine | undefined =>
  world.topology.machines.get((row.hostId ?? row.guestId ?? row.deviceId)!);
