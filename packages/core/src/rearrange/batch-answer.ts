/**
 * Where the guests of a batch go, in the words of the record: by lot and host, with what is proved, who makes room for them,
 * what hosts have left and which may still fail, licences before and after, and who has no place and what it lacks. Each
 * is brought there once more on the record itself, and room is asked of it: no search's word is taken. Costs guests + hosts.
 */
import { entitlementUse, namesOf, readPattern } from '../clone/index.js';
import type { Fleet, Patch } from '../record/index.js';
import { hostView, toleranceOf } from './host-shares.js';
import { moveOf, notHeld, patchesOf } from './made-move.js';
import type { RearrangedMove } from './rearranged.js';
import { stuckView } from './stuck-guest.js';
import { licencesOf, type BatchProblem, type BatchSolution } from './batch-problem.js';
import type { BatchAsk, LaidBatch, Short } from './lay-batch.js';
import type { PlacedBatch, PlacedLot, LicenceChange, PlacedGuest } from './placed-batch.js';
import { sentences } from './batch-words.js';

export function placedBatch(
  fleet: Fleet,
  ask: BatchAsk,
  laid: LaidBatch,
  problem: BatchProblem,
  solution: BatchSolution,
): PlacedBatch {
  const made = bringThem(fleet, ask, laid, problem, solution);
  const { moves, guests, refused, after } = made;
  const hostIds = problem.hostIds.filter((id) => id !== laid.outsideId);
  const hosts = hostIds
    .map((id) => hostView(fleet, after, id))
    .sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }));
  const lots = ask.lots.map((lot, i): PlacedLot => {
    const here = guests.filter((guest) => guest.lot === i);
    const on = new Map<string, PlacedLot['on'][number]>();
    for (const { hostId, host } of here) {
      const held = on.get(hostId) ?? { hostId, host, count: 0 };
      held.count += 1;
      on.set(hostId, held);
    }
    return {
      pattern: lot.pattern,
      wanted: lot.count,
      placed: here.length,
      on: [...on.values()].sort((a, b) =>
        a.host.localeCompare(b.host, undefined, { numeric: true }),
      ),
      short: [
        ...(laid.short[i] ? [laid.short[i]] : []),
        ...shortOf(laid, problem, solution, i),
        ...refused.filter((one) => one.lot === i).map(({ why }) => ({ count: 1, why, mend: null })),
      ],
    };
  });
  const answer = {
    ...{ lots, guests, moves, hosts },
    tolerance: toleranceOf(fleet, after, hostIds),
    licences: licencesOf(fleet, ask.lots).map(({ id, name, unit, count }): LicenceChange => ({
      entitlementId: id,
      ...{ name, unit },
      before: entitlementUse(fleet, id).value,
      after: entitlementUse(after, id).value,
      allowed: count,
    })),
  };
  // What the record refuses was not asked of the search: then nothing of it is proved.
  const proved = refused.length === 0 ? solution : { ...solution, placed: null, leastLeft: false };
  return { ...answer, ...sentences(ask, proved, answer) };
}

interface Brought {
  moves: RearrangedMove[];
  guests: PlacedGuest[];
  refused: { lot: number; why: string }[];
  /** The record with all of it made. */
  after: Fleet;
}

/** One after another; where one cannot be, what comes after it is asked all the same, unless it needed that room. */
function bringThem(
  fleet: Fleet,
  ask: BatchAsk,
  laid: LaidBatch,
  problem: BatchProblem,
  solution: BatchSolution,
): Brought {
  const lotOf = new Map(laid.guestIds.flatMap((ids, lot) => ids.map((id) => [id, lot] as const)));
  const nowhere: Patch = {
    op: 'update',
    kind: 'host',
    id: laid.outsideId,
    seen: laid.fleet.need('host', laid.outsideId).revision,
    before: { state: 'in service', groupId: ask.groupId },
    after: { state: 'retired', groupId: null },
  };
  const would = laid.fleet.overlay([]);
  const moves: RearrangedMove[] = [];
  const brought: (PlacedGuest & { guestId: string })[] = [];
  const refused: Brought['refused'] = [];
  for (const { unit, to } of solution.moves) {
    const guest = would.need('guest', problem.guestIds[unit]!);
    const lot = lotOf.get(guest.id);
    const move = moveOf(would, guest, problem.hostIds[to]!, ask.linkBitsPerSecond);
    const patches = patchesOf(would, guest, move);
    const why = notHeld(would.overlay(patches), fleet, move);
    if (why) {
      if (lot === undefined) break;
      refused.push({ lot, why });
      continue;
    }
    would.apply(patches, fleet.revision);
    if (lot === undefined) {
      moves.push({ ...move, why: 'makes room' });
      continue;
    }
    const [volume] = would.referring('volume', 'guestId', guest.id);
    brought.push({
      ...{ lot, guestId: guest.id, name: '', hostId: move.toHostId, host: move.to },
      poolId: volume?.poolId ?? null,
      pool: volume ? would.need('pool', volume.poolId).name : null,
    });
  }
  brought.sort(
    (a, b) => a.lot - b.lot || a.host.localeCompare(b.host, undefined, { numeric: true }),
  );
  return {
    ...{ moves, refused },
    guests: named(fleet, ask, brought).map(({ guestId: _, ...guest }) => guest),
    after: withoutOthers(would, new Set(brought.map(({ guestId }) => guestId)), laid, nowhere),
  };
}

/** Who found no place is no guest; and nowhere is no host. */
function withoutOthers(
  would: Fleet,
  placed: ReadonlySet<string>,
  { guestIds }: LaidBatch,
  nowhere: Patch,
): Fleet {
  const retired = guestIds.flat().flatMap((id): Patch[] =>
    placed.has(id)
      ? []
      : [
          {
            op: 'update',
            kind: 'guest',
            id,
            seen: would.need('guest', id).revision,
            before: { state: 'in service' },
            after: { state: 'retired' },
          },
        ],
  );
  return would.overlay([nowhere, ...retired]);
}

/** Names as their pattern gives them, host after host; where it gives too few, none is given to the others. */
function named<G extends PlacedGuest>(fleet: Fleet, { lots }: BatchAsk, guests: readonly G[]): G[] {
  const given = new Set<string>();
  const taken = (name: string): boolean =>
    given.has(name.toLowerCase()) || fleet.named(name).length > 0;
  return lots.flatMap(({ pattern }, i) => {
    const here = guests.filter(({ lot }) => lot === i);
    const read = readPattern(pattern.trim());
    if (!read.ok) return here;
    const slots = here.map(({ hostId, host }) => ({
      host,
      site: fleet.get('site', fleet.need('host', hostId).siteId)?.name ?? '',
    }));
    const names = namesOf(read, { slots, start: 1, taken });
    for (const name of names) given.add(name.toLowerCase());
    return here.map((guest, n) => ({ ...guest, name: names[n] ?? '' }));
  });
}

/** Those of a lot that no host takes, by why. */
function shortOf(
  { fleet, guestIds }: LaidBatch,
  problem: BatchProblem,
  solution: BatchSolution,
  lot: number,
): Short[] {
  const ids = new Set(guestIds[lot]);
  const stuck = solution.stuck.filter((unit) => ids.has(problem.guestIds[unit]!));
  if (stuck.length === 0) return [];
  const { why, mend } = stuckView(
    ...([fleet, problem, solution, stuck[0]!, new Map()] as const),
    'no host of the group reaches its pool',
  );
  return [{ count: stuck.length, why, mend }];
}
