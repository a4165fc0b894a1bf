/**
 * An order of moves in which each is legal when it is made: while it moves, a guest holds room on both hosts; rules are asked
 * after each move. Where the moves stand in a circle, one of them stops over elsewhere. Depth first, states that failed are
 * kept; "none" is said only where nothing was cut. Its cost grows exponentially with moves that stand in each other's way.
 */
import { Moving, type Move } from './moving.js';
import type { PackingQuestion, Placing } from './question.js';

export interface Ordered {
  /** Null: none was found. */
  moves: Move[] | null;
  /** That there is none with so many stop-overs is proved. */
  proven: boolean;
  stopOvers: number;
}

export interface Ordering {
  question: PackingQuestion;
  start: Placing;
  target: Placing;
  /** Hosts on which nothing may stop over. */
  closed?: ReadonlySet<number>;
  /** The most stop-overs that are tried. */
  most?: number;
  budget?: number;
}

const ORDER_BUDGET = 300_000;
const MOST_STOP_OVERS = 2;

export function orderMoves(ordering: Ordering): Ordered {
  const { most = MOST_STOP_OVERS, budget = ORDER_BUDGET } = ordering;
  let left = budget;
  let proven = true;
  for (let stopOvers = 0; stopOvers <= most; stopOvers += 1) {
    const order = new Order(ordering, stopOvers, left);
    if (order.find()) return { moves: order.moves, proven: true, stopOvers: order.stopped };
    left -= order.steps;
    if (order.cut) proven = false;
    if (left <= 0) break;
  }
  return { moves: null, proven, stopOvers: most };
}

class Order extends Moving {
  steps = 0;
  stopped = 0;
  cut = false;
  private readonly failed = new Set<string>();
  private readonly moving: number[];

  constructor(
    private readonly ordering: Ordering,
    private readonly most: number,
    private readonly budget: number,
  ) {
    const { question, start, target } = ordering;
    super(question, start);
    this.moving = [...start.keys()].filter((unit) => start[unit] !== target[unit]);
  }

  find(): boolean {
    const { target } = this.ordering;
    const before = this.moves.length;
    this.moveTheHarmless();
    const open = this.moving.filter((unit) => this.board.at[unit] !== target[unit]);
    if (open.length === 0) return true;
    const state = `${this.stopped}|${this.moving.map((unit) => this.board.at[unit]).join()}`;
    if (!this.failed.has(state)) {
      if (this.tryEach(open)) return true;
      if (!this.cut) this.failed.add(state);
    }
    this.backTo(before);
    return false;
  }

  private tryEach(open: readonly number[]): boolean {
    const { target } = this.ordering;
    for (const unit of open) {
      if (!this.mayGo(unit, target[unit]!)) continue;
      if (this.spent()) return false;
      this.move(unit, target[unit]!);
      if (this.find()) return true;
      this.backTo(this.moves.length - 1);
    }
    if (this.stopped >= this.most) return false;
    for (const unit of open) {
      for (const host of this.ordering.question.candidates[unit]!) {
        if (host === target[unit] || this.ordering.closed?.has(host) || !this.mayGo(unit, host))
          continue;
        if (this.spent()) return false;
        this.move(unit, host);
        this.stopped += 1;
        if (this.find()) return true;
        this.stopped -= 1;
        this.backTo(this.moves.length - 1);
      }
    }
    return false;
  }

  private spent(): boolean {
    if ((this.steps += 1) < this.budget) return false;
    this.cut = true;
    return true;
  }

  /** Moves to hosts that hold all who are there and all who will come: they are in nobody's way, whatever comes first. */
  private moveTheHarmless(): void {
    const { target, question } = this.ordering;
    if (this.most > 0 && this.stopped < this.most) return;
    for (let again = true; again;) {
      again = false;
      for (const unit of this.moving) {
        const to = target[unit]!;
        if (this.board.at[unit] === to || this.board.limitsOf[unit]!.length > 0) continue;
        if (!this.holdsAll(to) || !question.candidates[unit]!.includes(to)) continue;
        this.move(unit, to);
        again = true;
      }
    }
  }

  private holdsAll(host: number): boolean {
    const { target, question } = this.ordering;
    const { dims, need, classes, classOf } = question;
    for (let d = 0; d < dims; d += 1) {
      let coming = 0;
      for (const unit of this.moving)
        if (target[unit] === host && this.board.at[unit] !== host)
          coming += need[(unit * classes + classOf[host]!) * dims + d]!;
      if (coming > 0 && coming > this.board.free[host * dims + d]!) return false;
    }
    return true;
  }
}

/** What is wrong with moves made one after another, counted anew: a host overfull after one of them, a rule newly broken. */
export function faultsOfMoves(
  question: PackingQuestion,
  start: Placing,
  moves: readonly Move[],
): string[] {
  const faults: string[] = [];
  const at = start.slice();
  for (const [i, { unit, from, to }] of moves.entries()) {
    if (at[unit] !== from) faults.push(`move ${i}: unit ${unit} is not on host ${from}`);
    // Stood up anew for each move: nothing is carried over from the one before.
    if (!question.candidates[unit]!.includes(to) || !new Moving(question, at).mayGo(unit, to))
      faults.push(`move ${i}: unit ${unit} does not fit on host ${to}`);
    at[unit] = to;
  }
  return faults;
}
