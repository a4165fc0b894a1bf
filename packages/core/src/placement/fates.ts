/**
 * What becomes of each guest when something fails: it restarts elsewhere, comes from a replica, comes from a backup, waits or is
 * lost. Guests are looked at host by host, and packed with those that may go where they may.
 * Costs the guests that lose their place times their candidates, not all hosts. Nothing is said in words here.
 */
import { memoryDemand } from '../host/index.js';
import { settle, type Exactly, type Settled } from '../packing/index.js';
import type { Fleet, Row } from '../record/index.js';
import { candidatesOf, standInsOf, type Candidates } from './candidates.js';
import {
  affectedGuests,
  hostsConcerned,
  poolSurvives,
  takenBy,
  type FailureDomain,
  type Taken,
} from './failure.js';
import {
  hostNumbers,
  MEMORY,
  numbersOf,
  PROCESSORS,
  questionOf,
  type FleetQuestion,
} from './fleet-question.js';
import { packedTogether } from './packed-together.js';

/** "waits": its disks are intact on storage that stays; it is down until a host can take it. */
export type Way = (typeof WAYS)[number];
export const WAYS = ['restart', 'replica', 'waits', 'backup', 'lost'] as const;

/** How far is searched: steps before it gives up, and who is asked then. */
export interface Search {
  budget?: number;
  exactly?: Exactly;
}

export interface Fate {
  guest: Row<'guest'>;
  way: Way;
  /** The witness: where it comes back, if it restarts or comes from a replica. */
  onHostId: string | null;
  candidates: Candidates;
  /** Those it was packed with; null where no host may take it. */
  packing: Packing | null;
  /** The copy that it comes back from, if it does not restart and does not wait. */
  copy: Row<'backup'> | undefined;
}

/** What becomes of all that lose their place. */
export interface Fates extends Outcome {
  fates: Fate[];
  packings: readonly Packing[];
  fallen: ReadonlySet<string>;
}

export interface Outcome {
  /** "not settled": the search gave up before it found a placement or the proof that there is none. */
  answer: 'all restart' | 'some do not' | 'not settled';
  counts: Record<Way, number>;
}

export function fatesOf(fleet: Fleet, domain: FailureDomain, search: Search = {}): Fates {
  const taken = takenBy(fleet, domain);
  const falling = [...hostsConcerned(fleet, taken)].map((id) => fallingOn(fleet, taken, id));
  const packings = packedTogether(falling).map((together) =>
    packThem(
      fleet,
      together.flatMap(({ movable }) => movable),
      taken.fallen,
      search,
    ),
  );
  const fates = [
    ...falling.flatMap(({ stuck }) => stuck.map((one) => fateOf(fleet, one, null, taken))),
    ...packings.flatMap((packing) =>
      packing.falling.map((one) => fateOf(fleet, one, packing, taken)),
    ),
  ];
  const counts = noneOf();
  for (const { way } of fates) counts[way] += 1;
  const stuck = falling.some((host) => host.stuck.length > 0);
  return {
    answer: answerOf(counts, stuck, packings),
    counts,
    fates,
    packings,
    fallen: taken.fallen,
  };
}

export const noneOf = (): Record<Way, number> => ({
  restart: 0,
  replica: 0,
  waits: 0,
  backup: 0,
  lost: 0,
});

/** @param stuck whether somebody may go nowhere */
export function answerOf(
  counts: Readonly<Record<Way, number>>,
  stuck: boolean,
  packings: readonly Pick<Packing, 'answer'>[],
): Outcome['answer'] {
  if (counts.waits + counts.backup + counts.lost === 0) return 'all restart';
  return stuck || packings.some(({ answer }) => answer === 'does not fit')
    ? 'some do not'
    : 'not settled';
}

export interface FallingGuest {
  guest: Row<'guest'>;
  candidates: Candidates;
}

/** Guests of one host that lose their place. */
export interface Falling {
  hostId: string;
  movable: readonly FallingGuest[];
  /** Those that no host may take. */
  stuck: readonly FallingGuest[];
  /** Rules that those who may go somewhere are members of. */
  ruleIds: readonly string[];
}

export function fallingOn(fleet: Fleet, taken: Taken, hostId: string): Falling {
  const failing = { ...taken, standIns: standInsOf(fleet, taken.fallen) };
  const all = affectedGuests(fleet, taken, hostId).map((guest) => ({
    guest,
    candidates: candidatesOf(fleet, guest, failing),
  }));
  const movable = all.filter(({ candidates }) => candidates.none === null);
  const ruleIds = movable.flatMap(({ guest }) =>
    fleet.referring('placementMember', 'guestId', guest.id).map(({ ruleId }) => ruleId),
  );
  return {
    hostId,
    movable,
    stuck: all.filter(({ candidates }) => candidates.none !== null),
    ruleIds: [...new Set(ruleIds)],
  };
}

/** Where guests went, or as many of them as found a place. */
export interface Packing {
  answer: Settled['answer'];
  falling: readonly FallingGuest[];
  placement: ReadonlyMap<string, string>;
  question: FleetQuestion;
}

export function packThem(
  fleet: Fleet,
  falling: readonly FallingGuest[],
  fallen: ReadonlySet<string>,
  { budget, exactly }: Search,
): Packing {
  const guests = falling.map(({ guest }) => guest);
  const candidates = new Map(
    falling.map(({ guest, candidates: { suitable } }) => [guest.id, suitable]),
  );
  const groupIds = new Set(
    guests.map(({ hostId }) => fleet.pick('host', hostId, 'groupId').groupId),
  );
  const [first = null] = groupIds;
  const hosts =
    groupIds.size === 1
      ? numbersOf(fleet, first, candidates.values())
      : hostNumbers(
          fleet,
          [...groupIds].flatMap((id) => fleet.backing(id)),
        );
  const question = questionOf(fleet, { guests, fallen, hosts, candidates });
  // A guest that only lost its pool gives its own room back.
  for (const { hostId, vcpu, memoryMiB } of guests) {
    const host = hosts.indexOf.get(hostId);
    if (host === undefined || fallen.has(hostId)) continue;
    question.room[host * 2 + MEMORY]! += memoryDemand(fleet, hostId, vcpu, memoryMiB);
    question.room[host * 2 + PROCESSORS]! += vcpu;
  }
  const { answer, at } = settle(question, budget, exactly);
  const placement = new Map<string, string>();
  for (const [unit, guest] of guests.entries())
    if (at[unit]! >= 0) placement.set(guest.id, question.hostIds[at[unit]!]!);
  return { answer, falling, placement, question };
}

export function fateOf(
  fleet: Fleet,
  { guest, candidates }: FallingGuest,
  packing: Packing | null,
  { fallen }: Taken,
): Fate {
  const onHostId = packing?.placement.get(guest.id) ?? null;
  const fate = { guest, candidates, packing, onHostId, copy: undefined };
  if (onHostId)
    return candidates.way === 'restart'
      ? { ...fate, way: 'restart' }
      : { ...fate, way: 'replica', copy: freshest(fleet, guest.id, 'replica', fallen) };
  const volumes = fleet.referring('volume', 'guestId', guest.id);
  if (volumes.length > 0 && volumes.every(({ poolId }) => poolSurvives(fleet, poolId, fallen)))
    return { ...fate, way: 'waits' };
  const copy = freshest(fleet, guest.id, 'backup', fallen);
  return { ...fate, copy, way: copy ? 'backup' : 'lost' };
}

/** The newest copy whose place survives. A store that is a guest must not run on a fallen host with its pool. */
function freshest(
  fleet: Fleet,
  guestId: string,
  way: 'backup' | 'replica',
  fallen: ReadonlySet<string>,
): Row<'backup'> | undefined {
  return fleet
    .referring('backup', 'guestId', guestId)
    .filter(
      (copy) =>
        copy.way === way && copy.lastSuccessAt !== null && copySurvives(fleet, copy, fallen),
    )
    .sort((a, b) => b.lastSuccessAt!.localeCompare(a.lastSuccessAt!))[0];
}

function copySurvives(fleet: Fleet, copy: Row<'backup'>, fallen: ReadonlySet<string>): boolean {
  if (copy.poolId) return poolSurvives(fleet, copy.poolId, fallen);
  if (!copy.storeGuestId) return true;
  return fleet
    .referring('volume', 'guestId', copy.storeGuestId)
    .every((volume) => poolSurvives(fleet, volume.poolId, fallen));
}
