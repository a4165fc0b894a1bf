/** Every machine of a topology asks for every address there is: what the kernel says beside what the simulator says. */
import { formatAddress, ping, Topology, type Address, type Machine } from '../src/index.js';
import { Kernel } from './kernel.js';

const ATTEMPTS = 4;
let serial = 0;
let pairsCompared = 0;
export const compared = (): number => pairsCompared;

interface Asked {
  from: Machine;
  to: string;
  address: Address;
  echo: ReturnType<typeof ping>;
  /** Whether the kernel's echo came back. */
  real: boolean;
}

/** Where two machines have an address on the way, either may answer, or have answered somebody else before: such pairs are left out. */
export function askAll(machines: Machine[]): Asked[] {
  const kernel = new Kernel(machines, (serial += 1));
  try {
    kernel.build();
    const topology = new Topology(machines);
    const pairs = machines
      .filter((machine) => machine.on)
      .flatMap((sender) =>
        machines.flatMap((to) =>
          to.ifaces.flatMap((iface) =>
            iface.addresses.map((address) => ({
              from: sender.id,
              to: formatAddress(address),
              address,
              sender,
            })),
          ),
        ),
      );
    const echoes = pairs.map(({ sender, address }) => ping(topology, sender, address));
    const real = kernel.pingAll(pairs);
    // Hundreds of machines look for each other at once, and a question that is lost is asked again after a second only. On a
    // busy machine that takes more than one attempt; a kernel that does not answer stays silent through all of them.
    for (let attempt = 1; attempt <= ATTEMPTS; attempt += 1) {
      const lost = pairs.flatMap((_, i) => (!real[i] && echoes[i]!.verdict === 'yes' ? [i] : []));
      if (lost.length === 0) break;
      if (attempt > 1) kernel.rest(attempt);
      kernel.pingAll(lost.map((i) => pairs[i]!)).forEach((came, n) => (real[lost[n]!] = came));
    }
    return pairs.flatMap(({ to, address, sender }, i) => {
      const echo = echoes[i]!;
      const ways = [...echo.request.hops, ...(echo.reply?.hops ?? [])];
      if (ways.some(({ next }) => next && topology.ownersOf(next).length > 1)) return [];
      pairsCompared += 1;
      return [{ from: sender, to, address, echo, real: real[i]! }];
    });
  } finally {
    kernel.remove();
  }
}

/** Pairs on which they do not agree, each in a line. */
export const disagreements = (machines: Machine[]): string[] =>
  askAll(machines).flatMap(({ from, to, echo, real }) =>
    (echo.verdict === 'yes') === real
      ? []
      : [
          `${from.id} → ${to}: kernel ${real ? 'yes' : 'no'}, simulator ${echo.verdict} ${JSON.stringify(echo.request.failure?.code ?? echo.reply?.failure?.code ?? '')}`,
        ],
  );
