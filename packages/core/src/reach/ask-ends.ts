/** The two ends of a question of Reach, found in the record, with a sentence where one is not there. */
import { type Address, addressOf, parseAddress } from '../address/index.js';
import type { ReachQuestion } from './ask.js';
import { machineInfo } from './machine-parts.js';
import type { Iface, Machine } from './machine.js';
import { OUTSIDE, OUTSIDE_ADDRESS } from './record-machines.js';
import type { RecordTopology } from './record-topology.js';
import { inOwnSubnet } from './route.js';

/** One end: a machine of the record by its id, the outside, or an address. */
export type End = { id: string; ip?: string } | { ip: string };

interface Ends {
  sender: Machine;
  target: Machine | null;
  to: Address;
}

/** Whether a port of any equipment is joined to where the outside is. */
function leadsOut({ topology }: RecordTopology, outside: Iface): boolean {
  const segment = topology.segmentOf(outside);
  for (const machine of topology.machines.values())
    if (
      machineInfo(machine)?.kind === 'device' &&
      machine.ifaces.some((iface) => topology.segmentOf(iface) === segment)
    )
      return true;
  return false;
}

export function findEnds(
  world: RecordTopology,
  { from, to, family }: ReachQuestion,
): Ends | { sentence: string } {
  const sender = world.topology.machines.get(from.id);
  if (!sender) return { sentence: 'The machine to ask from is not in the record, or retired.' };
  if (sender.outside && !leadsOut(world, sender.ifaces[0]!))
    return {
      sentence:
        'No port of any equipment is recorded as leading outside: record the router and its outer port first.',
    };
  if (!('id' in to)) {
    const read = parseAddress(to.ip);
    return read.ok ? { sender, target: null, to: read.value } : { sentence: read.sentence };
  }
  if (to.id === OUTSIDE)
    return {
      sender,
      target: world.topology.machines.get(OUTSIDE)!,
      to: addressOf(OUTSIDE_ADDRESS[family ?? 4]),
    };
  const target = world.topology.machines.get(to.id);
  if (!target) return { sentence: 'The machine to reach is not in the record, or retired.' };
  const all = target.ifaces.flatMap((iface) => iface.addresses);
  const wanted = to.ip ? parseAddress(to.ip) : undefined;
  if (wanted && !wanted.ok) return { sentence: wanted.sentence };
  const mine = sender.ifaces.flatMap((iface) => iface.addresses);
  const spoken =
    family ??
    ([4, 6] as const).find(
      (one) =>
        all.some((address) => address.family === one) &&
        mine.some((address) => address.family === one),
    );
  // Of several addresses, one that the sender has as a neighbour is meant.
  const address = wanted?.ok
    ? wanted.value
    : (all.find((one) => one.family === spoken && inOwnSubnet(sender, one)) ??
      all.find((one) => one.family === spoken) ??
      all[0]);
  return address
    ? { sender, target, to: address }
    : { sentence: `${target.name} has no address in the record.` };
}
