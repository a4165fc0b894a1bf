/**
 * Ordered indexes: the rows of a kind by a key that may be computed from anything, kept in order. After a patch only the keys
 * that it may alter are computed anew, and moved to their new place; that costs, beside those keys, a copy of the list.
 */
import type { Kind } from './kinds/index.js';
import type { AnyRow } from './store.js';
import type { Rows } from './table.js';
import { Memo, type Family, type WokenBy } from './memos.js';
import { type Altered, type Tracks } from './tracking.js';
import { type Key, type Entry, moved, sorted } from './sorted-entries.js';

export type Direction = 'up' | 'down';
type KeyOf = (row: AnyRow) => Key | undefined;

/** Rows of which the keys are one computation: to note for each what it was computed from would take too much room. */
const ROWS_OF_A_RUN = 16;
/** Where more keys altered than this, sorting is faster. */
const FEW = 1000;
/** Indexes that are kept; those that were asked for the longest ago go first. */
const MOST_KEPT = 20;

export class Run extends Memo {
  readonly ids: string[] = [];

  constructor(
    id: string,
    family: Family,
    readonly index: OrderedIndex,
  ) {
    super(id, family);
  }

  protected override tell(by: WokenBy): void {
    super.tell(by);
    this.index.rouse(this, by);
  }
}

export class OrderedIndex {
  list: readonly Entry[] = [];
  /** What whoever reads the list notes. */
  readonly together: Memo;
  private readonly entries = new Map<string, Entry>();
  private readonly runs: Run[] = [];
  /** Rows that altered, or a part of them; runs whose keys have to be computed anew. */
  private readonly altered = new Set<string>();
  private readonly awake = new Set<Run>();

  constructor(
    readonly kind: Kind,
    private readonly name: string,
    private readonly sign: 1 | -1,
    private readonly family: Family,
    rows: Rows<AnyRow>,
  ) {
    this.together = new Memo(name, family);
    for (const { id } of rows.values()) this.altered.add(id);
  }

  rouse(run: Run, by: WokenBy): void {
    this.awake.add(run);
    this.together.wake(by);
  }

  hear({ kind, id, roots }: Pick<Altered, 'kind' | 'id' | 'roots'>): void {
    for (const one of this.touched(kind, id, roots)) {
      this.altered.add(one);
      this.together.wake(kind);
    }
  }

  private touched(kind: Kind, id: string, roots: readonly string[]): string[] {
    const parts = roots.filter((root) => this.entries.has(root));
    return kind === this.kind ? [...parts, id] : parts;
  }

  refresh(rows: Rows<AnyRow>, tracks: Tracks, keyOf: KeyOf): void {
    const [came, gone]: [Entry[], Entry[]] = [[], []];
    for (const id of this.altered) this.enter(id, rows.get(id) !== undefined, gone);
    this.altered.clear();
    try {
      for (const run of this.awake) {
        const keys: (Key | undefined)[] = [];
        const compute = () => {
          for (const id of run.ids) {
            tracks.ofItself(id);
            keys.push(keyOf(rows.get(id)!));
          }
        };
        tracks.compute(run, compute, undefined, {});
        this.awake.delete(run);
        for (const [i, id] of run.ids.entries()) {
          const held = this.entries.get(id)!;
          if (held.key === keys[i]) continue;
          const entry = { id, key: keys[i], run };
          this.entries.set(id, entry);
          if (held.key !== undefined) gone.push(held);
          if (entry.key !== undefined) came.push(entry);
        }
      }
    } finally {
      if (came.length <= FEW) this.list = moved(this.list, came, gone, this.sign);
      else {
        const all = Array.from(rows.values(), ({ id }) => this.entries.get(id)!);
        this.list = sorted(
          all.filter(({ key }) => key !== undefined),
          this.sign,
        );
      }
    }
  }

  /** A row that came goes into a run, with that which altered the run is computed anew. */
  private enter(id: string, there: boolean, gone: Entry[]): void {
    let entry = this.entries.get(id);
    if (entry && !there) {
      this.entries.delete(id);
      entry.run.ids.splice(entry.run.ids.indexOf(id), 1);
      if (entry.key !== undefined) gone.push(entry);
      return;
    }
    if (!there) return;
    if (!entry) {
      let run = this.runs.at(-1);
      if (!run || run.ids.length >= ROWS_OF_A_RUN) {
        run = new Run(`${this.name} ${this.runs.length}`, this.family, this);
        this.family.memos.set(run.id, run);
        this.runs.push(run);
      }
      run.ids.push(id);
      this.entries.set(id, (entry = { id, key: undefined, run }));
    }
    this.awake.add(entry.run);
  }

  /**
   * The list with other rows, laid over it; it stays as it is.
   * @param altered rows that are other there
   * @param stale what does not hold there
   */
  over(
    altered: readonly Altered[],
    stale: ReadonlySet<Memo>,
    rows: Rows<AnyRow>,
    keyOf: KeyOf,
  ): readonly Entry[] {
    const ids = new Set(
      altered.flatMap(({ kind, id, roots }) => [
        ...this.touched(kind, id, roots),
        ...(this.kind === kind ? [] : roots.filter((root) => rows.get(root))),
      ]),
    );
    for (const memo of stale)
      if (memo instanceof Run && memo.index === this) for (const id of memo.ids) ids.add(id);
    const [came, gone]: [Entry[], Entry[]] = [[], []];
    for (const id of ids) {
      const row = rows.get(id);
      const held = this.entries.get(id);
      const key = row && keyOf(row);
      if (held?.key === key) continue;
      if (held?.key !== undefined) gone.push(held);
      if (key !== undefined) came.push({ id, key, run: held?.run ?? this.runs[0]! });
    }
    return moved(this.list, came, gone, this.sign);
  }

  /** Lets go of it; whoever read it is told. */
  end(): void {
    this.together.wake('room');
    for (const run of this.runs) {
      run.reading = undefined;
      this.family.memos.delete(run.id);
    }
  }
}

/** The indexes of a fleet. */
export class Orders {
  private readonly indexes = new Map<string, OrderedIndex>();
  /** Of an overlay: lists as they are there. */
  private readonly lists = new Map<string, readonly Entry[]>();

  constructor(private readonly family: () => Family) {}

  get none(): boolean {
    return this.indexes.size === 0;
  }

  of(kind: Kind, name: string, order: Direction, rows: Rows<AnyRow>): OrderedIndex {
    const key = keyFor(kind, name, order);
    const sign = order === 'down' ? -1 : 1;
    const index = this.indexes.get(key) ?? new OrderedIndex(kind, key, sign, this.family(), rows);
    this.indexes.delete(key);
    this.indexes.set(key, index);
    for (const [oldest, one] of this.indexes) {
      if (this.indexes.size <= MOST_KEPT) break;
      one.end();
      this.indexes.delete(oldest);
    }
    return index;
  }

  /** A list of an overlay, kept as long as that is not altered further. */
  laid(kind: Kind, name: string, order: Direction, make: () => readonly Entry[]): readonly Entry[] {
    const key = keyFor(kind, name, order);
    let list = this.lists.get(key);
    if (!list) this.lists.set(key, (list = make()));
    return list;
  }

  hear(altered: Altered): void {
    for (const index of this.indexes.values()) index.hear(altered);
  }

  clear(): void {
    for (const index of this.indexes.values()) index.end();
    this.indexes.clear();
    this.lists.clear();
  }
}

const keyFor = (kind: Kind, name: string, order: Direction): string => `${kind}|${name}|${order}`;
