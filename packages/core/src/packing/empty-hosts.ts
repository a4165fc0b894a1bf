/**
 * Emptying hosts by moves that are each legal when they are made: a guest goes where it fits, or others make room for it
 * first, themselves moving where they fit, up to three deep. Costs, per guest, hosts in the first depth and hosts · guests on
 * them at each further one; counted in steps.
 */
import { bestHost } from './best-fit.js';
import { Moving, type Move } from './moving.js';
import { narrowedTo, type PackingQuestion, type Placing } from './question.js';

export interface Emptied {
  moves: Move[];
  at: Placing;
  /** Units that no chain found a place for. */
  stuck: number[];
}

export interface Emptying {
  question: PackingQuestion;
  /** Where the units are. */
  start: Placing;
  /** Hosts that nothing may go to, and that are to be left. */
  closed: ReadonlySet<number>;
  /** What moving a unit costs, as in bytes. */
  costOf: (unit: number) => number;
  budget?: number;
}

/** How many moves may make room for one, one after another. */
const DEEPEST = 3;
/** Units on one host that are tried as the ones to make room. */
const MOST_TRIED = 12;
const CHAIN_BUDGET = 400_000;

export function emptyHosts({ question, start, closed, costOf, budget }: Emptying): Emptied {
  const hosts = Array.from({ length: question.hosts }, (_, host) => host);
  const open = narrowedTo(question, new Set(hosts.filter((host) => !closed.has(host))));
  const chains = new Chains(open, start, costOf, budget ?? CHAIN_BUDGET);
  const leaving = Array.from(start.keys())
    .filter((unit) => closed.has(start[unit]!))
    .sort(
      (a, b) =>
        chains.board.limitsOf[b]!.length - chains.board.limitsOf[a]!.length ||
        costOf(b) - costOf(a) ||
        a - b,
    );
  let stuck = leaving;
  // Who was stuck may go once others have gone.
  for (;;) {
    const still = stuck.filter((unit) => !chains.settle(unit));
    if (still.length === 0 || still.length === stuck.length) {
      stuck = still;
      break;
    }
    stuck = still;
  }
  return { moves: chains.moves, at: chains.board.at, stuck };
}

class Chains extends Moving {
  private steps = 0;

  constructor(
    private readonly question: PackingQuestion,
    start: Placing,
    private readonly costOf: (unit: number) => number,
    private readonly budget: number,
  ) {
    super(question, start);
  }

  /** Moves a unit off its host, as shallow as it goes. */
  settle(unit: number): boolean {
    for (let depth = 0; depth <= DEEPEST; depth += 1)
      if (this.go(unit, depth, new Set([unit]), -1)) return true;
    return false;
  }

  private go(unit: number, depth: number, passed: Set<number>, avoid: number): boolean {
    const { board } = this;
    const from = board.at[unit]!;
    this.steps += this.question.candidates[unit]!.length;
    board.take(unit);
    const no = (host: number) => host === from || host === avoid;
    const host = bestHost(board, unit, { by: 0 }, no);
    board.put(unit, from);
    if (host >= 0) {
      this.move(unit, host);
      return true;
    }
    return depth > 0 && this.withRoomMade(unit, depth, passed, avoid);
  }

  private withRoomMade(unit: number, depth: number, passed: Set<number>, avoid: number): boolean {
    const from = this.board.at[unit]!;
    for (const host of this.question.candidates[unit]!) {
      if (host === from || host === avoid) continue;
      const there = this.unitsOn(host).filter((one) => !passed.has(one));
      for (const gone of setsOf(there.slice(0, MOST_TRIED), depth)) {
        if ((this.steps += 1) > this.budget) return false;
        if (!this.wouldFit(unit, host, gone)) continue;
        const before = this.moves.length;
        const inWay = new Set([...passed, ...gone]);
        if (gone.every((one) => this.go(one, depth - 1, inWay, host)) && this.mayGo(unit, host)) {
          this.move(unit, host);
          return true;
        }
        this.backTo(before);
      }
    }
    return false;
  }

  private unitsOn(host: number): number[] {
    const found: number[] = [];
    for (let unit = 0; unit < this.question.units; unit += 1)
      if (this.board.at[unit] === host) found.push(unit);
    return found.sort((a, b) => this.costOf(a) - this.costOf(b) || a - b);
  }

  private wouldFit(unit: number, host: number, gone: readonly number[]): boolean {
    for (const one of gone) this.board.take(one);
    const fits = this.mayGo(unit, host);
    for (const one of gone) this.board.put(one, host);
    return fits;
  }
}

/** One of them; then, at a depth of more than one, two of them. */
function* setsOf(units: readonly number[], depth: number): Generator<number[]> {
  for (const unit of units) yield [unit];
  if (depth < 2) return;
  for (const [i, one] of units.entries())
    for (const other of units.slice(i + 1)) yield [one, other];
}
