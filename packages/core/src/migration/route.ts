import { volumeBytes } from '../guest/demand.js';
import { MIB } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { copiedAgain, estimate, type Estimate, type Observed } from './estimate.js';

export interface Route {
  guestId: string;
  sourceHostId: string;
  targetHostId: string;
  running: boolean;
  linkBitsPerSecond: number;
  /** Whether the volumes go to another pool, too. */
  movesStorage: boolean;
}

/** Ethernet's usual MTU: of a way that nobody has recorded. */
const USUAL_MTU = 1500;

/**
 * The network a copy takes between two hosts: one in which both have an address of their own, one for moving before any
 * other. Null where the record knows none.
 */
export function wayBetween(fleet: Fleet, oneId: string, otherId: string): Row<'network'> | null {
  const networksOf = (hostId: string) =>
    fleet
      .referring('address', 'hostId', hostId)
      .flatMap(({ subnetId }) => fleet.get('subnet', subnetId)?.networkId ?? []);
  const others = new Set(networksOf(otherId));
  const shared = networksOf(oneId)
    .filter((id) => others.has(id))
    .map((id) => fleet.need('network', id));
  return shared.find(({ purpose }) => /migrat|moving/i.test(purpose)) ?? shared[0] ?? null;
}

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
    const memory = (fleet.get('guest', past.guestId)?.memoryMiB ?? 0) * MIB;
    const changing = past.running ? Math.min(past.bytes, memory) : 0;
    const run = { bytes: past.bytes + copiedAgain(changing), seconds: past.copySeconds };
    anyRoute.push(run);
    if (past.sourceHostId === route.sourceHostId && past.targetHostId === route.targetHostId)
      sameRoute.push(run);
  }
  const way = wayBetween(fleet, route.sourceHostId, route.targetHostId);
  return estimate({
    bytes: bytesToCopy(fleet, route),
    changing: route.running ? fleet.need('guest', route.guestId).memoryMiB * MIB : 0,
    link: route.linkBitsPerSecond,
    mtu: way?.mtu ?? USUAL_MTU,
    tags: way?.vlanId ? 1 : 0,
    way: way ? `network ${way.name}` : 'no network of both is recorded',
    sameRoute,
    anyRoute,
  });
}
