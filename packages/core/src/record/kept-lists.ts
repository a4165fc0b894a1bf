/** Lists computed from all rows of a kind and kept: gathered by row, or in the order of a key. Of an overlay, those below and what differs. */
import type { Fleet } from './fleet.js';
import { Gatherings, type Gathered } from './gathering.js';
import { KeptAnswers, type Over } from './kept-answers.js';
import type { Kind, Row } from './kinds/index.js';
import { Orders, type Direction, type OrderedIndex } from './ordered.js';
import type { Key } from './sorted-entries.js';
import type { AnyRow } from './store.js';

/** Name of what orders of lists were computed from. */
const ORDERS = 'keys of lists';
export abstract class KeptLists extends KeptAnswers {
  protected readonly gatherings = new Gatherings(this.store, (name) => this.familyOf(name));
  protected readonly orders = new Orders(() => this.familyOf(ORDERS));

  /**
   * Lists computed from each row of a kind, kept for those that are not empty; after a patch only what read the altered
   * rows is computed anew. The first time costs a look at each row.
   * @param compute reads nothing but the fleet that it is handed
   */
  gathered<T>(
    this: Fleet,
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
    this: Fleet,
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
    this: Fleet,
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
   * Does a part of what `gathered` would do: so many rows at most. Gives whether all of them are done.
   * @param now time of asking
   */
  gatherSome(
    this: Fleet,
    kind: Kind,
    name: string,
    compute: (fleet: Fleet, id: string, now: string) => readonly unknown[],
    now: string,
    most: number,
  ): boolean {
    this.gatheredHere(kind, name, compute, now, most);
    return this.familyOf(`${kind}|${name}`).awake!.size === 0;
  }

  protected gatheredHere(
    this: Fleet,
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

  protected gatheredOver(
    this: Fleet,
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
  protected anewOver(
    this: Fleet,
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
}
