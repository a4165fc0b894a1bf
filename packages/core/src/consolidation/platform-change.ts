/**
 * A change of platform as a whole: hosts are emptied and rebuilt in turn, and what is rebuilt takes the guests of the next.
 * Largest guests first, each to the fullest host that still takes it. Nothing is recorded. Costs, for each stage, hosts that
 * are tried × their guests × hosts of the new platform; it stops at a bound and says so.
 */
import type { Fleet, Patch, Row } from '../record/index.js';
import {
  named,
  placeOf,
  stageOf,
  type PlatformAsk,
  type PlatformMove,
  type Search,
} from './platform-place.js';
import { wavesOf, type Waves } from './windows.js';

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
    const would = search.patches.length > 0 ? fleet.overlay(search.patches) : fleet;
    const emptied = waiting.find(({ host }) => {
      const found = emptying(would, host, search);
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
  const stage = stageOf(fleet, search.ask);
  const moves: PlatformMove[] = [];
  const patches: Patch[] = [];
  for (const guest of guests) {
    const found = placeOf(stage, guest, search);
    if ('why' in found) return { stuck: { guest: guest.name, why: found.why } };
    moves.push(found.move);
    patches.push(...found.patches);
  }
  return { moves, patches };
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
