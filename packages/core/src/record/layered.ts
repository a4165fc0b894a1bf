/** Rows and index entries laid over others that stay as they are: what an overlay is made of. It costs what it alters. */
import type { Index } from './index-map.js';
import { placeOf } from './sorted.js';
import type { Rows } from './table.js';

/** A table over another one, which may not alter while this one is used. */
export class LayeredTable<R extends { readonly id: string }> implements Rows<R> {
  /** Rows that are other here; undefined: gone. */
  private readonly own = new Map<string, R | undefined>();
  /** All rows in their order, made when they are first asked for. */
  private order: R[] | undefined;
  private grown = 0;

  constructor(private readonly base: Rows<R>) {}

  get(id: string): R | undefined {
    return this.own.has(id) ? this.own.get(id) : this.base.get(id);
  }

  get size(): number {
    return this.base.size + this.grown;
  }

  values(): Iterable<R> {
    return (this.order ??= this.merged());
  }

  set(row: R): void {
    if (!this.get(row.id)) this.grown += 1;
    this.own.set(row.id, row);
    this.order = undefined;
  }

  delete(id: string): void {
    if (!this.get(id)) return;
    this.grown -= 1;
    this.own.set(id, undefined);
    this.order = undefined;
  }

  private merged(): R[] {
    const order: R[] = [];
    for (const row of this.base.values()) {
      const here = this.own.has(row.id) ? this.own.get(row.id) : row;
      if (here) order.push(here);
    }
    for (const [id, row] of this.own)
      if (row && !this.base.get(id))
        order.splice(
          placeOf(order.length, (i) => order[i]!.id < id),
          0,
          row,
        );
    return order;
  }
}

/** What is filed under a key here and not below, and the other way round. */
interface Delta {
  added: string[];
  removed: Set<string>;
  /** All ids in their order, made when they are first asked for. */
  merged: string[] | undefined;
}

/** An index over another one, which may not alter while this one is used. */
export class LayeredIndex implements Index {
  private readonly own = new Map<string, Delta>();

  constructor(private readonly base: Index) {}

  add(key: string, id: string): void {
    const delta = this.mine(key);
    delta.merged = undefined;
    if (delta.removed.delete(id)) return;
    delta.added.push(id);
  }

  remove(key: string, id: string): void {
    const delta = this.mine(key);
    delta.merged = undefined;
    const at = delta.added.indexOf(id);
    if (at === -1) delta.removed.add(id);
    else delta.added.splice(at, 1);
  }

  get(key: string): readonly string[] {
    const delta = this.own.get(key);
    return delta ? (delta.merged ??= merged(this.base.get(key), delta)) : this.base.get(key);
  }

  count(key: string): number {
    const delta = this.own.get(key);
    return this.base.count(key) + (delta ? delta.added.length - delta.removed.size : 0);
  }

  private mine(key: string): Delta {
    let delta = this.own.get(key);
    if (!delta) this.own.set(key, (delta = { added: [], removed: new Set(), merged: undefined }));
    return delta;
  }
}

function merged(base: readonly string[], { added, removed }: Delta): string[] {
  const ids = removed.size ? base.filter((id) => !removed.has(id)) : [...base];
  for (const id of added)
    ids.splice(
      placeOf(ids.length, (i) => ids[i]! < id),
      0,
      id,
    );
  return ids;
}
