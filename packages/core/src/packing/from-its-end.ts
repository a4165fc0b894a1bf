/**
 * An order of moves read from its end is an order too: while it moves, a unit holds its room on both hosts either way. Only
 * from an end that is within room and rules, though; where the beginning is not, more is allowed here than is forwards.
 */
import type { Move } from './moving.js';
import type { Ordering } from './depth-first.js';
import { Board, type PackingQuestion, type Placing } from './question.js';

/**
 * The same moves asked for the other way. Every order there is is one here as well, turned round; one that is found here has to
 * be counted anew.
 */
export function fromItsEnd({ question, start, target, closed }: Ordering): Ordering {
  const board = new Board(question);
  for (const [unit, host] of start.entries()) if (host >= 0) board.put(unit, host);
  const unbroken = question.limits.filter(({ most }, i) => {
    const held = board.counts[i]!;
    return most === null
      ? held.filter((count) => count > 0).length <= 1
      : held.every((count) => count <= most);
  });
  return {
    question: {
      ...question,
      room: question.room.map((room, i) => room + Math.max(0, -board.free[i]!)),
      limits: unbroken,
      candidates: withTheirOwn(question, start),
    },
    start: target,
    target: start,
    // Who is to go to a closed host may leave it again and come back.
    closed: closed && !target.some((host) => closed.has(host)) ? closed : undefined,
  };
}

/** Where each may stand: where it may go, and where it stood. */
function withTheirOwn({ candidates }: PackingQuestion, start: Placing): Int32Array[] {
  return candidates.map((hosts, unit) => {
    const own = start[unit]!;
    return own < 0 || hosts.includes(own) ? hosts : Int32Array.from([...hosts, own]).sort();
  });
}

export const turnedRound = (moves: readonly Move[]): Move[] =>
  moves.toReversed().map(({ unit, from, to }) => ({ unit, from: to, to: from }));
