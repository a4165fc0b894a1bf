/**
 * Evening out: one legal move after another, each the one that lowers the spread of what is taken most, so that one may stop
 * early. The spread is the standard deviation over hosts of the scarcer of memory and processors, in points of per cent. Costs,
 * per move, units · hosts they may go to.
 */
import { Moving, type Move } from './moving.js';
import { leastNeeds, needAt, type PackingQuestion, type Placing } from './question.js';

export interface EvenMove extends Move {
  /** Spread and fullest host afterwards, in points of per cent. */
  spread: number;
  fullest: number;
}

export interface EvenedOut {
  before: { spread: number; fullest: number };
  moves: EvenMove[];
  at: Placing;
  /** No placing has a fullest host below this: what all hosts together are. */
  bound: number;
}

export interface Evening {
  question: PackingQuestion;
  start: Placing;
  /** What each host has at all: `has[host · dims + dim]`. */
  has: Float64Array;
  /** What of it is kept free on purpose: it counts as free. */
  kept?: Float64Array;
  mostMoves: number;
  /** What a move costs, and what all of them may; left out: whatever they do. */
  costOf?: (unit: number) => number;
  mostCost?: number;
}

/** A move that lowers the spread by less than this, in points, is not worth it. */
const LEAST_GAIN = 0.05;

export function evenOut({
  question,
  start,
  has,
  kept = new Float64Array(has.length),
  mostMoves,
  costOf = () => 0,
  mostCost = Infinity,
}: Evening): EvenedOut {
  const moving = new Moving(question, start);
  const { board } = moving;
  const total = { has, kept };
  const share = (host: number): number => shareOf(question, board.free, total, host);
  const shares = Float64Array.from({ length: question.hosts }, (_, host) => share(host));
  const before = { spread: spreadOf(shares), fullest: fullestOf(shares) };
  const moves: EvenMove[] = [];
  let { spread } = before;
  let spent = 0;
  while (moves.length < mostMoves) {
    let best: { unit: number; to: number; spread: number } | undefined;
    const sums = sumsOf(shares);
    for (let unit = 0; unit < question.units; unit += 1) {
      const from = board.at[unit]!;
      if (from < 0 || spent + costOf(unit) > mostCost) continue;
      board.take(unit);
      const left = share(from);
      for (const to of question.candidates[unit]!) {
        if (to === from || !board.fits(unit, to)) continue;
        const would = spreadWith(sums, shares.length, [
          [shares[from]!, left],
          [shares[to]!, shareOf(question, board.free, total, to, unit)],
        ]);
        if (!best || would < best.spread - 1e-12) best = { unit, to, spread: would };
      }
      board.put(unit, from);
    }
    if (!best || best.spread > spread - LEAST_GAIN) break;
    const { unit, to } = best;
    const from = board.at[unit]!;
    moving.move(unit, to);
    shares[from] = share(from);
    shares[to] = share(to);
    spread = spreadOf(shares);
    spent += costOf(unit);
    moves.push({ unit, from, to, spread, fullest: fullestOf(shares) });
  }
  return { before, moves, at: board.at, bound: fullestBound(question, total) };
}

interface Totals {
  has: Float64Array;
  kept: Float64Array;
}

/** The scarcer of memory and processors: what is taken of what there is, in per cent, with one unit more if one is named. */
function shareOf(
  question: PackingQuestion,
  free: Float64Array,
  { has, kept }: Totals,
  host: number,
  more = -1,
): number {
  const { dims, need } = question;
  let most = 0;
  for (let d = 0; d < Math.min(2, dims); d += 1) {
    const i = host * dims + d;
    const coming = more < 0 ? 0 : need[needAt(question, more, host) + d]!;
    if (has[i]! > 0)
      most = Math.max(most, ((has[i]! - kept[i]! - free[i]! + coming) / has[i]!) * 100);
  }
  return most;
}

const fullestOf = (shares: Float64Array): number =>
  shares.reduce((most, one) => Math.max(most, one), 0);

function spreadOf(shares: Float64Array): number {
  const n = Math.max(1, shares.length);
  const mean = shares.reduce((sum, one) => sum + one, 0) / n;
  return Math.sqrt(shares.reduce((sum, one) => sum + (one - mean) ** 2, 0) / n);
}

interface Sums {
  sum: number;
  squares: number;
}

const sumsOf = (shares: Float64Array): Sums => ({
  sum: shares.reduce((all, one) => all + one, 0),
  squares: shares.reduce((all, one) => all + one * one, 0),
});

/** The spread with some shares replaced, out of the sums alone: however many hosts there are. */
function spreadWith(
  { sum, squares }: Sums,
  n: number,
  replaced: readonly (readonly [was: number, is: number])[],
): number {
  let [all, square] = [sum, squares];
  for (const [was, is] of replaced) {
    all += is - was;
    square += is * is - was * was;
  }
  const mean = all / n;
  return Math.sqrt(Math.max(0, square / n - mean * mean));
}

/** The fullest host is at least as full as all hosts are together, in either dimension. */
function fullestBound(question: PackingQuestion, { has, kept }: Totals): number {
  const { dims, hosts, units, room } = question;
  const least = leastNeeds(question);
  let bound = 0;
  for (let d = 0; d < Math.min(2, dims); d += 1) {
    let [taken, total] = [0, 0];
    for (let host = 0; host < hosts; host += 1) {
      total += has[host * dims + d]!;
      taken += has[host * dims + d]! - kept[host * dims + d]! - room[host * dims + d]!;
    }
    for (let unit = 0; unit < units; unit += 1) taken += least[unit * dims + d]!;
    if (total > 0) bound = Math.max(bound, (taken / total) * 100);
  }
  return bound;
}
