/**
 * What becomes of each guest when something fails: it restarts elsewhere, comes from a replica, comes from a backup, waits or is
 * lost. Costs the guests that lose their place times their candidates, not all hosts. Nothing is said in words here.
 */
import { memoryDemand } from '../guest/demand.js';
import { settle, type Exactly, type Settled } from '../packing/index.js';
import type { Fleet, Row } from '../record/index.js';
import { candidatesOf, matesOf, standInsOf, type Candidates } from './candidates.js';
import { affectedGuests, fallenHosts, poolSurvives, type FailureDomain } from './failure.js';
import {
  groupNumbers,
  hostNumbers,
  MEMORY,
  PROCESSORS,
  questionOf,
  type FleetQuestion,
} from './fleet-question.js';

/** "waits": its disks are intact on storage that stays; it is down until a host can take it. */
export type Way = 'restart' | 'replica' | 'waits' | 'backup' | 'lost';

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
  /** The copy that it comes back from, if it does not restart and does not wait. */
  copy: Row<'backup'> | undefined;
}

/** What becomes of all that lose their place. */
export interface Fates {
  /** "not settled": the search gave up before it found a placement or the proof that there is none. */
  answer: 'all restart' | 'some do not' | 'not settled';
  fates: Fate[];
  counts: Record<Way, number>;
  packing: Packing;
  movable: readonly Row<'guest'>[];
  fallen: ReadonlySet<string>;
}

export function fatesOf(fleet: Fleet, domain: FailureDomain, search: Search = {}): Fates {
  const fallen = fallenHosts(fleet, domain.hostIds);
  const affected = affectedGuests(fleet, fallen, domain.cut);
  const standIns = standInsOf(fleet, fallen);
  const candidates = new Map(
    affected.map((guest) => [guest.id, candidatesOf(fleet, guest, fallen, standIns, domain.cut)]),
  );
  const movable = affected.filter((guest) => candidates.get(guest.id)!.none === null);
  const packing = packThem(fleet, movable, candidates, fallen, search);
  const fates = affected.map((guest) =>
    fateOf(fleet, guest, candidates.get(guest.id)!, { packing, fallen }),
  );
  const counts: Record<Way, number> = { restart: 0, replica: 0, waits: 0, backup: 0, lost: 0 };
  for (const { way } of fates) counts[way] += 1;
  const whole = counts.waits + counts.backup + counts.lost === 0;
  const answer: Fates['answer'] = whole
    ? 'all restart'
    : packing.answer === 'not settled' && movable.length === affected.length
      ? 'not settled'
      : 'some do not';
  return { answer, fates, counts, packing, movable, fallen };
}

/** Where guests went, or as many of them as found a place. */
export interface Packing {
  answer: Settled['answer'];
  placement: ReadonlyMap<string, string>;
  question: FleetQuestion;
}

function packThem(
  fleet: Fleet,
  guests: readonly Row<'guest'>[],
  candidates: ReadonlyMap<string, Candidates>,
  fallen: ReadonlySet<string>,
  { budget, exactly }: Search,
): Packing {
  const groupIds = new Set(guests.map(({ hostId }) => fleet.need('host', hostId).groupId));
  const [first = null] = groupIds;
  const hosts =
    groupIds.size === 1
      ? groupNumbers(fleet, first)
      : hostNumbers(
          fleet,
          [...groupIds].flatMap((id) => matesOf(fleet, id)),
        );
  const question = questionOf(fleet, {
    guests,
    fallen,
    hosts,
    candidates: new Map(guests.map(({ id }) => [id, candidates.get(id)!.suitable])),
  });
  // A guest that only lost its pool gives its own room back.
  for (const { id, hostId, vcpu, memoryMiB } of guests) {
    const host = hosts.indexOf.get(hostId);
    if (host === undefined || fallen.has(hostId) || !candidates.has(id)) continue;
    question.room[host * 2 + MEMORY]! += memoryDemand(fleet, hostId, vcpu, memoryMiB);
    question.room[host * 2 + PROCESSORS]! += vcpu;
  }
  const { answer, at } = settle(question, budget, exactly);
  const placement = new Map<string, string>();
  for (const [unit, guest] of guests.entries())
    if (at[unit]! >= 0) placement.set(guest.id, question.hostIds[at[unit]!]!);
  return { answer, placement, question };
}

function fateOf(
  fleet: Fleet,
  guest: Row<'guest'>,
  candidates: Candidates,
  { packing, fallen }: Pick<Fates, 'packing' | 'fallen'>,
): Fate {
  const onHostId = packing.placement.get(guest.id) ?? null;
  const fate = { guest, candidates, onHostId, copy: undefined };
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

export function copySurvives(
  fleet: Fleet,
  copy: Row<'backup'>,
  fallen: ReadonlySet<string>,
): boolean {
  if (copy.poolId) return poolSurvives(fleet, copy.poolId, fallen);
  if (!copy.storeGuestId) return true;
  return fleet
    .referring('volume', 'guestId', copy.storeGuestId)
    .every((volume) => poolSurvives(fleet, volume.poolId, fallen));
}
