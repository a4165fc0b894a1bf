/**
 * Whether all units find a place: in stages, the cheapest first. A placing that holds, or the proof that there is none, or
 * "not settled" after a number of steps; never an average: a fit of the sums is no fit of the guests (Caprara and Toth,
 * Discrete Applied Mathematics 111(3), 2001).
 */
import { fitAmongFew, fitInRounds } from './best-fit.js';
import { proofAgainst } from './proofs.js';
import type { PackingQuestion, Placing } from './question.js';
import { searchAll } from './search.js';

export interface Settled {
  answer: 'fits' | 'does not fit' | 'not settled';
  /** As many as found a place. */
  at: Placing;
  left: number[];
}

/** Steps of the search before it gives up: up to some seconds in a hard question, next to nothing in an ordinary one. */
const SETTLE_BUDGET = 150_000;
const ROUNDS = 200;
/** Rounds of best fit for more units than these cost too much to be tried 200 times, and a search sees too little. */
const MANY = 400;

/** What a solver of another kind says of the whole question; null: it does not know either. */
export type Exactly = (question: PackingQuestion) => Placing | 'none' | null;

/** @param exactly asked last, where the search gave up */
export function settle(
  question: PackingQuestion,
  budget = SETTLE_BUDGET,
  exactly?: Exactly,
): Settled {
  const few = fitAmongFew(question);
  if (few) return { answer: 'fits', at: few, left: [] };
  const many = question.units > MANY;
  const first = fitInRounds(question, 3);
  if (first.left.length === 0) return { answer: 'fits', ...first };
  if (proofAgainst(question)) return { answer: 'does not fit', ...first };
  const best = fitInRounds(question, many ? 12 : ROUNDS);
  const fitted = best.left.length < first.left.length ? best : first;
  if (fitted.left.length === 0) return { answer: 'fits', ...fitted };
  if (!many) {
    const { fits, at } = searchAll(question, budget);
    if (fits) return { answer: 'fits', at, left: [] };
    if (fits === false) return { answer: 'does not fit', ...fitted };
  }
  const said = exactly?.(question) ?? null;
  if (said === 'none') return { answer: 'does not fit', ...fitted };
  if (said) return { answer: 'fits', at: said, left: [] };
  return { answer: 'not settled', ...fitted };
}
