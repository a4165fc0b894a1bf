/**
 * The record in memory: its rows (`row-reader.ts`) and what is computed from them. Rows are never altered in place; `apply` puts
 * new ones where patches say so, keeps the indexes, and wakes what was computed from them. Nothing ever copies a Fleet: to ask
 * what would be, `overlay` lays rows over it and reads through to it.
 */
import { Gatherings, type Gathered } from './gathering.js';
import type { Kind, Row } from './kinds/index.js';
import { FEW, Mended, type Mend } from './mended.js';
import { Orders, type Direction, type OrderedIndex } from './ordered.js';
import { type Key } from './sorted-entries.js';
import type { Patch } from './patch.js';
import { RowReader } from './row-reader.js';
import { Store, type AnyRow } from './store.js';
import { Family, Memo, Watch, type WokenBy } from './memos.js';
import { Tracks, type Altered } from './tracking.js';

/** Place of the value kept for the whole fleet among those kept for its records. */
const WHOLE = '';
/** Name of the answers that were given and are watched. */
const ANSWERS = 'answers given';
/** Name of what orders of lists were computed from. */
const ORDERS = 'keys of lists';
/** What each takes in Node 20, measured with 50,000 of them (docs/performance.md). */
const BYTES = { kept: 182, key: 32, edge: 18 };

/** Of an overlay: what it alters, and which values of the fleet under it do therefore not hold. */
interface Over {
  /** The fleet that all of it lies on, and its revision. */
  ground: Fleet;
  revision: number;
  altered: Altered[];
  stale: Set<Memo>;
  /** How much was computed on the ground when that was found. */
  asOf: number;
}

/** A patch alters a row that is not there, or makes one that is. */
export class PatchMisfit extends Error {}

/** Values of one name that are kept, since the process began. */
export interface KeptValues {
  name: string;
  kept: number;
  asked: number;
  made: number;
  wokenBy: { by: WokenBy; times: number }[];
}

/** An overlay was asked after the fleet under it had altered: it has to be made anew. */
export class GroundMoved extends Error {
  constructor() {
    super('the fleet under an overlay has altered');
  }
}

export class Fleet extends RowReader {
  /** Number of the last change that is in this fleet. */
  revision = 0;
  /** What is kept, by name. */
  private readonly kept = new Map<string, Family>();
  private readonly gatherings: Gatherings;
  private readonly orders: Orders;
  private readonly mended = new Mended();
  private watches = 0;
  private readonly over: Over | undefined;

  /** @param base the fleet that this one is laid over; it may not alter meanwhile */
  constructor(base?: Fleet) {
    super(new Store(base?.store), base?.tracks ?? new Tracks());
    this.gatherings = new Gatherings(this.store, (name) => this.familyOf(name));
    this.orders = new Orders(() => this.familyOf(ORDERS));
    if (!base) return;
    this.revision = base.revision;
    this.over = base.over
      ? { ...base.over, altered: [...base.over.altered], stale: new Set(base.over.stale) }
      : {
          ground: base,
          revision: base.revision,
          altered: [],
          stale: new Set(),
          asOf: base.tracks.computed,
        };
  }

  /**
   * A value computed from a record, kept until something that it was computed from alters. The computation reads nothing
   * but this fleet, and is told apart by record and name alone.
   * @param now time of asking, where the value alters with time: see `alters`
   */
  memo<T>(id: string, name: string, compute: () => T, now?: string): T {
    return this.recall(id, name, compute, now, false) as T;
  }

  /** A value computed from most of the fleet, kept until a row of a kind alters that it read; then mended where it can be. */
  whole<T>(name: string, compute: (on: Fleet) => T, mend?: Mend<T>): T {
    const made = mend ? () => this.mendedHere(name, compute, mend) : () => compute(this);
    return this.recall(WHOLE, name, made, undefined, true) as T;
  }

  private mendedHere<T>(name: string, compute: (on: Fleet) => T, mend: Mend<T>): T {
    const { over } = this;
    if (!over)
      return this.mended.of(
        name,
        () => compute(this),
        (before, altered) => mend(before, altered, this, false),
      );
    this.staleOf(over);
    const { ground, altered } = over;
    const under = altered.length > FEW ? null : ground.whole(name, compute, mend);
    return (under && mend(under, altered, this, true)) ?? compute(this);
  }

  /**
   * Lists computed from each row of a kind, kept for those that are not empty; after a patch only what read the altered
   * rows is computed anew. The first time costs a look at each row.
   * @param compute reads nothing but the fleet that it is handed
   */
  gathered<T>(
    kind: Kind,
    name: string,
    compute: (fleet: Fleet, id: string, now: string) => readonly T[],
    now = '',
  ): ReadonlyMap<string, readonly T[]> {
    const found = this.over
      ? this.gatheredOver(this.over, kind, name, compute, now)
      : this.gatheredHere(kind, name, compute, now);
    return found.values as Map<string, readonly T[]>;
  }

  /**
   * All rows of a kind in the order of a key, kept; after a patch only the keys that it may alter are computed anew. The first time
   * costs a look at each row.
   * @param key reads nothing but the fleet that it is handed, and alters with no time; undefined: not in the list
   */
  ordered<K extends Kind>(
    kind: K,
    name: string,
    key: (fleet: Fleet, row: Row<K>) => Key | undefined,
    order: Direction = 'up',
  ): readonly { id: string }[] {
    const { over } = this;
    const keyOf = (row: AnyRow) => key(this, row as Row<K>);
    if (!over) return this.orderedHere(kind, name, keyOf, order).list;
    const { ground, altered } = over;
    const under = ground.orderedHere(kind, name, (row) => key(ground, row as Row<K>), order);
    const stale = this.staleOf(over);
    const laid = () => under.over(altered, stale, this.store.rows(kind), keyOf);
    return this.orders.laid(kind, name, order, laid);
  }

  private orderedHere(
    kind: Kind,
    name: string,
    keyOf: (row: AnyRow) => Key | undefined,
    order: Direction,
  ): OrderedIndex {
    // Overlays could not tell whether such a value holds in them.
    if (this.tracks.keeping)
      throw new Error('an order of all rows cannot be a part of a kept value');
    const rows = this.store.rows(kind);
    const index = this.orders.of(kind, name, order, rows);
    this.tracks.apart(() => index.refresh(rows, this.tracks, keyOf));
    this.tracks.gathered(index, -Infinity, Infinity);
    return index;
  }

  /**
   * Of an overlay: the lists of rows that it may alter, as they are below and as they are here. Costs what is altered, however
   * large the fleet is; nothing where it is no overlay.
   */
  gatheredMoved<T>(
    kind: Kind,
    name: string,
    compute: (fleet: Fleet, id: string, now: string) => readonly T[],
    now = '',
  ): { was: readonly T[]; is: readonly T[] }[] {
    const { over } = this;
    if (!over) return [];
    const under = over.ground.gatheredHere(kind, name, compute, now).values;
    return [...this.anewOver(over, kind, name, compute, now)].map(([id, list]) => ({
      was: (under.get(id) ?? []) as readonly T[],
      is: list as readonly T[],
    }));
  }

  /**
   * An answer that is not kept, and a call, once, when something alters that it was computed from, or when that can no longer be
   * told. What alters it by time alone is not told: it is said until when it holds, in ms, if time does nothing else to it than
   * what `alters` noted.
   * @param read asks this fleet, or overlays of it, and returns before anything alters
   * @param at time of asking, in ms
   */
  watched<T>(
    read: () => T,
    altered: () => void,
    at: number,
  ): { answer: T; until: number; stop: () => void } {
    const family = this.familyOf(ANSWERS);
    const watch = new Watch(String((this.watches += 1)), family, altered);
    family.asked += 1;
    try {
      this.tracks.compute(watch, read, at, {});
    } catch (error) {
      watch.stop();
      throw error;
    }
    const answer = watch.value as T;
    watch.value = undefined;
    return { answer, until: watch.reading!.until, stop: () => watch.stop() };
  }

  /** For what somebody keeps who looks for himself what altered: to whoever asks, it may alter with any row. */
  apart<T>(work: () => T): T {
    this.tracks.anything();
    return this.tracks.apart(work);
  }

  /**
   * Does a part of what `gathered` would do: so many rows at most. Gives whether all of them are done.
   * @param now time of asking
   */
  gatherSome(
    kind: Kind,
    name: string,
    compute: (fleet: Fleet, id: string, now: string) => readonly unknown[],
    now: string,
    most: number,
  ): boolean {
    this.gatheredHere(kind, name, compute, now, most);
    return this.familyOf(`${kind}|${name}`).awake!.size === 0;
  }

  /** Notes that what is being computed alters by itself at that time, in ms, be it past or to come. */
  alters(at: number): void {
    this.tracks.alters(at);
  }

  /** Applies decided patches in order as that revision. @throws PatchMisfit: the record would be wrong */
  apply(patches: readonly Patch[], revision: number): void {
    for (const patch of patches) this.applyOne(patch, revision);
    this.revision = revision;
  }

  /** Puts a row as read from storage. */
  load(kind: Kind, row: AnyRow): void {
    this.put(kind, row.id, row);
  }

  /**
   * The fleet as it would be with these patches, laid over this one. It holds as long as this one stays as it is.
   * @throws PatchMisfit
   */
  overlay(patches: readonly Patch[]): Fleet {
    const would = new Fleet(this);
    for (const patch of patches) would.applyOne(patch, this.revision);
    return would;
  }

  /**
   * What is kept, by name: for whoever looks after the server; with how much was noted of what it was computed from, and about
   * how many bytes that takes, the values themselves left out. Costs a look at all that is noted.
   */
  keptValues(): { values: KeptValues[]; noted: number; edges: number; bytes: number } {
    const values = [...this.kept].map(([name, { memos, asked, made, wokenBy }]) => ({
      name,
      ...{ kept: memos.size, asked, made },
      wokenBy: [...wokenBy].map(([by, times]) => ({ by, times })),
    }));
    const { keys, edges: ofRows } = this.tracks.noted();
    let [kept, edges] = [0, ofRows];
    for (const { memos } of this.kept.values()) {
      kept += memos.size;
      for (const memo of memos.values()) edges += memo.edges;
    }
    const bytes = kept * BYTES.kept + keys * BYTES.key + edges * BYTES.edge;
    return { values, noted: keys, edges, bytes };
  }

  /** Lets go of all kept values, so that their room is free; each is made anew when it is asked for. Not of an overlay. */
  forgetKept(): void {
    if (this.tracks.noting) throw new Error('a value is being computed');
    this.orders.clear();
    this.mended.clear();
    for (const { memos } of this.kept.values()) {
      for (const memo of memos.values()) memo.wake('room');
      memos.clear();
    }
    this.tracks.forget();
  }

  private familyOf(name: string): Family {
    let family = this.kept.get(name);
    if (!family) this.kept.set(name, (family = new Family()));
    return family;
  }

  private recall(
    id: string,
    name: string,
    compute: () => unknown,
    now: string | undefined,
    coarse: boolean,
  ): unknown {
    const at = now === undefined ? undefined : Date.parse(now);
    const under = this.over && this.heldUnder(this.over, id, name, at);
    if (under) {
      this.tracks.read(under);
      return under.value;
    }
    const family = this.familyOf(name);
    let memo = family.memos.get(id);
    if (!memo) family.memos.set(id, (memo = new Memo(id, family)));
    if (!memo.holdsAt(at))
      this.tracks.compute(memo, compute, at, { coarse, noted: this.over === undefined });
    this.tracks.read(memo);
    return memo.value;
  }

  /** What the ground keeps, if it holds here as well. */
  private heldUnder(
    over: Over,
    id: string,
    name: string,
    at: number | undefined,
  ): Memo | undefined {
    const memo = over.ground.kept.get(name)?.memos.get(id);
    if (!memo?.holdsAt(at)) return undefined;
    return this.staleOf(over).has(memo) ? undefined : memo;
  }

  /** Values of the ground that were computed from what is altered here. */
  private staleOf(over: Over): Set<Memo> {
    if (over.ground.revision !== over.revision) throw new GroundMoved();
    if (over.asOf !== this.tracks.computed) {
      over.stale = new Set();
      for (const altered of over.altered) this.tracks.collect(altered, over.stale);
      over.asOf = this.tracks.computed;
    }
    return over.stale;
  }

  private gatheredHere(
    kind: Kind,
    name: string,
    compute: (fleet: Fleet, id: string, now: string) => readonly unknown[],
    now: string,
    most = Infinity,
  ): Gathered {
    // Overlays could not tell whether such a value holds in them.
    if (this.tracks.keeping) throw new Error('what is gathered cannot be a part of a kept value');
    const key = `${kind}|${name}`;
    const list = (id: string) => this.memo(id, key, () => compute(this, id, now), now || undefined);
    const at = now ? Date.parse(now) : undefined;
    const held = this.tracks.apart(() => this.gatherings.gather(kind, key, list, at, most));
    this.tracks.gathered(this.familyOf(key), held.from, held.until);
    return held;
  }

  private gatheredOver(
    over: Over,
    kind: Kind,
    name: string,
    compute: (fleet: Fleet, id: string, now: string) => readonly unknown[],
    now: string,
  ): Gathered {
    const under = over.ground.gatheredHere(kind, name, compute, now);
    const anew = this.anewOver(over, kind, name, compute, now);
    if (anew.size === 0) return under;
    const values = new Map(under.values);
    for (const [id, list] of anew) {
      values.delete(id);
      if (list.length) values.set(id, list);
    }
    return { ...under, values };
  }

  /** Of the rows that are altered here, or of which something is that their lists were computed from: their lists. */
  private anewOver(
    over: Over,
    kind: Kind,
    name: string,
    compute: (fleet: Fleet, id: string, now: string) => readonly unknown[],
    now: string,
  ): Map<string, readonly unknown[]> {
    const key = `${kind}|${name}`;
    const family = over.ground.familyOf(key);
    const ids = new Set<string>();
    for (const memo of this.staleOf(over)) if (memo.family === family) ids.add(memo.id);
    for (const altered of over.altered) if (altered.kind === kind) ids.add(altered.id);
    const lists = new Map<string, readonly unknown[]>();
    for (const id of ids)
      lists.set(
        id,
        this.store.rows(kind).get(id)
          ? this.memo(id, key, () => compute(this, id, now), now || undefined)
          : [],
      );
    return lists;
  }

  /** Whether it lies on that fleet, which is as it was then. */
  isOver(ground: Fleet): boolean {
    return this.over?.ground === ground && this.over.revision === ground.revision;
  }

  private applyOne(patch: Patch, revision: number): void {
    const held = this.store.rows(patch.kind).get(patch.id);
    if (patch.op === 'create') {
      if (held) throw new PatchMisfit(`${patch.kind} ${patch.id} exists already`);
      this.put(patch.kind, patch.id, { ...patch.after, id: patch.id, revision });
      return;
    }
    if (!held) throw new PatchMisfit(`${patch.kind} ${patch.id} does not exist`);
    this.put(
      patch.kind,
      patch.id,
      patch.op === 'delete' ? undefined : { ...held, ...patch.after, revision },
    );
  }

  private put(kind: Kind, id: string, row: AnyRow | undefined): void {
    const held = this.store.rows(kind).get(id);
    if (held === row) return;
    this.store.put(kind, id, held, row);
    // Nobody has read anything while a record is being loaded.
    if (!this.over && this.tracks.computed === 0 && this.gatherings.none && this.orders.none)
      return;
    const roots = this.store.rootsOf(kind, id, held, row);
    this.hear({ kind, id, before: held, after: row, roots });
  }

  /** What was computed from a row that alters no longer holds. */
  private hear(altered: Altered): void {
    if (this.over) {
      this.over.altered.push(altered);
      this.tracks.collect(altered, this.over.stale);
      this.kept.clear();
      this.orders.clear();
      return;
    }
    const { kind, id, before, after } = altered;
    this.tracks.wake(altered);
    this.orders.hear(altered);
    this.mended.hear(altered);
    if (before && after) return;
    this.gatherings.rouse(kind, id);
    if (!after) for (const family of this.kept.values()) family.memos.delete(id);
  }
}
