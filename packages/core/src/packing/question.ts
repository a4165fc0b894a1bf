/**
 * A question of placement in numbers: units (a guest, or guests that stay together) that go whole to one host each, hosts
 * with room in several dimensions (MiB, vCPU, MiB of disk), and rules as counters. Put once into arrays, so that searching
 * reads no row of the record. All needs and rooms are whole numbers, so that sums are exact.
 */
export interface PackingQuestion {
  units: number;
  hosts: number;
  dims: number;
  /** Hosts of one class ask the same of every unit: overhead is the platform's. */
  classes: number;
  classOf: Int32Array;
  /** What a unit needs on a host of a class: `need[(unit · classes + class) · dims + dim]`. */
  need: Float64Array;
  /** What a host has left: `room[host · dims + dim]`; negative where it is overfull. */
  room: Float64Array;
  /** Hosts that a unit may go to, in ascending order. Units that may go to the same hosts share one array. */
  candidates: readonly Int32Array[];
  limits: readonly Limit[];
}

/** A rule between units: at most so many of them in a zone (a host, a rack, a site), or all of them in one. */
export interface Limit {
  members: readonly number[];
  /** In which zone a host lies. */
  zoneOf: Int32Array;
  /** Null: all of them in one zone. */
  most: number | null;
  /** Those of the rule that stay where they are, by zone. */
  standing: Int32Array;
}

/** Where each unit goes; -1: nowhere. */
export type Placing = Int32Array;

/** The place of what a unit needs on a host in the array of needs. */
export const needAt = (question: PackingQuestion, unit: number, host: number): number =>
  (unit * question.classes + question.classOf[host]!) * question.dims;

/** Units and hosts as they stand: what is left, what stands where, how many of a rule stand in each zone. */
export class Board {
  readonly free: Float64Array;
  readonly at: Placing;
  /** By limit, then by zone. */
  readonly counts: Int32Array[];
  private readonly totals: number[];
  readonly limitsOf: number[][];

  constructor(readonly question: PackingQuestion) {
    this.free = question.room.slice();
    this.at = new Int32Array(question.units).fill(-1);
    this.counts = question.limits.map(({ standing }) => standing.slice());
    this.totals = question.limits.map(({ standing }) => standing.reduce((sum, n) => sum + n, 0));
    this.limitsOf = Array.from({ length: question.units }, () => []);
    for (const [i, { members }] of question.limits.entries())
      for (const unit of members) this.limitsOf[unit]!.push(i);
  }

  hasRoom(unit: number, host: number): boolean {
    const { dims, need } = this.question;
    const from = needAt(this.question, unit, host);
    for (let d = 0; d < dims; d += 1) {
      const demand = need[from + d]!;
      if (demand > 0 && this.free[host * dims + d]! < demand) return false;
    }
    return true;
  }

  /** Whether every rule lets the unit stand there, beside what stands already. */
  isLet(unit: number, host: number): boolean {
    for (const i of this.limitsOf[unit]!) {
      const { zoneOf, most } = this.question.limits[i]!;
      const there = this.counts[i]![zoneOf[host]!]!;
      if (most === null ? there < this.totals[i]! : there >= most) return false;
    }
    return true;
  }

  fits(unit: number, host: number): boolean {
    return this.hasRoom(unit, host) && this.isLet(unit, host);
  }

  put(unit: number, host: number): void {
    this.move(unit, host, 1);
    this.at[unit] = host;
  }

  take(unit: number): void {
    this.move(unit, this.at[unit]!, -1);
    this.at[unit] = -1;
  }

  private move(unit: number, host: number, by: 1 | -1): void {
    const { dims, need, limits } = this.question;
    const from = needAt(this.question, unit, host);
    for (let d = 0; d < dims; d += 1) this.free[host * dims + d]! -= by * need[from + d]!;
    for (const i of this.limitsOf[unit]!) {
      this.counts[i]![limits[i]!.zoneOf[host]!]! += by;
      this.totals[i]! += by;
    }
  }
}

/** The least that a unit needs of each dimension, over the classes of the hosts it may go to. */
export function leastNeeds(question: PackingQuestion): Float64Array {
  const { units, dims, classes, classOf, need, candidates } = question;
  const least = new Float64Array(units * dims);
  const classesOf = new Map<Int32Array, number[]>();
  for (let unit = 0; unit < units; unit += 1) {
    const hosts = candidates[unit]!;
    let known = classesOf.get(hosts);
    if (!known)
      classesOf.set(hosts, (known = [...new Set(Array.from(hosts, (host) => classOf[host]!))]));
    for (let d = 0; d < dims; d += 1)
      least[unit * dims + d] = known.length
        ? Math.min(...known.map((one) => need[(unit * classes + one) * dims + d]!))
        : 0;
  }
  return least;
}

/** Of each unit: its largest share of what all hosts have in a dimension, since that is what gets scarce. */
export function largestShares(question: PackingQuestion): Float64Array {
  const { units, hosts, dims, room } = question;
  const has = new Float64Array(dims);
  for (let host = 0; host < hosts; host += 1)
    for (let d = 0; d < dims; d += 1) has[d]! += Math.max(0, room[host * dims + d]!);
  const least = leastNeeds(question);
  const shares = new Float64Array(units);
  for (let unit = 0; unit < units; unit += 1)
    for (let d = 0; d < dims; d += 1)
      if (has[d]! > 0) shares[unit] = Math.max(shares[unit]!, least[unit * dims + d]! / has[d]!);
  return shares;
}

/** The question with fewer hosts to go to. */
export function narrowedTo(question: PackingQuestion, open: ReadonlySet<number>): PackingQuestion {
  const known = new Map<Int32Array, Int32Array>();
  return {
    ...question,
    candidates: question.candidates.map((set) => {
      const held = known.get(set) ?? set.filter((host) => open.has(host));
      known.set(set, held);
      return held;
    }),
  };
}

/** Hosts on which something stands. */
export const usedBy = (at: Placing): Set<number> =>
  new Set(Array.from(at).filter((host) => host >= 0));
