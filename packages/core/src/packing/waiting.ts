/**
 * Who waits for whom, while moves are put in order: units that can leave whatever comes first, and circles of units that
 * cannot before one of them stands elsewhere for a while.
 */
import { Board, needAt, type PackingQuestion, type Placing } from './question.js';

/** What of a board is asked. */
export type Standing = Pick<Board, 'question' | 'free' | 'at' | 'counts' | 'limitsOf' | 'hasRoom'>;

/**
 * How all stands at the end, to be asked backwards: an order read from its end is an order too, with as many stop-overs. Not
 * of rules, nor of hosts that are overfull at the beginning: there a move is legal one way only.
 */
export function standingAtEnd(question: PackingQuestion, start: Placing, end: Placing): Standing {
  const board = new Board({ ...question, limits: [] });
  for (const [unit, host] of start.entries()) if (host >= 0) board.put(unit, host);
  const overfull = board.free.map((left) => Number(left < 0));
  for (const unit of start.keys()) if (board.at[unit]! >= 0) board.take(unit);
  for (const [unit, host] of end.entries()) if (host >= 0) board.put(unit, host);
  for (const [i, over] of overfull.entries()) if (over) board.free[i] = Infinity;
  return board;
}

export interface Waiting {
  /** Circles of units that wait for one another: each takes a stop-over of one that is in it. */
  circles: number;
  units: readonly number[];
}

/**
 * Units that wait for one another. Leaves out that what moves takes room where it goes, so it never finds too many. Costs
 * units² · dimensions.
 */
export function waitingIn(
  standing: Standing,
  open: readonly number[],
  target: ArrayLike<number>,
): Waiting {
  const units = cannotLeave(standing, open, target);
  if (units.length === 0) return { circles: 0, units };
  // Hosts that are waited for, joined where one that stands on the one waits for the other. No circle helps another.
  const joined = new Map<number, number>();
  for (const unit of units) joined.set(target[unit]!, target[unit]!);
  const rootOf = (host: number): number => {
    let root = host;
    while (joined.get(root)! !== root) root = joined.get(root)!;
    return root;
  };
  for (const unit of units) {
    const host = standing.at[unit]!;
    if (joined.has(host)) joined.set(rootOf(host), rootOf(target[unit]!));
  }
  let circles = 0;
  for (const [host, root] of joined) if (host === root) circles += 1;
  return { circles, units };
}

/** Units that cannot leave though all the others that can have left. */
function cannotLeave(
  { question, free, at, counts, limitsOf }: Standing,
  open: readonly number[],
  target: ArrayLike<number>,
): number[] {
  const { dims, need, limits } = question;
  const room = free.slice();
  const standing = counts.map((zones) => zones.slice());
  const fits = (unit: number): boolean => {
    const host = target[unit]!;
    const from = needAt(question, unit, host);
    for (let d = 0; d < dims; d += 1) {
      const demand = need[from + d]!;
      if (demand > 0 && room[host * dims + d]! < demand) return false;
    }
    for (const i of limitsOf[unit]!) {
      const { zoneOf, most } = limits[i]!;
      const [zone, own] = [zoneOf[host]!, zoneOf[at[unit]!]!];
      if (most !== null && zone !== own && standing[i]![zone]! >= most) return false;
    }
    return true;
  };
  let left = [...open];
  for (let again = true; again;) {
    again = false;
    const still: number[] = [];
    for (const unit of left) {
      if (!fits(unit)) {
        still.push(unit);
        continue;
      }
      again = true;
      const host = at[unit]!;
      const from = needAt(question, unit, host);
      for (let d = 0; d < dims; d += 1) room[host * dims + d]! += need[from + d]!;
      for (const i of limitsOf[unit]!) standing[i]![limits[i]!.zoneOf[host]!]! -= 1;
    }
    left = still;
  }
  return left;
}

/**
 * Whether a rule forbids every order, however many stop over: it is full in every zone, so that nobody under it can ever change
 * zones, and somebody would have to.
 */
export function heldByARule({ question, counts }: Standing, start: Placing, end: Placing): boolean {
  return question.limits.some(
    ({ members, zoneOf, most }, i) =>
      most !== null &&
      counts[i]!.every((count) => count >= most) &&
      members.some((unit) => zoneOf[start[unit]!] !== zoneOf[end[unit]!]),
  );
}

/**
 * Whether no move at all can be the last: a unit holds its room on both hosts while it moves, and at the end no host has room
 * for one of another. Rules are not asked.
 */
export function nothingLeadsTo(standing: Standing, start: Placing): boolean {
  const { candidates } = standing.question;
  return standing.at.every((there, unit) =>
    [start[unit]!, ...candidates[unit]!].every(
      (host) => host === there || !standing.hasRoom(unit, host),
    ),
  );
}
