/**
 * Patterns that are added to a program until none would help, and placings made of them. @see `columns.ts` for the source of the
 * bound.
 */
import { among, type Column, contents, type HostKind } from './host-kinds.js';
import type { SolveLinear } from './linear-model.js';
import { bestPatterns, type BestPatterns, type Pattern } from './patterns.js';
import type { Placing } from './question.js';

const ROUNDS = 400;

const ROUNDS_OF_A_DIVE = 8;

/** Prices are rounded to so many parts of a host. */
const PARTS = 1_000_000;

const SECONDS = 2;

/** Patterns of what others leave, and steps for each. */
const OF_THE_REST = 12;

const FEW_STEPS = 3_000;

const EXACTLY_EVERY = 6;

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

export class ColumnSearch {
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
