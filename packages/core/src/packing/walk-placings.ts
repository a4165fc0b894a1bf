/**
 * The order with the fewest stop-overs, by walking from placing to placing, the ones with fewer stop-overs first; anyone may
 * step aside, who need not move as well. Where all placings within reach were walked and the target is not among them, there is
 * no order, however many stop over. Exponential: for few units, or where little can move; it ends after so much work.
 */
import { Moving, type Move } from './moving.js';
import type { Ordering } from './depth-first.js';

/** A placing, by the move that led to it. */
export interface Reached {
  before: Reached | null;
  by: Move | null;
}

/**
 * @param work moves that are asked about
 * @returns an order; `none`: there is none; null: the work was spent before it was known
 */
export function walkPlacings(
  { question, start, target, closed }: Ordering,
  work: number,
): Move[] | 'none' | null {
  const seen = new Set<string>();
  const board = new Moving(question, start);
  let tried = 0;
  let layer: Reached[] = [{ before: null, by: null }];
  while (layer.length > 0) {
    const later: Reached[] = [];
    while (layer.length > 0) {
      const reached = layer.pop()!;
      const moves = movesTo(reached);
      board.backTo(0);
      for (const { unit, to } of moves) board.move(unit, to);
      const { at } = board.board;
      const key = at.join();
      if (seen.has(key)) continue;
      seen.add(key);
      if (at.every((host, unit) => host === target[unit])) return moves;
      for (const [unit, from] of at.entries()) {
        for (const to of question.candidates[unit]!) {
          const arrives = to === target[unit];
          if (to === from || (!arrives && closed?.has(to))) continue;
          if ((tried += 1) > work) return null;
          if (!board.mayGo(unit, to)) continue;
          (arrives ? layer : later).push({ before: reached, by: { unit, from, to } });
        }
      }
    }
    layer = later;
  }
  return 'none';
}

export function movesTo(reached: Reached): Move[] {
  const moves: Move[] = [];
  for (let one: Reached | null = reached; one?.by; one = one.before) moves.push(one.by);
  return moves.reverse();
}
