import { MIB } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import { copiedAgain, estimate, type Estimate, type Observed } from './estimate.js';
import { addressesOf } from '../names/index.js';
import { sameSides, sideOf, type MoveSides } from './sides.js';
import { fixedTimes, METHODS, usualMethod, type MoveKind, type MoveMethod } from './method.js';

export interface Route extends MoveSides {
  guestId: string;
  /** Of a computer that becomes a guest: the disks that travel. */
  disks?: readonly Pick<Row<'computerDisk'>, 'bytes' | 'usedBytes'>[];
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
export function kindOfMove(fleet: Fleet, sides: MoveSides): MoveKind {
  const { sourceHostId, targetHostId } = sides;
  if (sourceHostId === null) return 'physical to guest';
  if (targetHostId === null) return 'guest to physical';
  if (sourceHostId === targetHostId) return 'storage only';
  const platform = (id: string) => fleet.need('host', id).platformId;
  return platform(sourceHostId) === platform(targetHostId) ? 'between hosts' : 'between platforms';
}

/** The route of a move on record. */
export function routeOf(fleet: Fleet, migration: Row<'migration'>): Route {
  const moves = fleet.referring('volumeMove', 'migrationId', migration.id);
  const disks = moves.flatMap(
    ({ computerDiskId }) => fleet.get('computerDisk', computerDiskId) ?? [],
  );
  return {
    ...migration,
    movesStorage: moves.length > 0,
    ...(migration.sourceHostId === null ? { disks } : {}),
  };
}

/** Ethernet's usual MTU: of a way that nobody has recorded. */
const USUAL_MTU = 1500;

/**
 * The network a copy takes between two machines: one in which both have an address of their own, one for moving before any
 * other. Null where the record knows none.
 */
export function wayBetween(fleet: Fleet, sides: MoveSides): Row<'network'> | null {
  const networksOf = (side: 'source' | 'target') => {
    const { kind, id } = sideOf(fleet, sides, side);
    return addressesOf(fleet, kind, id).flatMap(
      ({ subnetId }) => fleet.get('subnet', subnetId)?.networkId ?? [],
    );
  };
  const others = new Set(networksOf('target'));
  const shared = networksOf('source')
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
  route: Pick<Route, 'guestId' | 'running' | 'movesStorage' | 'method' | 'disks'>,
): number {
  const { skipsFree, passes } = METHODS[methodOf(route)];
  const memory = route.running ? fleet.need('guest', route.guestId).memoryMiB * MIB : 0;
  if (!route.movesStorage) return memory;
  const disks = route.disks ?? fleet.referring('volume', 'guestId', route.guestId);
  const bytes = disks.reduce(
    (sum, disk) => sum + (skipsFree ? (disk.usedBytes ?? disk.bytes) : disk.bytes),
    0,
  );
  return memory + bytes * passes;
}

/** The slowest of the link that was said and the ports of a computer, as they negotiated. Null: nobody has looked at them. */
export function portSpeed(fleet: Fleet, sides: MoveSides): number | null {
  const deviceId = sides.sourceDeviceId ?? sides.targetDeviceId;
  if (!deviceId) return null;
  const speeds = fleet
    .referring('devicePort', 'deviceId', deviceId)
    .flatMap(({ up, bitsPerSecond }) => (up && bitsPerSecond ? [bitsPerSecond] : []));
  return speeds.length > 0 ? Math.max(...speeds) : null;
}

/** The estimate for a route, with what past moves by the same method between these two hosts and between any two have taught. */
export function routeEstimate(fleet: Fleet, route: Route): Estimate {
  const method = methodOf(route);
  const sameRoute: Observed[] = [];
  const anyRoute: Observed[] = [];
  for (const { run, past } of pastRuns(fleet)) {
    if (past.method !== method) continue;
    anyRoute.push(run);
    if (sameSides(past, route)) sameRoute.push(run);
  }
  const way = wayBetween(fleet, route);
  return estimate({
    bytes: bytesToCopy(fleet, route),
    changing: route.running ? fleet.need('guest', route.guestId).memoryMiB * MIB : 0,
    link: Math.min(route.linkBitsPerSecond, portSpeed(fleet, route) ?? Infinity),
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
  past: MoveSides & { method: MoveMethod };
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
    const { sourceHostId, targetHostId, sourceDeviceId, targetDeviceId } = migration;
    const method = methodOf(routeOf(fleet, migration));
    return {
      past: { sourceHostId, targetHostId, sourceDeviceId, targetDeviceId, method },
      run: { bytes: bytes + copiedAgain(changing), seconds: copySeconds },
      migration,
    };
  });
}
