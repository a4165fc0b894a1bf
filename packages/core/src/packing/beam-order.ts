/**
 * Orders of moves by beam search (Lowerre, The Harpy speech recognition system, 1976): move after move, the most promising
 * placings are kept, so many of them, and each is led on by all that may move. Anyone may step aside, who need not move as
 * well. It finds what a search from the front is too late for, and proves nothing. Costs width · moves · units · hosts. The same
 * question has the same order.
 */
import { alike } from './alike.js';
import { chance } from './chance.js';
import { Moving, type Move } from './moving.js';
import type { Ordering } from './depth-first.js';
import { largestShares, type Board, type Placing } from './question.js';
import { movesTo, type Reached } from './walk-placings.js';

/** Places that are looked at for one unit. */
const LOOKS = 30;
/** A beam goes on for so many moves more than there are units that move, and for a third of these. */
const MORE = 12;

export interface Beam {
  /** Placings that are kept after each move. */
  width: number;
  /** Moves that may be asked about. */
  work: number;
}

export interface Beamed {
  /** Null: none was found within the work. */
  moves: Move[] | null;
  /** Moves asked about. */
  tried: number;
}

interface Kept extends Reached {
  board: Placing;
  /** How far it is to the target. */
  distance: number;
  mark: number;
}

interface Step extends Move {
  before: Kept;
  distance: number;
  mark: number;
  rank: number;
}

export function orderByBeam(ordering: Ordering, by: Beam): Beamed {
  const { start, target, question } = ordering;
  const moving = start.reduce((n, host, unit) => n + Number(host !== target[unit]), 0);
  const looks = Math.min(LOOKS, question.hosts);
  if (moving * moving * looks > by.work) return { moves: null, tried: 0 };
  // Of very many, only those move that have to.
  const helpers = moving * question.units * looks <= by.work;
  const beam = new Steps(ordering, by, helpers);
  let layer = [beam.first()];
  for (let left = Math.ceil((moving * 4) / 3) + MORE; left > 0 && layer.length > 0; left -= 1) {
    layer = beam.after(layer);
    if (beam.tried >= by.work) break;
    const arrived = layer.find(({ board }) => isAt(board, target));
    if (arrived) return { moves: movesTo(arrived), tried: beam.tried };
  }
  return { moves: null, tried: beam.tried };
}

class Steps {
  tried = 0;
  private readonly moving: Moving;
  /** What a unit that is not where it is to be adds to the distance: of large ones there are fewer places to pass. */
  private readonly weight: readonly number[];
  private readonly kindOf: readonly number[];
  private readonly marks: number[];
  /** Placings that were kept, and those that one move more leads to. */
  private readonly kept = new Set<number>();
  private readonly ahead = new Set<number>();
  private readonly random: () => number;
  private steps: Step[] = [];
  /** Whoever would rank above is not among the best. */
  private bar = Infinity;

  constructor(
    private readonly ordering: Ordering,
    private readonly by: Beam,
    /** Whether those step aside as well that need not move, or have moved. */
    private readonly helpers: boolean,
  ) {
    const { question, start, target } = ordering;
    this.moving = new Moving(question, start);
    this.weight = Array.from(
      largestShares(question),
      (share) => 0.3 + 20 * (share * question.hosts) ** 2,
    );
    this.kindOf = alike(this.moving.board, target);
    this.random = chance(question.units);
    this.marks = Array.from({ length: question.units * question.hosts }, () =>
      Math.floor(this.random() * 2 ** 40),
    );
  }

  first(): Kept {
    const { start, target } = this.ordering;
    let [distance, mark] = [0, 0];
    for (const [unit, host] of start.entries()) {
      if (host !== target[unit]) distance += this.weight[unit]!;
      mark += this.markOf(unit, host);
    }
    this.kept.add(mark);
    return { board: start, distance, mark, before: null, by: null };
  }

  /** Units that are alike leave the same mark. */
  private markOf(unit: number, host: number): number {
    return host < 0 ? 0 : this.marks[this.kindOf[unit]! * this.ordering.question.hosts + host]!;
  }

  /** The best placings that one move more leads to. */
  after(layer: readonly Kept[]): Kept[] {
    const { width } = this.by;
    for (const reached of layer) {
      this.leadOn(reached);
      if (this.steps.length > 4 * width) this.drop();
    }
    this.drop();
    const next = this.steps.map(reach);
    for (const { mark } of next) this.kept.add(mark);
    this.ahead.clear();
    [this.steps, this.bar] = [[], Infinity];
    return next;
  }

  /** All but the steps with the lowest ranks. */
  private drop(): void {
    const { steps } = this;
    const { width } = this.by;
    if (steps.length <= width) return;
    this.bar = Float64Array.from(steps, ({ rank }) => rank).sort()[width - 1]!;
    this.steps = steps.filter(({ rank }) => rank <= this.bar);
  }

  private leadOn(before: Kept): void {
    const { target } = this.ordering;
    const { board } = this.moving;
    standAs(board, before.board);
    const waitedFor = new Set<number>();
    for (let unit = 0; unit < target.length; unit += 1)
      if (board.at[unit] !== target[unit]) waitedFor.add(target[unit]!);
    for (let unit = 0; unit < target.length; unit += 1) {
      const from = before.board[unit]!;
      // Who is at its target and in nobody's way stays.
      const waits = from !== target[unit];
      if (from < 0 || !(waits || (this.helpers && waitedFor.has(from)))) continue;
      const weight = this.weight[unit]!;
      // Rules count it where it stands; the room of other hosts is the same with it there.
      const ruled = board.limitsOf[unit]!.length > 0;
      if (ruled) board.take(unit);
      for (const to of this.placesOf(unit, from)) {
        this.tried += 1;
        const [arrives, leaves] = [to === target[unit], from === target[unit]];
        const distance = before.distance + (leaves ? weight : 0) - (arrives ? weight : 0);
        const rank = distance + this.random() / 20;
        if (rank > this.bar || !board.fits(unit, to)) continue;
        const mark = before.mark - this.markOf(unit, from) + this.markOf(unit, to);
        if (this.kept.has(mark) || this.ahead.has(mark)) continue;
        this.ahead.add(mark);
        this.steps.push({ unit, from, to, before, distance, mark, rank });
      }
      if (ruled) board.put(unit, from);
    }
  }

  private placesOf(unit: number, from: number): number[] {
    const { question, target, closed } = this.ordering;
    const places = question.candidates[unit]!;
    const offset = places.length > LOOKS ? Math.floor(this.random() * places.length) : 0;
    const found = from === target[unit] ? [] : [target[unit]!];
    for (let n = 0; n < Math.min(LOOKS, places.length); n += 1) {
      const host = places[(offset + n) % places.length]!;
      if (host !== from && host !== target[unit] && !closed?.has(host)) found.push(host);
    }
    return found;
  }
}

function reach({ before, distance, mark, unit, from, to }: Step): Kept {
  const board = before.board.slice();
  board[unit] = to;
  return { board, distance, mark, before, by: { unit, from, to } };
}

function standAs(board: Board, at: Placing): void {
  const others: number[] = [];
  for (let unit = 0; unit < at.length; unit += 1) {
    if (at[unit] === board.at[unit]) continue;
    others.push(unit);
    board.take(unit);
  }
  for (const unit of others) board.put(unit, at[unit]!);
}

const isAt = (at: Placing, target: Placing): boolean =>
  at.every((host, unit) => host === target[unit]);
