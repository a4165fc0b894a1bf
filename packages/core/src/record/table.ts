/**
 * The rows of one kind: found by id, and gone through in the order of their ids, whatever the order in which they came,
 * were altered or put back. Ids are UUIDv7, so that this is the order of their making.
 */
import { placeOf } from './sorted.js';

export interface Rows<R extends { readonly id: string }> {
  get(id: string): R | undefined;
  readonly size: number;
  /** By id, from the lowest. */
  values(): Iterable<R>;
  set(row: R): void;
  delete(id: string): void;
}

export class Table<R extends { readonly id: string }> implements Rows<R> {
  private readonly byId = new Map<string, R>();
  private readonly order: R[] = [];

  get(id: string): R | undefined {
    return this.byId.get(id);
  }

  get size(): number {
    return this.byId.size;
  }

  values(): Iterable<R> {
    return this.order;
  }

  set(row: R): void {
    const at = this.placeOf(row.id);
    if (this.byId.has(row.id)) this.order[at] = row;
    else if (at === this.order.length) this.order.push(row);
    else this.order.splice(at, 0, row);
    this.byId.set(row.id, row);
  }

  delete(id: string): void {
    if (this.byId.delete(id)) this.order.splice(this.placeOf(id), 1);
  }

  private placeOf(id: string): number {
    return placeOf(this.order.length, (i) => this.order[i]!.id < id);
  }
}
