/** A batch of new guests as a question in plain values, which a worker can be sent; and its search. */
import { covers, copiesByHost, unitsOfHost } from '../clone/index.js';
import {
  beside,
  needAt,
  placeUnits,
  type Backed,
  type CountedByHost,
  type Placed,
  type PlacingAim,
} from '../packing/index.js';
import { MEMORY, OWN_DISK, PROCESSORS } from '../placement/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { BatchAsk, LaidBatch, Lot } from './lay-batch.js';
import { rearrangeProblem } from './problem.js';
import { type RearrangeProblem } from './rearrange-ask.js';
import { hostsThatMayFail, solveRearrangement, type Means, type Solution } from './solve.js';

export interface BatchProblem extends RearrangeProblem {
  /** Units that are placed nowhere yet. */
  fresh: number[];
  placing: PlacingAim;
  makesRoom: boolean;
}

export interface BatchSolution extends Pick<Solution, 'moves' | 'at' | 'stuck'> {
  /** What the aim comes to, and what is known of it; null where others move, which is done for room alone. */
  placed: Pick<Placed, 'value' | 'bound' | 'proven'> | null;
  /** No way leaves fewer without a place, as long as nobody else moves. */
  leastLeft: boolean;
  /** Proved: there is no way for all of them, whatever moves. */
  impossible: boolean;
  /** Hosts, by number, that could fail before and no longer can. */
  lost: number[];
}

export function batchProblem(
  ask: BatchAsk,
  { fleet, outsideId, guestIds }: LaidBatch,
): BatchProblem {
  const { problem } = rearrangeProblem(
    fleet,
    {
      aim: 'empty',
      groupId: ask.groupId,
      emptiedIds: [outsideId],
      mostMoves: 1,
      keepTolerance: ask.keepTolerance,
      linkBitsPerSecond: ask.linkBitsPerSecond,
    },
    { outsideId },
  );
  const lotOf = new Map(guestIds.flatMap((ids, lot) => ids.map((id) => [id, lot] as const)));
  const outside = problem.hostIds.indexOf(outsideId);
  const fresh = [...problem.start.keys()].filter((unit) => problem.start[unit] === outside);
  for (const unit of fresh) problem.cost[unit] = 0;
  return {
    ...problem,
    // Nobody may stay where it is no place.
    question: {
      ...problem.question,
      candidates: problem.question.candidates.map((hosts, unit) =>
        problem.start[unit] === outside ? hosts.filter((host) => host !== outside) : hosts,
      ),
    },
    fresh,
    makesRoom: ask.makesRoom,
    placing: placingOf(
      fleet,
      ask,
      problem,
      (unit) => ask.lots[lotOf.get(problem.guestIds[unit]!)!]!,
    ),
  };
}

function placingOf(
  fleet: Fleet,
  { aim, prices, lots }: BatchAsk,
  problem: RearrangeProblem,
  lotOf: (unit: number) => Lot,
): PlacingAim {
  const { question, start, closed, hostIds } = problem;
  const fresh = [...start.keys()].filter((unit) => start[unit] === closed[0]);
  if (aim === 'fewest') {
    const used = new Uint8Array(question.hosts);
    for (const host of start) if (host !== closed[0]) used[host] = 1;
    return { by: 'fewest', used };
  }
  if (aim === 'even') {
    const taken = new Float64Array(problem.has.length);
    for (const [unit, host] of start.entries())
      for (const d of [MEMORY, PROCESSORS])
        if (host !== closed[0])
          taken[host * question.dims + d]! += question.need[needAt(question, unit, host) + d]!;
    return { by: 'even', has: problem.has, taken };
  }
  return {
    by: 'licences',
    licences: licencesOf(fleet, lots).map((entitlement): CountedByHost => {
      const copies = copiesByHost(
        fleet,
        entitlement,
        (guest) => !isFresh(guest, hostIds[closed[0]!]!),
      );
      return {
        covers: Uint8Array.from(fresh, (unit) => Number(covers(entitlement, asGuest(lotOf(unit))))),
        once: Float64Array.from(hostIds, (id) => unitsOfHost(entitlement, fleet.need('host', id))),
        copies: entitlement.copiesPerHost,
        standing: Int32Array.from(hostIds, (id) => copies.get(id) ?? 0),
        // What other groups use of it is used.
        allowed:
          entitlement.count -
          [...copies].reduce(
            (sum, [id, on]) =>
              hostIds.includes(id) ? sum : sum + usedOn(entitlement, fleet.need('host', id), on),
            0,
          ),
        price: prices.find(({ entitlementId }) => entitlementId === entitlement.id)?.price ?? 1,
      };
    }),
  };
}

const isFresh = (guest: Row<'guest'>, outsideId: string): boolean => guest.hostId === outsideId;

const usedOn = (entitlement: Row<'entitlement'>, host: Row<'host'>, copies: number): number =>
  unitsOfHost(entitlement, host) *
  (entitlement.copiesPerHost === 0 ? 1 : Math.ceil(copies / entitlement.copiesPerHost));

const asGuest = ({ profileId, family, labels }: Lot) =>
  ({ profileId, family, labels: [...labels], state: 'in service' }) as const;

/** Licences that cover some of the new ones and are counted by hosts. */
export const licencesOf = (fleet: Fleet, lots: readonly Lot[]): Row<'entitlement'>[] =>
  [...fleet.all('entitlement')]
    .filter(
      (entitlement) =>
        entitlement.unit !== 'user' &&
        entitlement.unit !== 'copy' &&
        lots.some((lot) => covers(entitlement, asGuest(lot))),
    )
    .sort((a, b) => a.name.localeCompare(b.name));

/** Beside all that stand first; where that leaves some over and others may move, they make room, as little as can be. */
export function solveBatch(
  problem: BatchProblem,
  {
    solve,
    exactly,
    seconds,
    tell,
  }: Omit<Means, 'tell'> & { tell?: (best: BatchSolution) => boolean } = {},
): BatchSolution {
  const { question, start, closed, fresh } = problem;
  const outside = closed[0]!;
  const standing = Int32Array.from(start, (host) => (host === outside ? -1 : host));
  const carrying = new Set(standing.filter((host) => host >= 0));
  const could = problem.keepTolerance
    ? hostsThatMayFail(problem, standing, carrying)
    : new Set<number>();
  const whole = (at: Int32Array): Int32Array => {
    const all = standing.slice();
    for (const [i, unit] of fresh.entries()) all[unit] = at[i]!;
    return all;
  };
  const backed = [...could].map((host) => backedBy(problem, standing, host));
  // Nothing is proved by less than there is: of a host's own pools one counts, and who fails may ask less elsewhere.
  const exact = asksAll(problem) && (could.size === 0 || question.classes === 1);
  const solutionOf = (found: Placed): BatchSolution => {
    const at = whole(found.at);
    return {
      moves: fresh.flatMap((unit) =>
        at[unit]! >= 0 ? [{ unit, from: outside, to: at[unit]! }] : [],
      ),
      // Who has no place is still outside.
      at: at.map((host) => (host < 0 ? outside : host)),
      stuck: found.left.map((i) => fresh[i]!),
      placed: {
        value: found.value,
        bound: exact ? found.bound : null,
        proven: exact && found.proven,
      },
      ...{ leastLeft: exact && found.leastLeft, impossible: false, lost: found.lost },
    };
  };
  const found = placeUnits({
    question: beside({ question, at: standing, units: fresh }),
    aim: problem.placing,
    backed,
    lost: (at) => {
      if (could.size === 0) return [];
      const may = hostsThatMayFail(problem, whole(at), could);
      return [...could].filter((host) => !may.has(host));
    },
    ...{ solve, seconds },
    tell: tell && ((best) => tell(solutionOf(best))),
  });
  const alone = solutionOf(found);
  if (found.left.length === 0 || !problem.makesRoom) return alone;
  const roomy = solveRearrangement({ ...problem, aim: 'empty' }, { solve, exactly, seconds });
  const impossible = roomy.proven === 'impossible';
  if (roomy.stuck.length >= found.left.length) return { ...alone, impossible };
  const may =
    could.size > 0 ? hostsThatMayFail(problem, standingOf(roomy.at, outside), could) : could;
  return {
    moves: roomy.moves,
    at: roomy.at,
    stuck: roomy.stuck,
    placed: null,
    leastLeft: false,
    impossible,
    lost: [...could].filter((host) => !may.has(host)),
  };
}

const standingOf = (at: Int32Array, outside: number): Int32Array =>
  at.map((host) => (host === outside ? -1 : host));

/** Whether all the room there is was asked: none of the new ones goes into one of several pools of a host alone. */
const asksAll = ({ question, mostRoom, fresh }: BatchProblem): boolean =>
  mostRoom.every((has, i) => has <= question.room[i]!) ||
  fresh.every((unit) => question.need[unit * question.classes * question.dims + OWN_DISK] === 0);

/** What a host carries that others must be able to take, and what is free on them; memory and processors alone. */
function backedBy(
  { question, reserve, closed }: BatchProblem,
  standing: Int32Array,
  host: number,
): Omit<Backed, 'margin'> {
  const { dims, room, need, hosts } = question;
  const carries = [0, 0];
  const left = room.map((has, i) => has + reserve[i]!);
  for (const [unit, on] of standing.entries())
    for (const d of [MEMORY, PROCESSORS]) {
      if (on < 0) continue;
      const demand = need[needAt(question, unit, on) + d]!;
      if (on === host) carries[d]! += demand;
      else left[on * dims + d]! -= demand;
    }
  const free = [MEMORY, PROCESSORS].map((d) => {
    let sum = 0;
    // One that is overfull takes nobody, and takes nothing from the others.
    for (let other = 0; other < hosts; other += 1)
      if (other !== host && other !== closed[0]) sum += Math.max(0, left[other * dims + d]!);
    return sum;
  });
  return { host, carries, free };
}
