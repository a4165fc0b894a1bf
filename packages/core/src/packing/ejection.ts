/**
 * One host fewer by ejection: what stood on it waits in a pool; who fits nowhere takes the place of those that have been in the
 * way least often, and these wait in turn (guided ejection search: Nagata and Bräysy, Operations Research Letters 37(5),
 * 2009, made for fleets of vehicles). Between two ejections some units change places by chance, so that gaps meet. It proves
 * nothing. Costs, for each step, units² a host · hosts. The same question has the same steps.
 */
import { bestHost } from './best-fit.js';
import { chance } from './chance.js';
import {
  Board,
  leastNeeds,
  narrowedTo,
  needAt,
  type PackingQuestion,
  type Placing,
} from './question.js';

/** Changes of places tried after each ejection, for each unit. */
const STIRS = 0.2;

/**
 * Placings on ever fewer hosts, of those that are used; all units of `start` have a place.
 * @param steps for each host that is to be left
 * @param goOn asked before each host that is to be left
 */
export function* fewerByEjection(
  question: PackingQuestion,
  start: Placing,
  least: number,
  steps: number,
  goOn: () => boolean = () => true,
): Generator<Placing> {
  const search = new Ejection(narrowedTo(question, new Set(start)), start);
  while (search.used() > least && goOn()) {
    if (!search.leaveOne(steps)) return;
    yield search.board.at.slice();
  }
}

class Ejection {
  readonly board: Board;
  private readonly on: number[][];
  private readonly random: () => number;
  /** How often a unit found no place. */
  private readonly waits: Float64Array;
  /** The part of a host that a unit takes, over all dimensions. */
  private readonly weight: Float64Array;

  constructor(
    private readonly question: PackingQuestion,
    start: Placing,
  ) {
    this.board = new Board(question);
    this.on = Array.from({ length: question.hosts }, () => []);
    for (const [unit, host] of start.entries()) this.put(unit, host);
    this.random = chance(question.units);
    this.waits = new Float64Array(question.units).fill(1);
    this.weight = weightsOf(question);
  }

  used(): number {
    return this.on.filter((units) => units.length > 0).length;
  }

  /** Leaves the emptiest of the hosts that are used; if it cannot be left, all stands as before. */
  leaveOne(steps: number): boolean {
    const loads = this.on.map((units) => units.reduce((sum, unit) => sum + this.weight[unit]!, 0));
    const emptiest = [...loads.keys()]
      .filter((host) => this.on[host]!.length > 0)
      .reduce((least, host) => (loads[host]! < loads[least]! ? host : least));
    const before = this.board.at.slice();
    if (this.leave(emptiest, steps)) return true;
    this.standAs(before);
    return false;
  }

  private leave(closed: number, steps: number): boolean {
    const open = (host: number) => host !== closed && this.on[host]!.length > 0;
    const pool = [...this.on[closed]!].sort((a, b) => this.weight[a]! - this.weight[b]!);
    for (const unit of pool) this.take(unit);
    for (let step = 0; step < steps; step += 1) {
      const unit = pool.pop();
      if (unit === undefined) return true;
      const host = bestHost(this.board, unit, 'shares', (one) => !open(one));
      if (host >= 0) {
        this.put(unit, host);
        continue;
      }
      this.waits[unit]! += 1;
      const way = this.leastInTheWay(unit, open);
      if (!way) return false;
      for (const other of way.out) this.take(other);
      this.put(unit, way.host);
      pool.push(...way.out.sort((a, b) => this.weight[a]! - this.weight[b]!));
      this.stir(open);
    }
    return false;
  }

  /** One or two units that would make room on a host: those that waited least, of these the lightest. */
  private leastInTheWay(
    unit: number,
    open: (host: number) => boolean,
  ): { host: number; out: number[] } | null {
    let found: { host: number; out: number[] } | null = null;
    let [waits, weight] = [Infinity, Infinity];
    const offer = (host: number, out: readonly number[]) => {
      let sum = 0;
      let heavy = 0;
      for (const other of out) {
        sum += this.waits[other]!;
        heavy += this.weight[other]!;
      }
      if (sum > waits || (sum === waits && heavy >= weight) || !this.wouldFit(unit, host, out))
        return;
      [found, waits, weight] = [{ host, out: [...out] }, sum, heavy];
    };
    for (const host of this.question.candidates[unit]!) {
      if (!open(host)) continue;
      const units = this.on[host]!;
      for (const [i, a] of units.entries()) {
        offer(host, [a]);
        for (let j = i + 1; j < units.length; j += 1) offer(host, [a, units[j]!]);
      }
    }
    return found;
  }

  private wouldFit(unit: number, host: number, out: readonly number[]): boolean {
    const { question, board } = this;
    const { dims, need } = question;
    const from = needAt(question, unit, host);
    for (let d = 0; d < dims; d += 1) {
      const demand = need[from + d]!;
      let free = board.free[host * dims + d]!;
      for (const other of out) free += need[needAt(question, other, host) + d]!;
      if (demand > 0 && demand > free) return false;
    }
    if (board.limitsOf[unit]!.length === 0) return true;
    for (const other of out) board.take(other);
    const isLet = board.isLet(unit, host);
    for (const other of out) board.put(other, host);
    return isLet;
  }

  /** Units move by chance, or two change places, wherever that is legal. */
  private stir(open: (host: number) => boolean): void {
    const { units, candidates } = this.question;
    for (let n = Math.ceil(units * STIRS); n > 0; n -= 1) {
      const unit = Math.floor(this.random() * units);
      const from = this.board.at[unit]!;
      const hosts = candidates[unit]!;
      const host = hosts[Math.floor(this.random() * hosts.length)]!;
      if (from < 0 || host === from || !open(host)) continue;
      const others = this.on[host]!;
      const other = others[Math.floor(this.random() * (others.length + 1))];
      this.take(unit);
      if (other !== undefined) this.take(other);
      const changed =
        this.board.fits(unit, host) &&
        (this.put(unit, host),
        other === undefined ||
          (candidates[other]!.includes(from) && this.board.fits(other, from)) ||
          (this.take(unit), false));
      if (!changed) this.put(unit, from);
      if (other !== undefined) this.put(other, changed ? from : host);
    }
  }

  private standAs(before: Placing): void {
    for (const unit of before.keys()) if (this.board.at[unit]! >= 0) this.take(unit);
    for (const [unit, host] of before.entries()) this.put(unit, host);
  }

  private put(unit: number, host: number): void {
    this.board.put(unit, host);
    this.on[host]!.push(unit);
  }

  private take(unit: number): void {
    const units = this.on[this.board.at[unit]!]!;
    units.splice(units.indexOf(unit), 1);
    this.board.take(unit);
  }
}

/** The part of the largest host that a unit takes at least, summed over the dimensions. */
function weightsOf(question: PackingQuestion): Float64Array {
  const { units, hosts, dims, room } = question;
  const least = leastNeeds(question);
  const most = Array.from({ length: dims }, (_, d) =>
    Math.max(1, ...Array.from({ length: hosts }, (_, host) => room[host * dims + d]!)),
  );
  return Float64Array.from({ length: units }, (_, unit) =>
    most.reduce((sum, has, d) => sum + least[unit * dims + d]! / has, 0),
  );
}
