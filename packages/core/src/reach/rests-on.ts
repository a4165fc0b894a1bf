/** What a yes rests on that nobody recorded: habits of machines with which, were they otherwise, the answer would be another. */
import type { Address } from '../address/index.js';
import { ping } from './ping.js';
import type { Topology } from './topology.js';
import type { Habits, Machine, Service } from './machine.js';

export interface RestsOn {
  /** What is assumed of it. */
  on: keyof Habits;
  /** The first machine on the way that would drop the packet, or not answer. */
  machine: Machine;
}

const OTHERWISE: readonly Partial<Habits>[] = [{ strongHost: true }, { reversePath: 'strict' }];

/** Asked of a pair that is answered with yes: once more for each habit, with it taken the other way wherever nobody said. */
export function restsOn(
  topology: Topology,
  sender: Machine,
  to: Address,
  target: Machine | null = null,
  service: Service | null = null,
): RestsOn[] {
  return OTHERWISE.flatMap((other) => {
    const { verdict, request, reply } = ping(topology.assuming(other), sender, to, target, service);
    if (verdict === 'yes') return [];
    const failure = request.failure ?? reply?.failure;
    const machine =
      failure && 'machine' in failure
        ? failure.machine
        : ((request.failure ? request : reply)?.hops.at(-1)?.machine ?? sender);
    return [{ on: Object.keys(other)[0] as keyof Habits, machine }];
  });
}
