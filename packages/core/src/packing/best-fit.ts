/**
 * Best fit by weight: the heaviest unit first, each to the host where it leaves the least of what is scarce. Those that find
 * no place weigh more the next time (after the "squeaky wheel" of Joslin and Clements, JAIR 10, 1999, from memory).
 * Costs, per round, units · hosts they may go to.
 */
import { Board, largestShares, needAt, type PackingQuestion, type Placing } from './question.js';

/** What one that found no place weighs more in the next round. */
const HEAVIER = 1.3;

interface Fitted {
  at: Placing;
  left: number[];
}

/** How a host is chosen among those where a unit fits: the tightest in dimension `by`, or in the sum of shares. */
type Choice = { by: number } | 'shares';

function bestFit(
  question: PackingQuestion,
  weights: Float64Array,
  choice: Choice = { by: 0 },
  enough = Infinity,
): Fitted {
  const board = new Board(question);
  const order = Array.from({ length: question.units }, (_, unit) => unit).sort(
    (a, b) =>
      weights[b]! - weights[a]! ||
      question.candidates[a]!.length - question.candidates[b]!.length ||
      a - b,
  );
  const left: number[] = [];
  for (const unit of order) {
    const host = bestHost(board, unit, choice, undefined, enough);
    if (host < 0) left.push(unit);
    else board.put(unit, host);
  }
  return { at: board.at, left };
}

/**
 * The host that is left tightest, or -1.
 * @param no hosts that are no choice
 * @param enough so many that have the room are looked at
 */
export function bestHost(
  board: Board,
  unit: number,
  choice: Choice,
  no: (host: number) => boolean = () => false,
  enough = Infinity,
): number {
  const { question, free } = board;
  const { dims, need } = question;
  let [best, least] = [-1, Infinity];
  let looks = 0;
  const hosts = question.candidates[unit]!;
  const ruled = board.limitsOf[unit]!.length > 0;
  const by = choice === 'shares' ? -1 : choice.by;
  candidates: for (let i = 0; i < hosts.length; i += 1) {
    const host = hosts[i]!;
    const [from, at] = [needAt(question, unit, host), host * dims];
    for (let d = 0; d < dims; d += 1)
      if (need[from + d]! > 0 && free[at + d]! < need[from + d]!) continue candidates;
    if ((looks += 1) > enough) break;
    let slack = 0;
    if (by >= 0) slack = free[at + by]! - need[from + by]!;
    else
      for (let d = 0; d < dims; d += 1) {
        const share = (free[at + d]! - need[from + d]!) / Math.max(1, question.room[at + d]!);
        slack += share * share;
      }
    if (slack >= least || no(host) || (ruled && !board.isLet(unit, host))) continue;
    [best, least] = [host, slack];
  }
  return best;
}

/** Hosts from which on it costs too much to look at all of them for each unit, and as many as are looked at then. */
const MANY_HOSTS = 64;

/** Where there are many hosts: the heaviest first, each to the best of the first few that have the room. Null where some are left over. */
export function fitAmongFew(question: PackingQuestion): Placing | null {
  if (question.hosts <= MANY_HOSTS) return null;
  const { at, left } = bestFit(question, largestShares(question), { by: 0 }, MANY_HOSTS);
  return left.length === 0 ? at : null;
}

/** Rounds of best fit until all have a place, the one with the fewest left otherwise. */
export function fitInRounds(question: PackingQuestion, rounds: number): Fitted {
  const weights = largestShares(question);
  const choices: Choice[] = [
    ...Array.from({ length: Math.min(2, question.dims) }, (_, by): Choice => ({ by })),
    'shares',
  ];
  let best: Fitted | undefined;
  for (let round = 0; round < rounds; round += 1) {
    const fitted = bestFit(question, weights, choices[round % choices.length]!);
    if (!best || fitted.left.length < best.left.length) best = fitted;
    if (fitted.left.length === 0) break;
    for (const unit of fitted.left) weights[unit]! *= HEAVIER;
  }
  return best ?? { at: new Int32Array(0), left: [] };
}
