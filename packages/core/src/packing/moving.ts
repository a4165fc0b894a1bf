/** Units that move on a board, one after another; the last ones can be taken back. */
import { Board, type PackingQuestion, type Placing } from './question.js';

export interface Move {
  unit: number;
  from: number;
  to: number;
}

export class Moving {
  readonly board: Board;
  readonly moves: Move[] = [];

  constructor(question: PackingQuestion, start: Placing) {
    this.board = new Board(question);
    for (const [unit, host] of start.entries()) if (host >= 0) this.board.put(unit, host);
  }

  /** Whether it may go there now: while it moves it holds its room on both hosts, rules are asked as if it had moved. */
  mayGo(unit: number, to: number): boolean {
    const from = this.board.at[unit]!;
    if (from === to) return false;
    this.board.take(unit);
    const fits = this.board.fits(unit, to);
    this.board.put(unit, from);
    return fits;
  }

  move(unit: number, to: number): void {
    this.moves.push({ unit, from: this.board.at[unit]!, to });
    this.board.take(unit);
    this.board.put(unit, to);
  }

  /** Takes back what came after the first so many. */
  backTo(length: number): void {
    while (this.moves.length > length) {
      const { unit, from } = this.moves.pop()!;
      this.board.take(unit);
      this.board.put(unit, from);
    }
  }
}
