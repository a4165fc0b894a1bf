/**
 * What hangs on which power feed, and what goes down with one: hosts none of whose supplies has power any more. Supplies of
 * a host share what it draws equally, over those that have power (common practice, no source); a feed that then has to carry
 * more than it may trips as well. Costs the hosts on the feeds that are looked at.
 */
import type { Fleet, Row } from '../record/index.js';

export interface FeedLoad {
  watts: number;
  /** Hosts on it of which nobody recorded what they draw. */
  unknown: number;
}

/** What of a host says so. */
const DRAWS = ['id', 'name', 'state', 'drawWatts'] as const;
type Drawing = Pick<Row<'host'>, (typeof DRAWS)[number]>;

const draws = ({ state }: Drawing): boolean => state === 'in service' || state === 'maintenance';

export const cordsOf = (fleet: Fleet, hostId: string): readonly Row<'powerCord'>[] =>
  fleet.partsOnly('powerCord', 'hostId', hostId);

/** Hosts that draw power and have a supply at a feed, each once, by name. */
export function hostsAt(fleet: Fleet, feedId: string): Drawing[] {
  const ids = new Set(fleet.referring('powerCord', 'feedId', feedId).map(({ hostId }) => hostId));
  return [...ids]
    .map((id) => fleet.pick('host', id, ...DRAWS))
    .filter(draws)
    .sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }));
}

/** What a feed carries while others are dead. */
export function feedLoad(
  fleet: Fleet,
  feedId: string,
  dead: ReadonlySet<string> = new Set(),
): FeedLoad {
  const load: FeedLoad = { watts: 0, unknown: 0 };
  if (dead.has(feedId)) return load;
  for (const { id, drawWatts } of hostsAt(fleet, feedId)) {
    const living = cordsOf(fleet, id).filter((cord) => !dead.has(cord.feedId));
    const here = living.filter((cord) => cord.feedId === feedId).length;
    if (drawWatts === null) load.unknown += 1;
    else load.watts += (drawWatts * here) / living.length;
  }
  return load;
}

export interface Outage {
  /** Feeds without power: the first, and those that tripped after it with what they would have had to carry. */
  feedIds: string[];
  tripped: { feedId: string; watts: number; allowed: number }[];
  /** Hosts with no power left. */
  hostIds: string[];
  /** Hosts of which nobody recorded what they draw, at feeds that go on. */
  unknown: number;
}

/** What a feed takes down when it fails. */
export function outageOf(fleet: Fleet, feedId: string): Outage {
  const dead = new Set([feedId]);
  const tripped: Outage['tripped'] = [];
  // A set is gone through in the order of adding, what is added meanwhile included.
  for (const gone of dead)
    for (const other of beside(fleet, gone)) {
      if (dead.has(other)) continue;
      const allowed = fleet.pick('powerFeed', other, 'watts').watts;
      const { watts } = feedLoad(fleet, other, dead);
      if (allowed === null || watts <= allowed) continue;
      dead.add(other);
      tripped.push({ feedId: other, watts, allowed });
    }
  const hostIds = new Set<string>();
  const left = new Set<string>();
  for (const gone of dead)
    for (const { id } of hostsAt(fleet, gone)) {
      const living = cordsOf(fleet, id).filter((cord) => !dead.has(cord.feedId));
      if (living.length === 0) hostIds.add(id);
      for (const cord of living) left.add(cord.feedId);
    }
  const unknown = [...left].reduce((sum, id) => sum + feedLoad(fleet, id, dead).unknown, 0);
  return { feedIds: [...dead], tripped, hostIds: [...hostIds].sort(), unknown };
}

/** Feeds that carry more where this one fails: those of hosts that have a supply at both. */
export function beside(fleet: Fleet, feedId: string): string[] {
  const others = new Set(
    hostsAt(fleet, feedId).flatMap(({ id }) => cordsOf(fleet, id).map((cord) => cord.feedId)),
  );
  others.delete(feedId);
  return [...others].sort();
}
