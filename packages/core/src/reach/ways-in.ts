/** By which ports of others a machine is reached that stands behind a translation. */
import { addressOf, formatAddress } from '../address/index.js';
import type { Fleet, Row } from '../record/index.js';
import { ping } from './ping.js';
import { type Verdict } from './journey.js';
import { machineInfo, type MachineInfo } from './machine-parts.js';
import type { RecordTopology } from './record-topology.js';
import { inOwnSubnet } from './route.js';
import type { Machine } from './machine.js';

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
}

/** Costs one question for each forwarded port that leads there; grows with all that are recorded. */
export function waysIn(
  fleet: Fleet,
  world: RecordTopology,
  sender: Machine,
  target: Machine,
): WayIn[] {
  const rows = [...fleet.all('forwardedPort')];
  const led = new Set<Row<'forwardedPort'>>();
  const wanted = ipsOf(target);
  for (let before = -1; before < led.size;) {
    before = led.size;
    for (const row of rows) {
      if (led.has(row) || !wanted.has(row.toIp)) continue;
      const machine = machineWith(world, row);
      if (!machine || machine === target) continue;
      led.add(row);
      for (const ip of ipsOf(machine)) wanted.add(ip);
    }
  }
  return [...led].flatMap((row) => {
    const machine = machineWith(world, row)!;
    if (machine === sender) return [];
    const { protocol, port, purpose } = row;
    const family = row.toIp.includes(':') ? 6 : 4;
    const own = machine.ifaces.flatMap(({ addresses }) =>
      addresses.filter((address) => address.family === family),
    );
    const near = own.filter((address) => inOwnSubnet(sender, address));
    const targets = row.atIp ? [addressOf(row.atIp)] : [...new Set([...near, ...own])];
    const tried = targets.map((to) => ({
      to,
      echo: ping(world.topology, sender, to, null, { protocol, port }),
    }));
    const arriving = tried.filter(({ echo }) => echo.request.arrived === target);
    // What arrives at somebody else is no way to this one: a port for the machine itself, or the same address elsewhere.
    const lost = tried.every(({ echo }) => echo.request.arrived === null) ? tried[0] : undefined;
    const best = arriving.find(({ echo }) => echo.verdict === 'yes') ?? arriving[0] ?? lost;
    if (!best) return [];
    return [
      {
        ...{ at: machineInfo(machine)!, ip: formatAddress(best.to) },
        ...{ protocol, port, purpose },
        verdict: best.echo.verdict,
      },
    ];
  });
}

const ipsOf = (machine: Machine): Set<string> =>
  new Set(machine.ifaces.flatMap(({ addresses }) => addresses.map((one) => formatAddress(one))));

const machineWith = (world: RecordTopology, row: Row<'forwardedPort'>): Machine | undefined =>
  world.topology.machines.get((row.hostId ?? row.guestId ?? row.deviceId)!);
