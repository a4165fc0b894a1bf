import { MIB } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { copiedAgain, estimate, type Estimate, type Observed } from './estimate.js';
import { fixedTimes, METHODS, usualMethod, type MoveKind, type MoveMethod } from './method.js';

export interface Route {
  guestId: string;
  sourceHostId: string;
  targetHostId: string;
  running: boolean;
  linkBitsPerSecond: number;
  /** Whether the volumes go to another pool, too. */
  movesStorage: boolean;
  /** Null: the usual one. */
  method?: MoveMethod | null;
  dirtyBytesPerSecond?: number | null;
}

export const methodOf = ({
  method,
  running,
  movesStorage,
}: Pick<Route, 'method' | 'running' | 'movesStorage'>): MoveMethod =>
  method ?? usualMethod(running, movesStorage);

/** What kind of move it is, by where it goes. */
export function kindOfMove(
  fleet: Fleet,
  { sourceHostId, targetHostId }: Pick<Route, 'sourceHostId' | 'targetHostId'>,
): MoveKind {
  if (sourceHostId === targetHostId) return 'storage only';
  const platform = (id: string) => fleet.need('host', id).platformId;
  return platform(sourceHostId) === platform(targetHostId) ? 'between hosts' : 'between platforms';
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

/**
 * Bytes that travel: of volumes that change pool the full size, or what is written where the method leaves free blocks
 * out and it is known; twice where there are two passes; the memory of a guest that runs meanwhile.
 */
export function bytesToCopy(
  fleet: Fleet,
  route: Pick<Route, 'guestId' | 'running' | 'movesStorage' | 'method'>,
): number {
  const { skipsFree, passes } = METHODS[methodOf(route)];
  const memory = route.running ? fleet.need('guest', route.guestId).memoryMiB * MIB : 0;
  if (!route.movesStorage) return memory;
  const volumes = fleet.referring('volume', 'guestId', route.guestId);
  const bytes = volumes.reduce(
    (sum, volume) => sum + (skipsFree ? (volume.usedBytes ?? volume.bytes) : volume.bytes),
    0,
  );
  return memory + bytes * passes;
}

/** The estimate for a route, with what past moves by the same method between these two hosts and between any two have taught. */
export function routeEstimate(fleet: Fleet, route: Route): Estimate {
  const method = methodOf(route);
  const sameRoute: Observed[] = [];
  const anyRoute: Observed[] = [];
  for (const { run, past } of pastRuns(fleet)) {
    if (past.method !== method) continue;
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
    usual: METHODS[method].usual,
    dirtyRate: route.dirtyBytesPerSecond,
    fixed: fixedTimes(kindOfMove(fleet, route), method),
    sameRoute,
    anyRoute,
  });
}

export interface PastRun {
  past: { sourceHostId: string; targetHostId: string; method: MoveMethod };
  run: Observed;
  migration: Row<'migration'>;
}

/** Moves whose copy was measured, in the order of the record. Its cost grows with the moves on record. */
export function pastRuns(fleet: Fleet): PastRun[] {
  return [...fleet.all('migration')].flatMap((migration) => {
    const { copySeconds, bytes, running, guestId } = migration;
    if (copySeconds === null || bytes === 0) return [];
    const memory = (fleet.get('guest', guestId)?.memoryMiB ?? 0) * MIB;
    const changing = running ? Math.min(bytes, memory) : 0;
    const movesStorage = fleet.referringCount('volumeMove', 'migrationId', migration.id) > 0;
    const { sourceHostId, targetHostId } = migration;
    const method = methodOf({ ...migration, movesStorage });
    return {
      past: { sourceHostId, targetHostId, method },
      run: { bytes: bytes + copiedAgain(changing), seconds: copySeconds },
      migration,
    };
  });
}
