/**
 * Where the guests of a batch go, in the words of the record: by lot and host, with what is proved, who makes room for them,
 * what hosts have left and which may still fail, licences before and after, and who has no place and what it lacks. Each
 * is brought there once more on the record itself, and room is asked of it: no search's word is taken. Costs guests + hosts.
 */
import { entitlementUse, namesOf, readPattern } from '../clone/index.js';
import { counted, fewNames } from '../quantity/index.js';
import type { Fleet, Patch, Row } from '../record/index.js';
import { hostView, toleranceOf } from './host-shares.js';
import { moveOf, notHeld, patchesOf } from './made-move.js';
import type { Rearranged, RearrangedHost, RearrangedMove } from './rearranged.js';
import { stuckView } from './stuck-guest.js';
import { licencesOf, type BatchProblem, type BatchSolution } from './batch-problem.js';
import type { BatchAsk, LaidBatch, Short } from './lay-batch.js';

export interface PlacedGuest {
  lot: number;
  name: string;
  hostId: string;
  host: string;
  /** Null: it has no volume. */
  poolId: string | null;
  pool: string | null;
}

export interface PlacedLot {
  pattern: string;
  asked: number;
  placed: number;
  /** How many on each host, in the order of their names. */
  on: { hostId: string; host: string; count: number }[];
  short: Short[];
}

export interface LicenceChange {
  entitlementId: string;
  name: string;
  unit: Row<'entitlement'>['unit'];
  before: number;
  after: number;
  allowed: number;
}

export interface PlacedBatch {
  headline: string;
  proof: string;
  lots: PlacedLot[];
  guests: PlacedGuest[];
  /** Guests that move first, to make room. */
  moves: RearrangedMove[];
  hosts: RearrangedHost[];
  tolerance: Rearranged['tolerance'];
  licences: LicenceChange[];
}

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
      asked: lot.count,
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

function sentences(
  { aim, lots: asked, keepTolerance }: BatchAsk,
  { placed, leastLeft, impossible, stuck }: BatchSolution,
  {
    lots,
    moves,
    hosts,
    licences,
    tolerance,
  }: Pick<PlacedBatch, 'lots' | 'moves' | 'hosts' | 'licences' | 'tolerance'>,
): Pick<PlacedBatch, 'headline' | 'proof'> {
  const all = asked.reduce((sum, { count }) => sum + count, 0);
  const there = lots.reduce((sum, lot) => sum + lot.placed, 0);
  const on = new Set(lots.flatMap((lot) => lot.on.map(({ hostId }) => hostId)));
  const anew = hosts.filter(({ id, before }) => on.has(id) && before.guests === 0).length;
  const room =
    moves.length > 0
      ? `, after ${counted(moves.length, 'move')} that ${moves.length === 1 ? 'makes' : 'make'} room`
      : '';
  const begun =
    aim !== 'fewest'
      ? ''
      : `; ${anew === 0 ? 'no empty host is' : `${counted(anew, 'empty host')} ${anew === 1 ? 'is' : 'are'}`} taken into use`;
  const short = all - there;
  const headline =
    short === 0
      ? `${counted(all, 'guest')} ${all === 1 ? 'goes' : 'go'} to ${counted(on.size, 'host')}${room}${begun}.`
      : `${there} of ${counted(all, 'guest')} have a place${room}; ${short} ${short === 1 ? 'has' : 'have'} none.`;
  const parts: string[] = [];
  if (stuck.length > 0)
    parts.push(
      impossible
        ? 'Proved: there is no place for all of them, whatever moves.'
        : leastLeft
          ? 'Proved: as long as nobody moves, no way leaves fewer without a place.'
          : 'That no more can be placed is not proved.',
    );
  if (placed && there > 0) parts.push(boundOf(aim, placed, { hosts, on, licences }));
  if (moves.length > 0)
    parts.push(
      'Where others move, what travels comes first: the aim was not asked of this answer.',
    );
  if (keepTolerance && tolerance.lost.length > 0)
    parts.push(`No way was found that leaves ${fewNames(tolerance.lost)} able to fail as now.`);
  return { headline, proof: parts.join(' ') };
}

function boundOf(
  aim: BatchAsk['aim'],
  { value, bound, proven }: NonNullable<BatchSolution['placed']>,
  { hosts, on, licences }: Pick<PlacedBatch, 'hosts' | 'licences'> & { on: ReadonlySet<string> },
): string {
  if (aim === 'fewest') {
    const used = hosts.filter(({ id, before }) => before.guests > 0 || on.has(id)).length;
    if (proven)
      return `Proved: no placing gets by with fewer than ${counted(used, 'host')} in use.`;
    return bound === null
      ? `${counted(used, 'host')} in use; whether fewer would do is open.`
      : `No placing uses fewer than ${counted(bound, 'host')}; this one uses ${used}.`;
  }
  if (aim === 'even') {
    const full = percent(value);
    if (proven)
      return `Proved: the fullest host that takes any is at ${full}, and cannot be less full.`;
    return bound === null
      ? `The fullest host that takes any is at ${full}; whether less would do is open.`
      : `The fullest host that takes any is at ${full}; below ${percent(bound)} it cannot be.`;
  }
  if (licences.length === 0) return 'No licence that is counted by hosts covers any of them.';
  if (proven) return 'Proved: no placing takes cheaper licences.';
  return 'Whether cheaper licences would do is open.';
}

const percent = (share: number): string => `${(share * 100).toFixed(1)} %`;
