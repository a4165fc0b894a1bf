/**
 * Placing units beside what stands, by an aim, with the bound that no placing is below: put one after another first, which is
 * there at once; then a program is asked for something better, or for the proof that nothing is. Who must be able to fail
 * still must: `lost` is asked of every answer, and the program of sums is asked again with more room kept where it says no.
 * Costs units · hosts, then kinds · hosts in the program.
 */
import { leastLevel, stepsTowards, valueOf, type PlacingAim } from './aims.js';
import { leastNeeds, Board, needAt, type PackingQuestion, type Placing } from './question.js';
import { placeModel, placingOfKinds, type Backed } from './place-model.js';
import type { SolveLinear } from './linear-model.js';

export interface Placed {
  at: Placing;
  left: number[];
  /** What it comes to, by the aim. */
  value: number;
  /** What no placing of as many units is below; null: nothing is known. */
  bound: number | null;
  /** Nothing is better. */
  proven: boolean;
  /** No placing leaves fewer over. */
  leastLeft: boolean;
  /** Hosts that could fail before and cannot with this one. */
  lost: number[];
}

export interface Placement {
  question: PackingQuestion;
  aim: PlacingAim;
  /** Hosts that must be able to fail, and who of them cannot with a placing. */
  backed?: readonly Omit<Backed, 'margin'>[];
  lost?: (at: Placing) => number[];
  solve?: SolveLinear;
  seconds?: number;
  tell?: (best: Placed) => boolean;
}

/** A program with more choices than this is not asked of the solver. */
const MOST_CHOICES = 6_000;
/** So much more room is kept for what could fail, one after another, until all can. */
const MARGINS = [0, 0.1, 0.25, 0.5, 1];
/** Hosts that differ by less are as full: a twentieth of a per cent. */
const ALIKE = 0.0005;
/** Solvers count in fractions. */
const NEARLY = 1e-6;

export function placeUnits(problem: Placement): Placed {
  const { question, aim, backed = [], lost = () => [], solve, seconds = 2, tell } = problem;
  const answer = (at: Placing): Placed => {
    const left = [...at.keys()].filter((unit) => at[unit]! < 0);
    return {
      at,
      left,
      value: valueOf(question, aim, at),
      ...{ bound: null, proven: false, leastLeft: left.length === 0 },
      lost: lost(at),
    };
  };
  let best = inTurn(question, aim).map(answer).reduce(better);
  if (tell?.(best) === false || !solve || question.units === 0) return best;
  const level = aim.by === 'even' && best.left.length === 0 ? leastLevel(question, aim) : 0;
  const between = {
    least: level,
    most: best.left.length + best.lost.length ? Infinity : best.value,
  };
  const modelWith = (margin: number) =>
    placeModel(
      question,
      aim,
      backed.map((one) => ({ ...one, margin })),
      between,
    );
  const model = modelWith(0);
  const { unplaced, kinds } = model;
  // Who gets no place comes first in what a program says, and is taken off again where both leave as many over.
  const least = model.choices <= MOST_CHOICES ? boundOf(aim, solve(model.relaxed, seconds)) : null;
  best = judged(best, least ?? (level > 0 ? level : null), unplaced, aim);
  if (best.proven || model.choices > MOST_CHOICES || tell?.(best) === false) return best;
  let bound = least ?? (level > 0 ? level : null);
  for (const margin of MARGINS) {
    const first = margin === 0;
    const said = solve((first ? model : modelWith(margin)).program, first ? seconds : seconds / 2);
    if (first && said.status === 'optimal') bound = boundOf(aim, said);
    const at = placingOfKinds(question, kinds, said);
    if (!at) break;
    const found = evened(question, aim, answer(at), answer);
    best = judged(better(best, found), bound, unplaced, aim);
    if (found.lost.length === 0 || tell?.(best) === false) break;
  }
  return judged(best, bound, unplaced, aim);
}

/** All but the even one count in whole numbers. */
function boundOf(aim: PlacingAim, { status, bound }: ReturnType<SolveLinear>): number | null {
  if (status !== 'optimal') return null;
  const used = aim.by === 'fewest' ? aim.used.reduce((sum, one) => sum + one, 0) : 0;
  return used + (aim.by === 'even' ? bound : Math.ceil(bound - NEARLY));
}

function judged(best: Placed, bound: number | null, unplaced: number, { by }: PlacingAim): Placed {
  if (bound === null) return best;
  const total = best.value + unplaced * best.left.length;
  // One without a place weighs more than all else together.
  const leastLeft = bound >= unplaced * (best.left.length - NEARLY);
  return {
    ...best,
    bound: leastLeft ? Math.max(0, bound - unplaced * best.left.length) : null,
    proven:
      best.lost.length === 0 &&
      total <= bound + (by === 'even' ? ALIKE : NEARLY * Math.max(1, bound)),
    leastLeft,
  };
}

/** Fewer left over, then fewer that can no longer fail, then by the aim. */
function better(one: Placed, other: Placed): Placed {
  const by =
    other.left.length - one.left.length ||
    other.lost.length - one.lost.length ||
    other.value - one.value;
  return by < -NEARLY ? other : one;
}

/** How full the fullest is, is all that a program evens: below that what is put in turn is more even, where it is as good. */
function evened(
  question: PackingQuestion,
  aim: PlacingAim,
  found: Placed,
  answer: (at: Placing) => Placed,
): Placed {
  if (aim.by !== 'even' || found.left.length > 0) return found;
  const within = inTurn(question, aim, found.value + NEARLY)
    .map(answer)
    .reduce(better);
  return within.left.length === 0 && within.lost.length <= found.lost.length ? within : found;
}

/**
 * One after another, the heaviest first, each to the host that the aim likes best; those left over weigh more the next time.
 * @param ceiling no host is chosen that the aim would put above it
 */
function inTurn(question: PackingQuestion, aim: PlacingAim, ceiling = Infinity): Placing[] {
  const least = leastNeeds(question);
  const { units, dims, hosts, room } = question;
  const has = Array.from({ length: dims }, (_, d) =>
    Array.from({ length: hosts }, (_, host) => Math.max(0, room[host * dims + d]!)).reduce(
      (sum, one) => sum + one,
      1,
    ),
  );
  const weights = Float64Array.from({ length: units }, (_, unit) =>
    Math.max(...has.map((all, d) => least[unit * dims + d]! / all)),
  );
  const found: Placing[] = [];
  // What is begun with anew is the tightest, or the roomiest.
  for (let round = 0; round < 8; round += 1) {
    const roomy = round % 2 === 1;
    const board = new Board(question);
    const step = stepsTowards(board, aim);
    const order = [...weights.keys()].sort(
      (a, b) =>
        weights[b]! - weights[a]! ||
        question.candidates[a]!.length - question.candidates[b]!.length ||
        a - b,
    );
    const left: number[] = [];
    for (const unit of order) {
      const host = liked(board, unit, step.of, { ceiling, roomy });
      if (host < 0) left.push(unit);
      else {
        step.put(unit, host);
        board.put(unit, host);
      }
    }
    found.push(board.at);
    if (left.length === 0 && round > 0) break;
    for (const unit of left) weights[unit]! *= 1.3;
  }
  return found;
}

/** The host that the aim likes best, the tightest of those that it likes alike; -1: it fits nowhere. */
function liked(
  board: Board,
  unit: number,
  of: (unit: number, host: number) => number,
  { ceiling, roomy }: { ceiling: number; roomy: boolean },
): number {
  const { question, free } = board;
  const { dims, need, room } = question;
  let [best, least, tightest] = [-1, Infinity, Infinity];
  for (const host of question.candidates[unit]!) {
    if (!board.fits(unit, host)) continue;
    const says = of(unit, host);
    if (says > least || says > ceiling) continue;
    const from = needAt(question, unit, host);
    let slack = 0;
    for (let d = 0; d < dims; d += 1) {
      const share =
        (free[host * dims + d]! - need[from + d]!) / Math.max(1, room[host * dims + d]!);
      slack += share * share;
    }
    if (roomy && says > 0) slack = -sizeOf(room, host, dims);
    if (says < least || slack < tightest) [best, least, tightest] = [host, says, slack];
  }
  return best;
}

function sizeOf(room: Float64Array, host: number, dims: number): number {
  let size = 1;
  for (let d = 0; d < Math.min(2, dims); d += 1) size *= Math.max(1, room[host * dims + d]!);
  return size;
}
