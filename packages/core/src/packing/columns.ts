/**
 * How few hosts can hold all units, by columns: a program over patterns (what goes on one host together), to which the
 * patterns that would help most are added until none would (Gilmore and Gomory, Operations Research 9(6), 1961). The bound is
 * counted in whole numbers out of rounded prices, so that no rounding proves too much (Farley, Operations Research 38(5),
 * 1990, for hosts of one kind; Lagrange's for several). Rules that are not of single hosts are left out: the bound still holds.
 * Costs rounds · (a linear program + a knapsack for each kind of host).
 */
import type { SolveLinear } from './linear-model.js';
import { bestPatterns, type BestPatterns, type Pattern, type PatternItems } from './patterns.js';
import { needAt, type Limit, type PackingQuestion, type Placing } from './question.js';
import { faultsOf } from './verify.js';

export interface ByColumns {
  /** No placing uses fewer; 0 where nothing was proved. */
  bound: number;
  /** A placing on the fewest hosts that the patterns allow, where it is legal. */
  at: Placing | null;
}

const ROUNDS = 400;
const ROUNDS_OF_A_DIVE = 8;
/** Prices are rounded to so many parts of a host. */
const PARTS = 1_000_000;
const SECONDS = 2;
/** Patterns of what others leave, and steps for each. */
const OF_THE_REST = 12;
const FEW_STEPS = 3_000;
const EXACTLY_EVERY = 6;

interface HostKind extends PatternItems {
  hosts: number[];
  room: Float64Array;
}

/** A kind of host with only so many of each item. */
const among = (kind: HostKind, demand: Int32Array): HostKind => ({
  ...kind,
  most: kind.most.map((most, item) => Math.min(most, demand[item]!)),
});

interface Column {
  kind: number;
  counts: Int32Array;
}

/** @param start a placing to begin with @param enough a bound that needs no better one */
export function fewestByColumns(
  question: PackingQuestion,
  start: Placing,
  solve: SolveLinear,
  enough: number,
): ByColumns {
  const items = itemsOf(question);
  const kinds = kindsOfHost(question, items);
  const search = new ColumnSearch(items, kinds, solve);
  search.beginWith(start);
  const { bound } = search.generate(search.whole(), enough);
  if (bound >= enough) return { bound, at: null };
  for (const times of search.dives(bound, enough)) {
    const at = placingBy(question, items, kinds, times);
    if (!at.includes(-1) && faultsOf(question, at).length === 0) return { bound, at };
  }
  return { bound, at: null };
}

/** What is still to be placed, and on how many hosts of each kind. */
interface Open {
  demand: Int32Array;
  hosts: number[];
}

interface Generated {
  /** Hosts that patterns in fractions take, and how much of each column. */
  value: number;
  of: (column: number) => number;
  bound: number;
}

class ColumnSearch {
  readonly columns: Column[] = [];
  private readonly known = new Set<string>();
  /** Parts of the program: columns in which an item is, and those of a kind of host. */
  private readonly holding: string[][];
  private readonly ofKind: string[][];

  constructor(
    private readonly items: readonly number[][],
    private readonly kinds: readonly HostKind[],
    private readonly solve: SolveLinear,
  ) {
    this.holding = items.map(() => []);
    this.ofKind = kinds.map(() => []);
  }

  beginWith(start: Placing): void {
    const kindOf = new Map(
      this.kinds.flatMap(({ hosts }, kind) => hosts.map((host) => [host, kind])),
    );
    for (const [host, counts] of contents(start, this.items)) {
      const kind = kindOf.get(host);
      if (kind !== undefined) this.add({ kind, counts });
    }
  }

  whole(): Open {
    return {
      demand: Int32Array.from(this.items, (units) => units.length),
      hosts: this.kinds.map(({ hosts }) => hosts.length),
    };
  }

  /** Adds patterns until none would help, or the bound is enough. */
  generate(open: Open, enough: number, rounds = ROUNDS): Generated {
    const found: Generated = { value: Infinity, of: () => 0, bound: 0 };
    for (let round = 0; round < rounds; round += 1) {
      const { status, price, value, bound } = this.solve(this.program(open), SECONDS);
      if (status !== 'optimal' || !price || !value) break;
      found.value = bound;
      found.of = (c) => value(`x${c}`);
      const worth = Float64Array.from(this.items, (_, item) =>
        Math.max(0, Math.floor(price(`i${item}`) * PARTS)),
      );
      const floors = this.kinds.map((_, k) => PARTS - Math.ceil(price(`k${k}`) * PARTS));
      const within = (steps?: number) =>
        this.kinds.map((kind, k) =>
          bestPatterns(among(kind, open.demand), kind.room, worth, floors[k]!, steps),
        );
      // What helps is found quickly; that nothing would help more takes longer, and is asked now and then.
      const quick = round % EXACTLY_EVERY === 0 ? [] : within(FEW_STEPS);
      if (this.addAll(quick, open.demand, worth, floors)) continue;
      const priced = within();
      found.bound = Math.max(found.bound, boundOf(open, worth, priced));
      if (found.bound >= enough || found.bound >= Math.ceil(bound - 1e-6)) break;
      if (!this.addAll(priced, open.demand, worth, floors)) break;
    }
    return found;
  }

  /**
   * Placings out of patterns: all at once by a program in whole numbers, then one after another: what the fractions want most
   * is fixed, and the rest is asked anew. How often each column is taken; only what uses fewer than `enough` hosts.
   */
  *dives(least: number, enough: number): Generator<Map<Column, number>> {
    const open = this.whole();
    const fixed = new Map<Column, number>();
    let used = 0;
    while (open.demand.some((left) => left > 0)) {
      const { value, of } = this.generate(open, enough - used, ROUNDS_OF_A_DIVE);
      if (used + Math.ceil(value - 1e-6) >= enough) break;
      const wanted = this.columns.map((column, c) => ({ column, share: of(c) }));
      const sure = wanted.filter(({ share }) => share > 1 - 1e-6);
      const most = wanted.reduce((best, one) => (one.share > best.share ? one : best));
      for (const { column, share } of sure.length > 0 ? sure : [{ ...most, share: 1 }]) {
        const times = Math.floor(share + 1e-6);
        fixed.set(column, (fixed.get(column) ?? 0) + times);
        used += times;
        open.hosts[column.kind]! -= times;
        for (const [item, count] of column.counts.entries())
          open.demand[item] = Math.max(0, open.demand[item]! - count * times);
      }
    }
    if (used < enough && open.demand.every((left) => left === 0)) yield fixed;
    if (least >= enough) return;
    const { value } = this.solve(this.program(this.whole(), true), SECONDS);
    if (value) yield new Map(this.columns.map((column, c) => [column, Math.round(value(`x${c}`))]));
  }

  /** Whether any of them is new; with it, patterns of what it leaves. */
  private addAll(
    priced: readonly BestPatterns[],
    demand: Int32Array,
    worth: Float64Array,
    floors: readonly number[],
  ): boolean {
    let any = false;
    for (const [kind, { patterns }] of priced.entries()) {
      for (const { counts } of patterns) any = this.add({ kind, counts }) || any;
      this.addOfTheRest(kind, demand, patterns.at(-1), worth, floors[kind]!);
    }
    return any;
  }

  /** Patterns of what the best one leaves, and so on: together they serve many items at once. */
  private addOfTheRest(
    kind: number,
    demand: Int32Array,
    best: Pattern | undefined,
    worth: Float64Array,
    floor: number,
  ): void {
    const left = demand.slice();
    const host = this.kinds[kind]!;
    for (let n = 0; best && n < OF_THE_REST; n += 1) {
      for (const [item, count] of best.counts.entries()) left[item]! -= count;
      best = bestPatterns(among(host, left), host.room, worth, floor, FEW_STEPS).patterns.at(-1);
      if (best) this.add({ kind, counts: best.counts });
    }
  }

  private add(column: Column): boolean {
    const key = `${column.kind}|${column.counts.join()}`;
    if (this.known.has(key)) return false;
    this.known.add(key);
    const name = `x${this.columns.length}`;
    this.columns.push(column);
    this.ofKind[column.kind]!.push(name);
    for (const [item, count] of column.counts.entries())
      if (count > 0) this.holding[item]!.push(`${count} ${name}`);
    return true;
  }

  /** In the LP format: as few columns as hold all, of each kind no more than there are hosts. */
  private program(open: Open, whole = false): string {
    const names = this.columns.map((_, c) => `x${c}`);
    const covers = this.holding.flatMap((terms, item) => {
      const demand = open.demand[item]!;
      if (demand === 0) return [];
      return ` i${item}: ${terms.length > 0 ? terms.join(' + ') : '0 x0'} >= ${demand}`;
    });
    const rooms = this.ofKind.flatMap((terms, k) =>
      terms.length > 0 ? ` k${k}: ${terms.join(' + ')} <= ${open.hosts[k]}` : [],
    );
    return [
      'Minimize',
      ` hosts: ${names.join(' + ')}`,
      'Subject To',
      ...covers,
      ...rooms,
      ...(whole ? ['General', ...names.map((name) => ` ${name}`)] : []),
      'End',
    ].join('\n');
  }
}

/** In whole parts of a host: the larger of both bounds. */
function boundOf(open: Open, worth: Float64Array, priced: readonly { bound: number }[]): number {
  const all = open.demand.reduce((sum, demand, item) => sum + demand * worth[item]!, 0);
  const dearest = Math.max(PARTS, ...priced.map(({ bound }) => bound));
  const over = priced.reduce(
    (sum, { bound }, k) => sum + open.hosts[k]! * Math.max(0, bound - PARTS),
    0,
  );
  return Math.max(Math.ceil(all / dearest), Math.ceil((all - over) / PARTS));
}

/** Units of which nothing tells them apart, by item. */
function itemsOf({ units, classes, dims, need, candidates, limits }: PackingQuestion): number[][] {
  const items = new Map<string, number[]>();
  const sets = new Map<Int32Array, number>();
  const limitsOf = Array.from({ length: units }, (): number[] => []);
  for (const [i, { members }] of limits.entries())
    for (const unit of members) limitsOf[unit]!.push(i);
  for (let unit = 0; unit < units; unit += 1) {
    const set = candidates[unit]!;
    if (!sets.has(set)) sets.set(set, sets.size);
    const needs = need.subarray(unit * classes * dims, (unit + 1) * classes * dims);
    const key = [sets.get(set), needs.join(), limitsOf[unit]!.join()].join('|');
    items.set(key, [...(items.get(key) ?? []), unit]);
  }
  return [...items.values()];
}

/** Hosts that are alike in all that is asked; what each takes is as of its class, rules of single hosts are dimensions. */
function kindsOfHost(question: PackingQuestion, items: readonly number[][]): HostKind[] {
  const { hosts, dims, room, classOf, candidates, limits } = question;
  const sets = [...new Set(candidates)].map((set) => new Set(set));
  const single = limits.filter(ofSingleHosts);
  const kinds = new Map<string, HostKind>();
  for (let host = 0; host < hosts; host += 1) {
    const own = Float64Array.of(
      ...room.subarray(host * dims, (host + 1) * dims),
      ...single.map(({ most, standing, zoneOf }) => most! - standing[zoneOf[host]!]!),
    );
    const key = [classOf[host], own.join(), sets.map((set) => set.has(host)).join()].join('|');
    const known = kinds.get(key);
    if (known) {
      known.hosts.push(host);
      continue;
    }
    const size = items.flatMap(([unit]) => {
      const from = needAt(question, unit!, host);
      return [
        ...question.need.subarray(from, from + dims),
        ...single.map(({ members }) => Number(members.includes(unit!))),
      ];
    });
    kinds.set(key, {
      hosts: [host],
      room: own,
      count: items.length,
      dims: own.length,
      size: Float64Array.from(size),
      most: Int32Array.from(items, (units) =>
        candidates[units[0]!]!.includes(host) ? units.length : 0,
      ),
    });
  }
  return [...kinds.values()];
}

/** A rule of which each host is a zone of its own. */
const ofSingleHosts = ({ most, zoneOf }: Limit): boolean =>
  most !== null && new Set(zoneOf).size === zoneOf.length;

/** What stands on each host that is used, by item. */
function contents(at: Placing, items: readonly number[][]): Map<number, Int32Array> {
  const found = new Map<number, Int32Array>();
  for (const [item, units] of items.entries())
    for (const unit of units) {
      const host = at[unit]!;
      if (host < 0) continue;
      if (!found.has(host)) found.set(host, new Int32Array(items.length));
      found.get(host)![item]! += 1;
    }
  return found;
}

function placingBy(
  question: PackingQuestion,
  items: readonly number[][],
  kinds: readonly HostKind[],
  times: ReadonlyMap<Column, number>,
): Placing {
  const at = new Int32Array(question.units).fill(-1);
  const waiting = items.map((units) => [...units]);
  const free = kinds.map(({ hosts }) => [...hosts]);
  for (const [{ kind, counts }, many] of times)
    for (let n = many; n > 0; n -= 1) {
      const host = free[kind]!.shift();
      if (host === undefined) return at;
      for (const [item, count] of counts.entries())
        for (const unit of waiting[item]!.splice(0, count)) at[unit] = host;
    }
  return at;
}
