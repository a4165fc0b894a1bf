/** Machines that are nowhere in the record, put on its segments for one question. */
import { addressOf, prefixOf } from '../address/index.js';
import { isolatesGuests } from '../host/index.js';
import type { Fleet, Row } from '../record/index.js';
import { ping } from './ping.js';
import { type Echo } from './journey.js';
import { worldOf, type RecordTopology } from './record-topology.js';
import type { Machine } from './machine.js';
import { nodeKeys } from './wire-record.js';

export interface Probe {
  name: string;
  /** Layer-2 segment, by one of its nodes; null: joined to nothing. */
  segment: number | null;
  /** In canonical notation. */
  ip: string;
  prefixLength: number;
  gateway: string | null;
}

/**
 * One echo between two of them, while some machines of the record are off. Costs one question, and once a copy of the list of
 * machines.
 */
export function pingBetween(
  { topology }: RecordTopology,
  from: Probe,
  to: Probe,
  off: ReadonlySet<string> = new Set(),
): Echo {
  const [sender, target] = [machineOf(from, 'probe|from'), machineOf(to, 'probe|to')];
  return ping(topology.with([sender, target], off), sender, addressOf(to.ip), target);
}

function machineOf({ name, segment, ip, prefixLength, gateway }: Probe, id: string): Machine {
  const address = addressOf(ip);
  const way = gateway === null ? null : addressOf(gateway);
  return {
    id,
    name,
    on: true,
    forwarding: 'none',
    ifaces: [
      {
        ...{ id, name: 'its adapter', node: segment, up: true, masquerade: false, side: 'plain' },
        addresses: [{ ...address, length: prefixLength }],
      },
    ],
    routes: [],
    gateway: {
      4: way?.family === 4 ? way : null,
      6: way?.family === 6 ? way : null,
    },
    onLink: false,
  };
}

/** Of a guest that would be on that host with an adapter in that network; null: joined to nothing, or alone behind a translation. */
export function segmentOnHost(fleet: Fleet, hostId: string, networkId: string): number | null {
  const found = fleet
    .referring('virtualSwitch', 'hostId', hostId)
    .find((row) => row.networkId === networkId);
  if (!found || isolatesGuests(fleet, found)) return null;
  return segmentOfNode(fleet, nodeKeys.virtualSwitch(found.id));
}

/** Of a port of a device; null: it is down, or joined to nothing. */
export const segmentOfPort = (fleet: Fleet, port: Row<'devicePort'>): number | null =>
  port.up ? segmentOfNode(fleet, nodeKeys.devicePort(port.id)) : null;

function segmentOfNode(fleet: Fleet, key: string): number | null {
  const { wiring } = worldOf(fleet);
  const node = wiring.find(key);
  return node === undefined ? null : wiring.segmentOf(node);
}

/** The first subnet of a network, IPv4 before IPv6: what a machine put there would be configured with. */
export function subnetIn(
  fleet: Fleet,
  networkId: string,
): (Row<'subnet'> & { prefixLength: number }) | null {
  const subnets = fleet.referring('subnet', 'networkId', networkId);
  const found = subnets.find(({ prefix }) => !prefix.includes(':')) ?? subnets[0];
  return found ? { ...found, prefixLength: prefixOf(found.prefix).length } : null;
}
