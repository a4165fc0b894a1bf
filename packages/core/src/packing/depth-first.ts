/**
 * An order of moves, depth first: the harmless ones at once, the others one by one, and back where they wait in a circle. States
 * that failed are kept.
 */
import { alike } from './alike.js';
import { type Move, Moving } from './moving.js';
import { needAt, type PackingQuestion, type Placing } from './question.js';
import { type Standing, standingAtEnd, waitingIn } from './waiting.js';

export interface Ordering {
  question: PackingQuestion;
  start: Placing;
  target: Placing;
  /** Hosts on which nothing may stop over. */
  closed?: ReadonlySet<number>;
  /** The most stop-overs that are tried. */
  most?: number;
  /** Moves tried. */
  budget?: number;
}

export class Order extends Moving {
  steps = 0;
  stopped = 0;
  cut = false;
  private readonly failed = new Set<string>();
  private readonly moving: number[];
  /** Units that are the same in all that is asked have one number. */
  private readonly kindOf: number[];
  private readonly end: Standing;

  constructor(
    private readonly ordering: Ordering,
    private readonly most: number,
    private readonly budget: number,
  ) {
    const { question, start, target } = ordering;
    super(question, start);
    this.moving = [...start.keys()].filter((unit) => start[unit] !== target[unit]);
    this.kindOf = alike(this.board, target);
    this.end = standingAtEnd(question, start, target);
  }

  /** `since` is the stop-over that was made just before, if one was. */
  find(since: Move | null = null): boolean {
    const { target } = this.ordering;
    const before = this.moves.length;
    if (this.moveTheHarmless()) since = null;
    const open = this.moving.filter((unit) => this.board.at[unit] !== target[unit]);
    if (open.length === 0) return true;
    const state = this.stateOf(open);
    const key = since ? `${state}>${since.from}` : state;
    if (!this.failed.has(state) && !this.failed.has(key)) {
      const stopping = this.mayStopOver(open);
      if (stopping && this.tryEach(open, since, stopping)) return true;
      if (!this.cut) this.failed.add(key);
    }
    this.backTo(before);
    return false;
  }

  private stateOf(open: readonly number[]): string {
    const { hosts } = this.ordering.question;
    const places = open.map((unit) => this.kindOf[unit]! * hosts + this.board.at[unit]!);
    return `${this.stopped}|${places.sort((a, b) => a - b).join()}`;
  }

  /** Units that may stop over now; null: more stop-overs are needed than are left. Backwards the same holds. */
  private mayStopOver(open: readonly number[]): readonly number[] | null {
    const left = this.most - this.stopped;
    const ahead = waitingIn(this.board, open, this.ordering.target);
    if (ahead.circles > left) return null;
    const back = waitingIn(this.end, open, this.board.at);
    if (back.circles > left) return null;
    if (left === 0) return [];
    return open.filter(
      (unit) =>
        (ahead.circles < left || ahead.units.includes(unit)) &&
        (back.circles < left || back.units.includes(unit)),
    );
  }

  private tryEach(
    open: readonly number[],
    since: Move | null,
    stopping: readonly number[],
  ): boolean {
    const { target, question, closed } = this.ordering;
    for (const unit of this.unlike(open)) {
      const to = target[unit]!;
      if ((since && !this.needs(since, unit, to)) || !this.mayGo(unit, to)) continue;
      if (this.spent()) return false;
      this.move(unit, to);
      if (this.find()) return true;
      this.backTo(this.moves.length - 1);
    }
    for (const unit of this.unlike(stopping)) {
      for (const host of question.candidates[unit]!) {
        if (host === target[unit] || closed?.has(host)) continue;
        if (since && since.from !== this.board.at[unit] && !this.needs(since, unit, host)) continue;
        if (!this.mayGo(unit, host)) continue;
        if (this.spent()) return false;
        this.move(unit, host);
        this.stopped += 1;
        if (this.find(this.moves.at(-1))) return true;
        this.stopped -= 1;
        this.backTo(this.moves.length - 1);
      }
    }
    return false;
  }

  /** Of units that are the same on the same host, the first. */
  private unlike(units: readonly number[]): number[] {
    const tried = new Set<number>();
    return units.filter((unit) => {
      const place = this.kindOf[unit]! * this.ordering.question.hosts + this.board.at[unit]!;
      return tried.has(place) ? false : tried.add(place);
    });
  }

  /**
   * Whether a move can rest on the stop-over before it: it goes where that left room, or they share a rule. Any other is as
   * legal before it, so it is tried only there. With more than two stop-overs not every order can be put so: all are tried.
   */
  private needs(since: Move, unit: number, to: number): boolean {
    const { limitsOf } = this.board;
    return (
      this.most > 2 ||
      since.from === to ||
      limitsOf[unit]!.some((limit) => limitsOf[since.unit]!.includes(limit))
    );
  }

  private spent(): boolean {
    if ((this.steps += 1) < this.budget) return false;
    this.cut = true;
    return true;
  }

  /**
   * Moves to hosts that hold all who are there, all who will come and whoever may yet stop over: they are in nobody's way,
   * whatever comes first.
   */
  private moveTheHarmless(): boolean {
    const { target, question } = this.ordering;
    const { at, limitsOf } = this.board;
    const before = this.moves.length;
    for (let again = true; again;) {
      again = false;
      const open = this.moving.filter((unit) => at[unit] !== target[unit]);
      for (let host = 0; host < question.hosts; host += 1) {
        const coming = open.filter((unit) => target[unit] === host && limitsOf[unit]!.length === 0);
        if (coming.length === 0 || !this.holdsAll(host, open)) continue;
        for (const unit of coming) {
          if (!question.candidates[unit]!.includes(host)) continue;
          this.move(unit, host);
          again = true;
        }
      }
    }
    return this.moves.length > before;
  }

  private holdsAll(host: number, open: readonly number[]): boolean {
    const { target, question } = this.ordering;
    const { at, free } = this.board;
    for (let d = 0; d < question.dims; d += 1) {
      const left = free[host * question.dims + d]!;
      const demandOf = (unit: number) => question.need[needAt(question, unit, host) + d]!;
      let coming = 0;
      for (const unit of open)
        if (target[unit] === host && at[unit] !== host) coming += demandOf(unit);
      if (coming > 0 && coming > left) return false;
      const passing = this.most - this.stopped;
      if (passing === 0) continue;
      const others = open
        .filter((unit) => target[unit] !== host && at[unit] !== host)
        .map(demandOf);
      others.sort((a, b) => b - a);
      for (const one of others.slice(0, passing)) coming += one;
      if (coming > 0 && coming > left) return false;
    }
    return true;
  }
}
