/**
 * Evening out: one legal move after another, each the one that lowers the spread of what is taken most, so that one may stop
 * early; where none does, two that change
 * places. The fullest host gets no fuller, and nobody moves twice. The spread is the standard deviation of how full hosts are, over all of them and all hours, in points of per cent. Costs, per move, units · hosts they
 * may go to · what is counted of a host, and for a change of places units².
 */
import type { Fullness } from './fullness.js';
import { Moving, type Move } from './moving.js';
import type { PackingQuestion, Placing } from './question.js';

export interface EvenMove extends Move {
  /** Spread and fullest host afterwards, in points of per cent. */
  spread: number;
  fullest: number;
  /** It changes places with the next: only both lower the spread. */
  withNext: boolean;
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
  /** By what a host is full, standing as at the start. */
  fullness: Fullness;
  mostMoves: number;
  /** What a move costs, and what all of them may; left out: whatever they do. */
  costOf?: (unit: number) => number;
  mostCost?: number;
  /** Hears of what was found after each step; false: that is the answer. */
  tell?: (found: EvenedOut) => boolean;
}

/** A move that lowers the spread by less than this, in points, is not worth it. */
const LEAST_GAIN = 0.05;

/** Every pair is looked at: more units than these do not change places. */
const MOST_CHANGING_PLACES = 400;

export function evenOut(problem: Evening): EvenedOut {
  const evening = new EveningOut(problem);
  const before = evening.now();
  const moves: EvenMove[] = [];
  const found = (): EvenedOut => ({
    ...{ before, moves: [...moves], at: evening.board.at.slice() },
    bound: problem.fullness.bound,
  });
  while (moves.length < problem.mostMoves) {
    const next =
      evening.bestMove() ?? (moves.length + 2 <= problem.mostMoves && evening.bestPair());
    if (!next) break;
    moves.push(...next.map((move, i) => evening.make(move, i + 1 < next.length)));
    if (problem.tell?.(found()) === false) break;
  }
  return found();
}

/** Units that a host would have more or less. */
type Changed = NonNullable<Parameters<Fullness['share']>[2]>;

class EveningOut extends Moving {
  private readonly shares: Float64Array;
  private spent = 0;

  constructor(private readonly problem: Evening) {
    super(problem.question, problem.start);
    const { hours } = problem.fullness;
    this.shares = Float64Array.from({ length: problem.question.hosts * hours }, (_, i) =>
      problem.fullness.share(Math.floor(i / hours), i % hours),
    );
  }

  now(): { spread: number; fullest: number } {
    return {
      spread: spreadBy(sumsOf(this.shares), this.shares.length),
      fullest: this.shares.reduce((most, one) => Math.max(most, one), 0),
    };
  }

  make(move: Move, withNext: boolean): EvenMove {
    const { fullness, costOf = () => 0 } = this.problem;
    this.move(move.unit, move.to);
    fullness.move(move.unit, move.from, move.to);
    for (const host of [move.from, move.to])
      for (let hour = 0; hour < fullness.hours; hour += 1)
        this.shares[host * fullness.hours + hour] = fullness.share(host, hour);
    this.spent += costOf(move.unit);
    return { ...move, ...this.now(), withNext };
  }

  bestMove(): Move[] | null {
    const { question } = this.problem;
    const { board } = this;
    let best: Move | null = null;
    const { spread, fullest } = this.now();
    let least = spread - LEAST_GAIN;
    for (let unit = 0; unit < question.units; unit += 1) {
      const from = board.at[unit]!;
      if (from < 0 || !this.mayMove(unit)) continue;
      const left = this.with(sumsOf(this.shares), from, [[unit, -1]]);
      board.take(unit);
      for (const to of question.candidates[unit]!) {
        if (to === from || !board.fits(unit, to)) continue;
        const would = spreadBy(this.with(left, to, [[unit, 1]]), this.shares.length);
        if (would >= least - 1e-12 || this.fullestOf(to, [[unit, 1]]) > fullest + 1e-9) continue;
        best = { unit, from, to };
        least = would;
      }
      board.put(unit, from);
    }
    return best && [best];
  }

  /** Two that change places, where no move alone helps: in the order in which each is legal. */
  bestPair(): Move[] | null {
    const { question } = this.problem;
    const { at } = this.board;
    if (question.units > MOST_CHANGING_PLACES) return null;
    let best: Move[] | null = null;
    const { spread, fullest } = this.now();
    let least = spread - 2 * LEAST_GAIN;
    const sums = sumsOf(this.shares);
    for (let one = 0; one < question.units; one += 1)
      for (let other = one + 1; other < question.units; other += 1) {
        const [here, there] = [at[one]!, at[other]!];
        if (here === there || here < 0 || there < 0 || !this.mayMove(one, other)) continue;
        const goes: Changed = [
          [one, -1],
          [other, 1],
        ];
        const comes: Changed = [
          [one, 1],
          [other, -1],
        ];
        const would = spreadBy(
          this.with(this.with(sums, here, goes), there, comes),
          this.shares.length,
        );
        if (would >= least - 1e-12) continue;
        if (Math.max(this.fullestOf(here, goes), this.fullestOf(there, comes)) > fullest + 1e-9)
          continue;
        const moves = this.changingPlaces(one, other);
        if (!moves) continue;
        best = moves;
        least = would;
      }
    return best;
  }

  private changingPlaces(one: number, other: number): Move[] | null {
    const { candidates } = this.problem.question;
    const [here, there] = [this.board.at[one]!, this.board.at[other]!];
    if (!candidates[one]!.includes(there) || !candidates[other]!.includes(here)) return null;
    const before = this.moves.length;
    const found = [
      [
        { unit: one, from: here, to: there },
        { unit: other, from: there, to: here },
      ],
      [
        { unit: other, from: there, to: here },
        { unit: one, from: here, to: there },
      ],
    ].find(([first, second]) => {
      if (!this.mayGo(first!.unit, first!.to)) return false;
      this.move(first!.unit, first!.to);
      const may = this.mayGo(second!.unit, second!.to);
      this.backTo(before);
      return may;
    });
    return found ?? null;
  }

  /** Whoever has moved stays, and all that travels is within what is allowed. */
  private mayMove(...units: number[]): boolean {
    const { costOf = () => 0, mostCost = Infinity } = this.problem;
    if (units.some((unit) => this.moves.some((move) => move.unit === unit))) return false;
    return units.reduce((sum, unit) => sum + costOf(unit), this.spent) <= mostCost;
  }

  private fullestOf(host: number, units: Changed): number {
    const { fullness } = this.problem;
    let most = 0;
    for (let hour = 0; hour < fullness.hours; hour += 1)
      most = Math.max(most, fullness.share(host, hour, units));
    return most;
  }

  /** The sums with units more or less on a host. */
  private with({ sum, squares }: Sums, host: number, units: Changed): Sums {
    const { fullness } = this.problem;
    for (let hour = 0; hour < fullness.hours; hour += 1) {
      const was = this.shares[host * fullness.hours + hour]!;
      const is = fullness.share(host, hour, units);
      sum += is - was;
      squares += is * is - was * was;
    }
    return { sum, squares };
  }
}

interface Sums {
  sum: number;
  squares: number;
}

const sumsOf = (shares: Float64Array): Sums => ({
  sum: shares.reduce((all, one) => all + one, 0),
  squares: shares.reduce((all, one) => all + one * one, 0),
});

/** The spread out of the sums alone: however many hosts there are. */
function spreadBy({ sum, squares }: Sums, n: number): number {
  const mean = sum / n;
  return Math.sqrt(Math.max(0, squares / n - mean * mean));
}
