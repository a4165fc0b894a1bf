/**
 * An order of moves in which each is legal when it is made: while it moves, a guest holds room on both hosts; rules are asked
 * after each move. Where the moves stand in a circle, one of them stops over elsewhere. Depth first, states that failed are
 * kept, and so are states in which more wait in circles than may stop over; "none" is said only where nothing was cut. What is
 * cut, and what takes more stop-overs, is walked where it is small, and searched by beams from both ends. Its cost grows exponentially with moves
 * that stand in each other's way.
 */
import { orderByBeam } from './beam-order.js';
import { fromItsEnd, turnedRound } from './from-its-end.js';
import { Moving, type Move } from './moving.js';
import { type Placing } from './question.js';
import { walkPlacings } from './walk-placings.js';
import { heldByARule, nothingLeadsTo, standingAtEnd } from './waiting.js';
import { faultsOfMoves } from './faults-of-moves.js';
import { type Ordering, Order } from './depth-first.js';

export interface Ordered {
  /** Null: none was found. */
  moves: Move[] | null;
  /** That there is none with so many stop-overs is proved. */
  proven: boolean;
  stopOvers: number;
}

/** Moves tried, times units that move: a third of a second or so. */
const WORK = 1_000_000;
const MOST_STOP_OVERS = 2;
/** Moves asked about while placings are walked: few from the end, where often next to nothing leads to it. */
const [WALKED_BACK, WALKED] = [20_000, 500_000];
/** Beams; so many moves asked about in all of them, and fewer once an order is found and only one with fewer stop-overs is wanted. */
const WIDTHS = [3, 10, 30, 100, 300];
const BEAMED = 16_000_000;
const BETTERED = 1_500_000;

export function orderMoves(ordering: Ordering): Ordered {
  const { start, target, most = MOST_STOP_OVERS } = ordering;
  const moving = start.reduce((n, host, unit) => n + Number(host !== target[unit]), 0);
  const { budget = WORK / Math.max(1, moving) } = ordering;
  const none: Ordered = { moves: null, proven: true, stopOvers: most };
  if (moving === 0) return { moves: [], proven: true, stopOvers: 0 };
  if (neverAnOrder(ordering)) return none;
  let left = budget;
  let proven = true;
  for (let stopOvers = 0; stopOvers <= most; stopOvers += 1) {
    const order = new Order(ordering, stopOvers, left);
    if (order.find()) return { moves: order.moves, proven: true, stopOvers: order.stopped };
    if (stopOvers === 0 && walkPlacings(fromItsEnd(ordering), WALKED_BACK) === 'none') return none;
    left -= order.steps;
    if (order.cut) proven = false;
    if (left <= 0) break;
  }
  const found = (moves: Move[]): Ordered => ({
    moves,
    proven: true,
    stopOvers: stopOversOf(moves, target),
  });
  const more = ordering.most === undefined;
  const walked = more ? walkPlacings(ordering, WALKED) : null;
  if (walked === 'none') return none;
  if (walked) return found(walked);
  const moves = more || !proven ? beamed(ordering) : null;
  if (moves && (more || stopOversOf(moves, target) <= most)) return found(moves);
  return { moves: null, proven, stopOvers: most };
}

/** Whether there is none, however many stop over. */
function neverAnOrder({ question, start, target }: Ordering): boolean {
  return (
    heldByARule(new Moving(question, start).board, start, target) ||
    nothingLeadsTo(standingAtEnd(question, start, target), start)
  );
}

const stopOversOf = (moves: readonly Move[], target: Placing): number =>
  moves.filter(({ unit, to }) => to !== target[unit]).length;

/** By beams from both ends: where the one is tight, the other often is not. The order with the fewest stop-overs found. */
function beamed(ordering: Ordering): Move[] | null {
  const ends = { front: ordering, back: fromItsEnd(ordering) };
  let best: Move[] | null = null;
  let work = BEAMED;
  for (const width of WIDTHS) {
    for (const [end, from] of Object.entries(ends)) {
      if (best && work < BEAMED - BETTERED) return best;
      const { moves: found, tried } = orderByBeam(from, { width, work });
      const moves = found && end === 'back' ? turnedRound(found) : found;
      if (moves && moves.length < (best?.length ?? Infinity) && isLegal(ordering, moves))
        best = moves;
      work -= tried;
    }
  }
  return best;
}

/** Counted anew. */
const isLegal = ({ question, start, target, closed }: Ordering, moves: readonly Move[]): boolean =>
  !moves.some(({ unit, to }) => to !== target[unit] && closed?.has(to)) &&
  faultsOfMoves(question, start, moves).length === 0;
