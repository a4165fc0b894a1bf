/**
 * All placings, one after another, until one holds or none is left: the proof that a question has no answer. Cut short by
 * what still fits nowhere, by sums of what can still be used, by hosts and units that are as good as others, and by states
 * that failed before. Its cost grows exponentially; it gives up after a number of steps, never after a time, so that the same
 * question has the same answer on every machine.
 */
import { Board, leastNeeds, type PackingQuestion, type Placing } from './question.js';

export interface Searched {
  /** Null: the steps were spent before it was settled. */
  fits: boolean | null;
  at: Placing;
  steps: number;
}

/** States kept as failed before. */
const MOST_STATES = 200_000;

export function searchAll(question: PackingQuestion, budget: number): Searched {
  const search = new Search(question, budget);
  const found = search.place(0);
  return { fits: search.spent ? null : found, at: search.board.at, steps: search.steps };
}

class Search {
  readonly board: Board;
  steps = 0;
  private readonly order: number[];
  /** Units that are as good as the one before them in the order. */
  private readonly sameAsBefore: boolean[];
  private readonly least: Float64Array;
  /** What tells hosts apart besides their room. */
  private readonly kindOf: Int32Array;
  private readonly ownZone: readonly boolean[];
  private readonly failed = new Set<string>();

  constructor(
    private readonly question: PackingQuestion,
    private readonly budget: number,
  ) {
    this.board = new Board(question);
    this.least = leastNeeds(question);
    this.ownZone = question.limits.map(({ zoneOf }) => new Set(zoneOf).size === zoneOf.length);
    const kinds = this.kindsOfUnits();
    const size = (unit: number) => this.sizeOf(unit);
    this.order = Array.from({ length: question.units }, (_, unit) => unit).sort(
      (a, b) =>
        question.candidates[a]!.length - question.candidates[b]!.length ||
        size(b) - size(a) ||
        kinds[a]! - kinds[b]! ||
        a - b,
    );
    this.sameAsBefore = this.order.map(
      (unit, i) => i > 0 && kinds[this.order[i - 1]!] === kinds[unit],
    );
    this.kindOf = this.kindsOfHosts();
  }

  get spent(): boolean {
    return this.steps >= this.budget;
  }

  place(depth: number): boolean {
    const unit = this.order[depth];
    if (unit === undefined) return true;
    if (!this.hopeful(depth)) return false;
    const same = this.sameAsBefore[depth]!;
    const state = same ? null : this.stateAt(depth);
    if (state !== null && this.failed.has(state)) return false;
    const tried = new Set<string>();
    const hosts = this.question.candidates[unit]!;
    const from = same ? this.board.at[this.order[depth - 1]!]! : -1;
    for (let i = 0; i < hosts.length; i += 1) {
      const host = hosts[i]!;
      // Equal units go to hosts in ascending order: every other order is the same placing.
      if (host < from || !this.board.fits(unit, host)) continue;
      const look = this.lookOf(host);
      if (tried.has(look)) continue;
      tried.add(look);
      if ((this.steps += 1) >= this.budget) return false;
      this.board.put(unit, host);
      if (this.place(depth + 1)) return true;
      this.board.take(unit);
      if (this.spent) return false;
    }
    if (state !== null && this.failed.size < MOST_STATES) this.failed.add(state);
    return false;
  }

  /**
   * Whether each unit that is left fits somewhere, and all together into the rooms that at least one of them can use. What an
   * overfull host has too little of takes nothing from the others: whoever asks nothing of it may still go there.
   */
  private hopeful(depth: number): boolean {
    const { question, board } = this;
    const { dims, hosts } = question;
    const usable = new Uint8Array(hosts);
    const need = new Float64Array(dims);
    for (let i = depth; i < this.order.length; i += 1) {
      const unit = this.order[i]!;
      let somewhere = false;
      for (const host of question.candidates[unit]!) {
        if (somewhere && usable[host]) continue;
        if (!board.fits(unit, host)) continue;
        somewhere = true;
        usable[host] = 1;
      }
      if (!somewhere) return false;
      for (let d = 0; d < dims; d += 1) need[d]! += this.least[unit * dims + d]!;
    }
    for (let d = 0; d < dims; d += 1) {
      let has = 0;
      for (let host = 0; host < hosts; host += 1)
        if (usable[host]) has += Math.max(0, board.free[host * dims + d]!);
      if (need[d]! > has) return false;
    }
    return true;
  }

  private sizeOf(unit: number): number {
    const { dims } = this.question;
    let sum = 0;
    for (let d = 0; d < dims; d += 1) sum += this.least[unit * dims + d]! / this.meanRoom(d);
    return sum;
  }

  private readonly means: number[] = [];
  private meanRoom(d: number): number {
    const { hosts, dims, room } = this.question;
    return (this.means[d] ??= Math.max(
      1,
      Array.from({ length: hosts }, (_, host) => Math.max(0, room[host * dims + d]!)).reduce(
        (sum, one) => sum + one,
        0,
      ) / Math.max(1, hosts),
    ));
  }

  /** Units of one number need the same, may go to the same hosts and stand under the same rules. */
  private kindsOfUnits(): number[] {
    const { units, classes, dims, need, candidates } = this.question;
    const sets = new Map([...new Set(candidates)].map((set, i) => [set, i]));
    return numbered(units, (unit) => [
      sets.get(candidates[unit]!),
      ...need.subarray(unit * classes * dims, (unit + 1) * classes * dims),
      'rules',
      ...this.board.limitsOf[unit]!,
    ]);
  }

  /** Hosts of one number are asked the same, taken by the same units, and lie in the same racks and sites where a rule asks. */
  private kindsOfHosts(): Int32Array {
    const { hosts, classOf, candidates, limits } = this.question;
    const sets = [...new Set(candidates)].map((set) => new Set(set));
    return Int32Array.from(
      numbered(hosts, (host) => [
        classOf[host],
        ...sets.map((set) => set.has(host)),
        ...limits.map(({ zoneOf }, i) => (this.ownZone[i] ? 'own' : zoneOf[host])),
      ]),
    );
  }

  private lookOf(host: number): string {
    const { dims, limits } = this.question;
    let look = String(this.kindOf[host]);
    for (let d = 0; d < dims; d += 1) look += `,${this.board.free[host * dims + d]}`;
    for (let i = 0; i < limits.length; i += 1)
      if (this.ownZone[i]) look += `.${this.board.counts[i]![limits[i]!.zoneOf[host]!]}`;
    return look;
  }

  /** What is left to place, and what it has left: hosts that look alike are told apart by nothing. */
  private stateAt(depth: number): string {
    const looks = Array.from({ length: this.question.hosts }, (_, host) =>
      this.lookOf(host),
    ).sort();
    const shared = this.question.limits.flatMap((_, i) =>
      this.ownZone[i] ? [] : [this.board.counts[i]!.join(',')],
    );
    return `${depth}|${looks.join('|')}|${shared.join('|')}`;
  }
}

function numbered(count: number, of: (i: number) => unknown[]): number[] {
  const known = new Map<string, number>();
  return Array.from({ length: count }, (_, i) => {
    const key = of(i).join(' ');
    const held = known.get(key);
    if (held !== undefined) return held;
    known.set(key, known.size);
    return known.size - 1;
  });
}
