/**
 * A change of platform as a whole: hosts are emptied and rebuilt in turn, and what is rebuilt takes the guests of the next.
 * Largest guests first, each to the fullest host that still takes it. Nothing is recorded. Costs, for each stage, hosts that
 * are tried × their guests × hosts of the new platform; it stops at a bound and says so.
 */
import { countsOnHost, memoryDemand } from '../guest/demand.js';
import { rankPools } from '../guest/place.js';
import { headroom } from '../host/headroom.js';
import { offersRoom } from '../host/load.js';
import { reaches } from '../host/pool.js';
import { migrationChecks, type Check } from '../migration/checks.js';
import { routeEstimate } from '../migration/route.js';
import { formatMemory } from '../quantity/index.js';
import type { Fleet, Patch, Row } from '../record/index.js';
import { wavesOf, type Waves } from './windows.js';

export interface PlatformAsk {
  fromPlatformId: string;
  toPlatformId: string;
  windowHours: number;
  /** Days from one window to the next. */
  everyDays: number;
  linkBitsPerSecond: number;
  /** Day by which it must have ended; null: when the first licence of these hosts ends. */
  until: string | null;
}

export interface PlatformMove {
  guest: { id: string; name: string };
  target: { id: string; name: string };
  /** Null: its volumes stay where they are. */
  pool: { id: string; name: string } | null;
  seconds: [expected: number, high: number];
  critical: boolean;
  /** What stands against it now. */
  first: { sentence: string; remedy: string }[];
}

export interface PlatformStage {
  host: { id: string; name: string };
  moves: PlatformMove[];
  waves: Waves;
}

export interface PlatformChange {
  /** In the order in which hosts are emptied and rebuilt. */
  stages: PlatformStage[];
  /** Hosts that cannot be emptied, the first guest that finds no place, and why. */
  stuck: { host: { id: string; name: string }; guest: string; why: string }[];
  windows: number;
  /** Day of the last window. */
  ends: string | null;
  deadline: { day: string; of: string } | null;
  late: boolean;
  /** The search was cut short. */
  cut: boolean;
}

/** Questions of one guest to one host. */
const BUDGET = 60_000;
const DAY = 86_400_000;

export function platformChange(fleet: Fleet, ask: PlatformAsk, now: string): PlatformChange {
  const sources = [...fleet.all('host')].filter(
    (host) => host.platformId === ask.fromPlatformId && host.state !== 'retired',
  );
  const search: Search = { ask, now, patches: [], left: BUDGET };
  const stages: PlatformStage[] = [];
  let waiting = sources.map((host) => ({ host, bytes: bytesOn(fleet, host.id) }));
  waiting.sort((a, b) => a.bytes - b.bytes || a.host.name.localeCompare(b.host.name));
  let stuck: PlatformChange['stuck'] = [];
  let begun = 0;
  while (waiting.length > 0 && search.left > 0) {
    stuck = [];
    const emptied = waiting.find(({ host }) => {
      const found = emptying(fleet, host, search);
      if ('stuck' in found) {
        stuck.push({ host: named(host), ...found.stuck });
        return false;
      }
      const waves = wavesOf(
        found.moves.map(({ guest, seconds, critical }) => ({
          ...{ id: guest.id, minutes: Math.ceil(seconds[1] / 60), critical },
        })),
        ask.windowHours * 60,
        begun,
      );
      begun += waves.windows.length;
      stages.push({ host: named(host), moves: found.moves, waves });
      search.patches.push(...found.patches, rebuilt(host, ask.toPlatformId));
      return true;
    });
    if (!emptied) break;
    waiting = waiting.filter(({ host }) => host.id !== emptied.host.id);
  }
  if (waiting.length === 0) stuck = [];
  const deadline = deadlineOf(sources, ask.until);
  const ends =
    begun === 0
      ? null
      : new Date(Date.parse(now) + begun * ask.everyDays * DAY).toISOString().slice(0, 10);
  return {
    ...{ stages, stuck, windows: begun, ends, deadline, cut: search.left <= 0 },
    late: ends !== null && deadline !== null && ends > deadline.day,
  };
}

interface Search {
  ask: PlatformAsk;
  now: string;
  /** What the stages before have altered. */
  patches: Patch[];
  left: number;
}

const named = ({ id, name }: { id: string; name: string }) => ({ id, name });

const bytesOn = (fleet: Fleet, hostId: string): number =>
  fleet
    .referring('guest', 'hostId', hostId)
    .flatMap((guest) => fleet.referring('volume', 'guestId', guest.id))
    .reduce((sum, { bytes }) => sum + bytes, 0);

const rebuilt = ({ id, platformId, revision }: Row<'host'>, to: string): Patch => ({
  ...{ op: 'update', kind: 'host', id, seen: revision },
  ...{ before: { platformId }, after: { platformId: to } },
});

/** All guests of a host placed, or the first that finds no place. */
function emptying(
  fleet: Fleet,
  host: Row<'host'>,
  search: Search,
): { moves: PlatformMove[]; patches: Patch[] } | { stuck: { guest: string; why: string } } {
  const guests = fleet
    .referring('guest', 'hostId', host.id)
    .filter(({ state }) => state !== 'retired')
    .sort((a, b) => b.memoryMiB - a.memoryMiB || a.name.localeCompare(b.name));
  const moves: PlatformMove[] = [];
  const patches: Patch[] = [];
  for (const guest of guests) {
    const altered = [...search.patches, ...patches];
    const would = altered.length > 0 ? fleet.overlay(altered) : fleet;
    const found = placeOf(would, guest, search);
    if ('why' in found) return { stuck: { guest: guest.name, why: found.why } };
    moves.push(found.move);
    patches.push(...found.patches);
  }
  return { moves, patches };
}

function placeOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  search: Search,
): { move: PlatformMove; patches: Patch[] } | { why: string } {
  const { ask, now } = search;
  const volumes = fleet.referring('volume', 'guestId', guest.id);
  const bytes = volumes.reduce((sum, volume) => sum + volume.bytes, 0);
  const asks = countsOnHost(guest);
  const targets = [...fleet.all('host')]
    .filter((host) => host.platformId === ask.toPlatformId && offersRoom(host))
    .map((host) => ({ host, left: headroom(fleet, host.id) }))
    .sort((a, b) => a.left.memory.value - b.left.memory.value);
  if (targets.length === 0) return { why: 'no host of the new platform is in service' };
  let closest: { name: string; fault: string } | null = null;
  for (const { host, left } of targets) {
    search.left -= 1;
    const needed = asks ? memoryDemand(fleet, host.id, guest.vcpu, guest.memoryMiB) : 0;
    if (left.memory.value < needed) {
      closest ??= {
        name: host.name,
        fault: `${formatMemory(Math.max(0, left.memory.value), 'down')} left, ${formatMemory(needed, 'up')} asked`,
      };
      continue;
    }
    const stays = volumes.every(({ poolId }) => reaches(fleet, host.id, poolId));
    const pool = stays ? null : rankPools(fleet, host.id, bytes).find(({ fits }) => fits);
    if (pool === undefined) {
      closest = { name: host.name, fault: 'no pool that it reaches has the room' };
      continue;
    }
    const targetPoolId = pool?.poolId ?? null;
    const checks = migrationChecks(fleet, {
      guest,
      target: host,
      targetPoolId,
      running: false,
      now,
    });
    const hard = checks.find(isHard);
    if (hard) {
      closest = { name: host.name, fault: hard.sentence };
      continue;
    }
    const estimate = routeEstimate(fleet, {
      guestId: guest.id,
      ...{ sourceHostId: guest.hostId, targetHostId: host.id, running: false, method: null },
      ...{ linkBitsPerSecond: ask.linkBitsPerSecond, movesStorage: !stays },
    });
    return {
      move: {
        guest: named(guest),
        target: named(host),
        pool: pool ? { id: pool.poolId, name: pool.name } : null,
        seconds: [estimate.total.value ?? estimate.totalRange[1], estimate.totalRange[1]],
        critical: serves(fleet, guest.id),
        first: [
          ...openMoves(fleet, guest),
          ...checks
            .filter(({ passed, advice }) => passed === false && !advice)
            .map(({ sentence, remedy = '' }) => ({ sentence, remedy })),
        ],
      },
      patches: [
        {
          ...{ op: 'update', kind: 'guest', id: guest.id, seen: guest.revision },
          ...{ before: { hostId: guest.hostId }, after: { hostId: host.id } },
        },
        ...volumes
          .filter(({ poolId }) => targetPoolId !== null && poolId !== targetPoolId)
          .map(({ id, poolId, revision }): Patch => ({
            ...{ op: 'update', kind: 'volume', id, seen: revision },
            ...{ before: { poolId }, after: { poolId: targetPoolId } },
          })),
      ],
    };
  }
  return { why: closest ? `${closest.name}: ${closest.fault}` : 'no host takes it' };
}

/** A move of it that is open already. */
const openMoves = (fleet: Fleet, { id, name }: Row<'guest'>): PlatformMove['first'] =>
  fleet
    .referring('migration', 'guestId', id)
    .filter(({ state }) => state !== 'accepted' && state !== 'rolled back')
    .map(({ state }) => ({
      sentence: `${name} has a migration that is ${state}.`,
      remedy: 'Finish that one first, or roll it back.',
    }));

/** What no preparation of the guest mends: the host lacks it. */
const HOST_LACKS = new Set(['memory', 'processors', 'pool reach', 'size rule', 'real room']);
const isHard = ({ name, passed, never }: Check): boolean =>
  passed === false && (never === true || HOST_LACKS.has(name) || name === 'network present');

/** Others need it, or a service that it provides. */
function serves(fleet: Fleet, guestId: string): boolean {
  return (
    fleet.referringCount('dependency', 'onGuestId', guestId) > 0 ||
    fleet
      .referring('provider', 'guestId', guestId)
      .some(({ serviceId }) => fleet.referringCount('dependency', 'serviceId', serviceId) > 0)
  );
}

function deadlineOf(
  hosts: readonly Row<'host'>[],
  until: string | null,
): PlatformChange['deadline'] {
  if (until !== null) return { day: until, of: 'as was asked' };
  const [first] = hosts
    .flatMap(({ name, licenceUntil }) => (licenceUntil ? [{ day: licenceUntil, of: name }] : []))
    .sort((a, b) => a.day.localeCompare(b.day));
  return first ? { day: first.day, of: `licence of ${first.of}` } : null;
}
