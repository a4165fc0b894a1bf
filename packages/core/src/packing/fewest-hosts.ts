/**
 * The fewest hosts that hold all units, with moves that lead there: first hosts are emptied one after another, the least
 * loaded first, as long as chains of moves are found; then placings are made anew, by ejection, by columns and on fewer hosts
 * from the bound upwards, each of them asked for an order of moves. Costs hosts · (chains or a placing).
 */
import { fitInRounds } from './best-fit.js';
import { fewestHostsBound, type HostsBound } from './bounds.js';
import { closeMany } from './close-many.js';
import { columnsOf, type Columns } from './columns.js';
import { fewerByEjection } from './ejection.js';
import { likeBefore } from './like-before.js';
import type { Move } from './moving.js';
import type { SolveLinear } from './linear-model.js';
import { orderMoves } from './order-moves.js';
import { narrowedTo, needAt, usedBy, type PackingQuestion, type Placing } from './question.js';
import { settle, type Exactly } from './settle.js';
import { faultsOf } from './verify.js';
import { emptiedOneByOne } from './emptied-one-by-one.js';

export interface FewestHosts {
  at: Placing;
  moves: Move[];
  used: number;
  bound: HostsBound;
  /** Nothing uses fewer. */
  proven: boolean;
}

export interface Consolidating {
  question: PackingQuestion;
  /** Room that is never too little, for the bound; left out: that of the question. */
  mostRoom?: Float64Array;
  start: Placing;
  costOf: (unit: number) => number;
  /** Whether a placing may stand, as where one more host must be able to fail. */
  accept?: (at: Placing) => boolean;
  exactly?: Exactly;
  /** With it more is proved, and placings are found that chains do not lead to. */
  solve?: SolveLinear;
  /** Hears of each better answer; false: stop, what was found is the answer. */
  tell?: (found: FewestHosts) => boolean;
}

/** Chains host by host cost too much for more units than these. */
const MANY = 400;
/** Steps and rounds of a first try, by which most are settled. */
const FEW_STEPS = 2_000;
const FEW_ROUNDS = 60;
const STEPS_PER_UNIT = 100;
/** Steps of each placing that is made anew. */
const BUDGET = 30_000;

export function fewestHosts(problem: Consolidating): FewestHosts {
  const search = new Fewest(problem);
  const { question } = problem;
  const ways = question.units > MANY ? [() => search.closeAtOnce()] : search.ways();
  if (!search.tellIsOver()) {
    for (const way of ways) {
      way();
      if (search.tellIsOver()) break;
    }
  }
  return search.best;
}

class Fewest {
  best: FewestHosts;
  private bound: HostsBound;
  private goOn = true;
  private readonly most: PackingQuestion;
  private columns: Columns | undefined;

  constructor(private readonly problem: Consolidating) {
    const { question, mostRoom } = problem;
    this.most = { ...question, room: mostRoom ?? question.room };
    this.bound = fewestHostsBound(this.most);
    this.best = this.answer(problem.start.slice(), []);
  }

  /** What is quick comes first: a few steps, a bound of a few rounds, more steps; then what takes as long as it takes. */
  ways(): (() => void)[] {
    const { question } = this.problem;
    return [
      () => this.emptyOneByOne(),
      () => this.leaveHosts(this.best.at, FEW_STEPS),
      () => this.prove(FEW_ROUNDS),
      () => this.leaveHosts(byBestFit(question), STEPS_PER_UNIT * question.units),
      () => this.prove(),
      () => this.lead(this.columns?.placing(this.bound.hosts, this.best.used)),
      () => this.placeAnew(),
    ];
  }

  /** Tells of the best there is; whether nothing more is to be done: it is proved, or it was stopped. */
  tellIsOver(): boolean {
    const { tell = () => true } = this.problem;
    this.goOn &&= tell(this.best);
    return !this.goOn || this.best.proven;
  }

  closeAtOnce(): void {
    for (const { at, moves } of closedAtOnce(this.problem, this.bound.hosts)) {
      this.best = this.answer(at, moves);
      if (this.tellIsOver()) return;
    }
  }

  private emptyOneByOne(): void {
    for (const { at, moves } of emptiedOneByOne(this.problem)) {
      this.best = this.answer(at, moves);
      if (this.tellIsOver()) return;
    }
  }

  private leaveHosts(from: Placing | null, steps: number): void {
    if (!from) return;
    const goOn = () => this.goOn;
    for (const at of fewerByEjection(this.problem.question, from, this.bound.hosts, steps, goOn))
      this.lead(at);
  }

  private prove(rounds?: number): void {
    const { solve } = this.problem;
    if (!solve) return;
    this.columns ??= columnsOf(this.most, this.best.at, solve, () => !this.tellIsOver());
    const hosts = this.columns.bound(this.best.used, rounds);
    if (hosts > this.bound.hosts) this.bound = { hosts, by: 'patterns', dims: [] };
    this.best = this.answer(this.best.at, this.best.moves);
  }

  /** On so many hosts as the bound says, and more, until one is found. */
  private placeAnew(): void {
    for (let count = Math.max(1, this.bound.hosts); count < this.best.used; count += 1)
      if (this.lead(placedOn(this.problem, count)) || this.tellIsOver()) return;
  }

  /** Takes a placing for the best, where it is better and moves lead there. */
  private lead(at: Placing | null | undefined): boolean {
    const anew = at && usedBy(at).size < this.best.used && movedTo(this.problem, at);
    if (!anew) return false;
    this.best = this.answer(anew.at, anew.moves);
    this.tellIsOver();
    return true;
  }

  private answer(at: Placing, moves: Move[]): FewestHosts {
    const used = usedBy(at).size;
    return { at, moves, used, bound: this.bound, proven: used <= this.bound.hosts };
  }
}

/** So many hosts closed at once that the number of those that are left is halved in on, from the bound upwards. */
function* closedAtOnce(
  { question, start, costOf, accept = () => true }: Consolidating,
  least: number,
): Generator<{ at: Placing; moves: Move[] }> {
  const used = usedBy(start);
  const order = bySize(question, start, costOf).filter((host) => used.has(host));
  const idle = Array.from({ length: question.hosts }, (_, host) => host).filter(
    (host) => !used.has(host),
  );
  let [low, high] = [Math.max(1, least), order.length - 1];
  while (low <= high) {
    const middle = low + Math.floor((high - low) / 4);
    const closed = new Set([...order.slice(middle), ...idle]);
    const found = closeMany({ question, start, closed });
    if (found && accept(found.at)) {
      yield found;
      high = usedBy(found.at).size - 1;
    } else low = middle + 1;
  }
}

/** Another placing to leave hosts from. */
function byBestFit(question: PackingQuestion): Placing | null {
  const { left, at } = fitInRounds(question, 1);
  return left.length === 0 ? at : null;
}

/** A placing on so many hosts: those with the most room, and the most on them. */
function placedOn(
  { question, start, exactly, costOf }: Consolidating,
  count: number,
): Placing | null {
  const open = new Set(bySize(question, start, costOf).slice(0, count));
  const { answer, at } = settle(narrowedTo(question, open), BUDGET, exactly);
  return answer === 'fits' ? at : null;
}

/** An order of moves to a placing, or to one like it in which more stays where it is. */
function movedTo(
  { question, start, accept = () => true, costOf }: Consolidating,
  at: Placing,
): { at: Placing; moves: Move[] } | null {
  if (faultsOf(question, at).length > 0) return null;
  const target = likeBefore(question, start, at, costOf);
  if (!accept(target)) return null;
  const { moves } = orderMoves({ question, start, target, budget: BUDGET });
  return moves && { at: target, moves };
}

/** Hosts, those with the most room and of these the ones with the most on them first. */
function bySize(
  { hosts, dims, room }: PackingQuestion,
  start: Placing,
  costOf: (unit: number) => number,
): number[] {
  const largest = Array.from({ length: dims }, (_, d) =>
    Math.max(1, ...Array.from({ length: hosts }, (_, host) => room[host * dims + d]!)),
  );
  const sizes = Array.from({ length: hosts }, (_, host) =>
    largest.reduce((sum, most, d) => sum + Math.max(0, room[host * dims + d]!) / most, 0),
  );
  const costs = new Float64Array(hosts);
  for (const [unit, host] of start.entries()) if (host >= 0) costs[host]! += costOf(unit);
  return Array.from({ length: hosts }, (_, host) => host).sort(
    (a, b) => sizes[b]! - sizes[a]! || costs[b]! - costs[a]! || a - b,
  );
}

/** What a placing takes of each host in a dimension. */
export function takenOf(question: PackingQuestion, at: Placing, dim: number): Float64Array {
  const taken = new Float64Array(question.hosts);
  for (let unit = 0; unit < question.units; unit += 1)
    if (at[unit]! >= 0)
      taken[at[unit]!]! += question.need[needAt(question, unit, at[unit]!) + dim]!;
  return taken;
}
