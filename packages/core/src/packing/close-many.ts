/**
 * Many hosts left at once: units of those that are closed go into the gaps of the others, the heaviest first, each where it
 * leaves the least; nobody else moves, so that they may go one after another in that order. What is left over is let in by
 * one other moving on. Costs units that leave · hosts.
 */
import { bestHost } from './best-fit.js';
import type { Move } from './moving.js';
import { Moving } from './moving.js';
import { largestShares, type PackingQuestion, type Placing } from './question.js';

export interface Closing {
  question: PackingQuestion;
  start: Placing;
  closed: ReadonlySet<number>;
}

/** @returns null where some find no place */
export function closeMany({
  question,
  start,
  closed,
}: Closing): { at: Placing; moves: Move[] } | null {
  const leaving = [...start.keys()].filter((unit) => closed.has(start[unit]!));
  const weights = largestShares(question);
  leaving.sort((a, b) => weights[b]! - weights[a]! || a - b);
  for (const choice of [
    'shares',
    ...Array.from({ length: Math.min(2, question.dims) }, (_, by) => ({ by })),
  ] as const) {
    const moving = new Moving(question, start);
    const no = (host: number): boolean => closed.has(host);
    const left: number[] = [];
    for (const unit of leaving) {
      const host = placeFor(moving, unit, choice, no);
      if (host < 0) left.push(unit);
      else moving.move(unit, host);
    }
    if (left.length > leaving.length / 20 + 3) continue;
    if (left.every((unit) => letIn(moving, unit, closed, weights)))
      return { at: moving.board.at.slice(), moves: moving.moves.slice() };
  }
  return null;
}

/** A unit leaves its host and is asked where it fits best, as if it had. */
function placeFor(
  { board }: Moving,
  unit: number,
  choice: Parameters<typeof bestHost>[2],
  no: (host: number) => boolean,
): number {
  const from = board.at[unit]!;
  board.take(unit);
  const host = bestHost(board, unit, choice, (one) => one === from || no(one));
  board.put(unit, from);
  return host;
}

/** One that stands in the way goes on to another host, and the unit takes its place: the lightest that will do. */
function letIn(
  moving: Moving,
  unit: number,
  closed: ReadonlySet<number>,
  weights: Float64Array,
): boolean {
  const { board } = moving;
  const { question } = board;
  const direct = placeFor(moving, unit, 'shares', (host) => closed.has(host));
  if (direct >= 0) {
    moving.move(unit, direct);
    return true;
  }
  const hosts = Array.from(question.candidates[unit]!).filter((host) => !closed.has(host));
  const standing = new Map<number, number[]>(hosts.map((host) => [host, []]));
  for (let one = 0; one < question.units; one += 1) standing.get(board.at[one]!)?.push(one);
  for (const host of hosts) {
    const others = standing.get(host)!.sort((a, b) => weights[a]! - weights[b]!);
    for (const other of others) {
      if (weights[other]! >= weights[unit]!) break;
      const length = moving.moves.length;
      const to = placeFor(moving, other, 'shares', (one) => closed.has(one));
      if (to < 0) continue;
      moving.move(other, to);
      if (moving.mayGo(unit, host)) {
        moving.move(unit, host);
        return true;
      }
      moving.backTo(length);
    }
  }
  return false;
}
