/**
 * Searching for moves: arrays in, moves out; the same question has the same answer. What was found is counted again before it
 * is told. `tell` hears of each better answer and may stop the search, whose best answer stands then.
 */
import {
  besideEach,
  emptyHosts,
  evenOut,
  faultsOfMoves,
  fewestHosts,
  givenFullness,
  linearModel,
  narrowedTo,
  orderMoves,
  placingOf,
  settle,
  usedFullness,
  type EvenedOut,
  type EvenMove,
  type Exactly,
  type HostsBound,
  type Move,
  type Placing,
  type SolveLinear,
} from '../packing/index.js';
import { MEMORY, PROCESSORS } from '../placement/index.js';
import type { RearrangeProblem } from './rearrange-ask.js';

export interface Solution {
  moves: (Move & Partial<EvenMove>)[];
  at: Placing;
  /** Units on hosts to be emptied that found no place. */
  stuck: number[];
  /** What is proved: nothing is better; or nothing empties the hosts at all. Null: neither. */
  proven: 'best' | 'impossible' | null;
  /** Of the fewest hosts. */
  fewest: { used: number; before: number; bound: HostsBound } | null;
  /** Of evening out, in points of per cent. */
  even: { before: { spread: number; fullest: number }; bound: number } | null;
  /** MiB that must travel whatever is done, when emptying. */
  leastCost: number | null;
}

export interface Means {
  exactly?: Exactly;
  solve?: SolveLinear;
  seconds?: number;
  tell?: (best: Solution) => boolean;
}

/** A program with more choices than this is not asked of the solver. */
const MOST_CHOICES = 4_000;

export function solveRearrangement(problem: RearrangeProblem, means: Means = {}): Solution {
  const solution =
    problem.aim === 'empty'
      ? emptied(problem, means)
      : problem.aim === 'fewest'
        ? withFewest(problem, means)
        : evened(problem, means);
  const faults = faultsOfMoves(problem.question, problem.start, solution.moves);
  if (faults.length > 0) throw new Error(`moves that are not legal: ${faults.join('; ')}`);
  return solution;
}

const costOfMoves = ({ cost }: RearrangeProblem, moves: readonly Move[]): number =>
  moves.reduce((sum, { unit }) => sum + cost[unit]!, 0);

function emptied(
  problem: RearrangeProblem,
  { exactly, solve, seconds = 2, tell }: Means,
): Solution {
  const { question, start, cost } = problem;
  const closed = new Set(problem.closed);
  const costOf = (unit: number) => cost[unit]!;
  const leaving = [...start.keys()].filter((unit) => closed.has(start[unit]!));
  const unavoidable = leaving.reduce((sum, unit) => sum + cost[unit]!, 0);
  const chains = emptyHosts({ question, start, closed, costOf });
  const answer = (more: Partial<Solution>): Solution => ({
    moves: chains.moves,
    at: chains.at,
    stuck: chains.stuck,
    proven: null,
    fewest: null,
    even: null,
    leastCost: unavoidable,
    ...more,
  });
  let best = answer({});
  const spent = () => costOfMoves(problem, best.moves);
  if (best.stuck.length === 0 && spent() <= unavoidable) return { ...best, proven: 'best' };
  if (tell?.(best) === false) return best;
  const open = new Set(Array.from({ length: question.hosts }, (_, host) => host));
  for (const host of closed) open.delete(host);
  const inside = narrowedTo({ ...question, room: problem.mostRoom }, open);
  if (best.stuck.length > 0) {
    const settled = settle(inside, undefined, exactly);
    if (settled.answer === 'does not fit') return { ...best, proven: 'impossible' };
    const moves =
      settled.answer === 'fits'
        ? orderMoves({ question, start, target: settled.at, closed }).moves
        : null;
    if (moves) best = answer({ moves, at: settled.at, stuck: [] });
    if (tell?.(best) === false) return best;
  }
  const choices = inside.candidates.reduce((sum, set) => sum + set.length, 0);
  if (!solve || choices > MOST_CHOICES) return best;
  const least = solve(
    linearModel(inside, { of: (unit, host) => (start[unit] === host ? 0 : cost[unit]!) }),
    seconds,
  );
  const target = placingOf(inside, least);
  if (least.status !== 'optimal' || !target) return best;
  const leastCost = Math.round(least.bound);
  const moves = orderMoves({ question, start, target, closed }).moves;
  if (moves && (best.stuck.length > 0 || costOfMoves(problem, moves) < spent()))
    best = answer({ moves, at: target, stuck: [] });
  const proven = best.stuck.length === 0 && spent() <= leastCost ? 'best' : null;
  return { ...best, leastCost, proven };
}

function withFewest(problem: RearrangeProblem, { exactly, solve, tell }: Means): Solution {
  const { question, start, cost } = problem;
  const before = new Set(start);
  const could = problem.keepTolerance ? hostsThatMayFail(problem, start) : new Set<number>();
  const accept = (at: Placing): boolean => {
    if (could.size === 0) return true;
    // Hosts that are left are switched off; those that carried nothing before stand by as before.
    const off = new Set([...before].filter((host) => !at.includes(host)));
    const staying = [...could].filter((host) => !off.has(host));
    return staying.every(mayFail(problem, at, off));
  };
  const solutionOf = (found: ReturnType<typeof fewestHosts>): Solution => ({
    moves: found.moves,
    at: found.at,
    stuck: [],
    proven: found.proven ? 'best' : null,
    fewest: { used: found.used, before: before.size, bound: found.bound },
    even: null,
    leastCost: null,
  });
  return solutionOf(
    fewestHosts({
      question,
      mostRoom: problem.mostRoom,
      start,
      costOf: (unit) => cost[unit]!,
      accept,
      exactly,
      solve,
      tell: tell && ((found) => tell(solutionOf(found))),
    }),
  );
}

function evened(problem: RearrangeProblem, { tell }: Means): Solution {
  const { question, start, has, reserve, use, mostMoves, mostMiB, cost } = problem;
  const solutionOf = ({ before, moves, at, bound }: EvenedOut): Solution => ({
    ...{ moves, at, stuck: [], proven: null, fewest: null, leastCost: null },
    even: { before, bound },
  });
  return solutionOf(
    evenOut({
      question,
      start,
      fullness: use ? usedFullness(use, start) : givenFullness(question, start, has, reserve),
      mostMoves,
      costOf: (unit) => cost[unit]!,
      mostCost: mostMiB,
      tell: tell && ((found) => tell(solutionOf(found))),
    }),
  );
}

/** Whether the units of a host would all find a place on the others, what is kept free on purpose included: it is kept for this. */
function mayFail(
  { question, reserve, restarts }: RearrangeProblem,
  at: Placing,
  off: ReadonlySet<number> = new Set(),
): (host: number) => boolean {
  const lostWith = besideEach({ question, at, off, more: reserve, dims: [MEMORY, PROCESSORS] });
  return (host) => {
    const lost = lostWith(host);
    return (
      lost.units.every((unit) => restarts[unit]) && settle(lost.question, 2_000).answer === 'fits'
    );
  };
}

/** Hosts that may fail. */
export const hostsThatMayFail = (
  problem: RearrangeProblem,
  at: Placing,
  among: Iterable<number> = new Set(at),
): Set<number> => new Set([...among].filter(mayFail(problem, at)));
