/** A second count of an order of moves, by none of the code that found it. */
import { type Move, Moving } from './moving.js';
import type { PackingQuestion, Placing } from './question.js';

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
