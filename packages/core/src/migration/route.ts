import { volumeBytes } from '../guest/demand.js';
import { MIB } from '../quantity/index.js';
import type { Fleet } from '../record/index.js';
import { estimate, type Estimate, type Observed } from './estimate.js';

export interface Route {
  guestId: string;
  sourceHostId: string;
  targetHostId: string;
  running: boolean;
  linkBitsPerSecond: number;
  /** Whether the volumes go to another pool, too. */
  movesStorage: boolean;
}

/** Ethernet's usual MTU; networks of a migration's own may carry more once links are recorded. */
const MTU = 1500;

/** Bytes that travel: the volumes' full size if they change pool, the memory if the guest runs meanwhile. */
export function bytesToCopy(
  fleet: Fleet,
  route: Pick<Route, 'guestId' | 'running' | 'movesStorage'>,
): number {
  const memory = route.running ? fleet.need('guest', route.guestId).memoryMiB * MIB : 0;
  return memory + (route.movesStorage ? volumeBytes(fleet, route.guestId) : 0);
}

/** The estimate for a route, with what past moves between these two hosts and between any two have taught. */
export function routeEstimate(fleet: Fleet, route: Route): Estimate {
  const sameRoute: Observed[] = [];
  const anyRoute: Observed[] = [];
  for (const past of fleet.all('migration')) {
    if (past.copySeconds === null || past.bytes === 0) continue;
    const run = { bytes: past.bytes, seconds: past.copySeconds };
    anyRoute.push(run);
    if (past.sourceHostId === route.sourceHostId && past.targetHostId === route.targetHostId)
      sameRoute.push(run);
  }
  return estimate({
    bytes: bytesToCopy(fleet, route),
    link: route.linkBitsPerSecond,
    mtu: MTU,
    sameRoute,
    anyRoute,
  });
}
