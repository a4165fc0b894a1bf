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

/** An index over another one, which may not alter while this one is used. */
export class LayeredIndex implements Index {
  private readonly own = new Map<string, string[]>();

  constructor(private readonly base: Index) {}

  add(key: string, id: string): void {
    const ids = this.mine(key);
    const at = placeOf(ids.length, (i) => ids[i]! < id);
    if (ids[at] !== id) ids.splice(at, 0, id);
  }

  remove(key: string, id: string): void {
    const ids = this.mine(key);
    const at = placeOf(ids.length, (i) => ids[i]! < id);
    if (ids[at] === id) ids.splice(at, 1);
  }

  get(key: string): readonly string[] {
    return this.own.get(key) ?? this.base.get(key);
  }

  count(key: string): number {
    return this.own.get(key)?.length ?? this.base.count(key);
  }

  private mine(key: string): string[] {
    let ids = this.own.get(key);
    if (!ids) this.own.set(key, (ids = [...this.base.get(key)]));
    return ids;
  }
}
