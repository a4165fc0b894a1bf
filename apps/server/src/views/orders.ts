/** Lists in an order that the record keeps, and narrowed to what is asked for: that is kept until the record alters. */
import type { Direction, Fleet, Key, Kind, Row } from '@insel/core';

/** The key of a row by the name of a column. */
export type Sorts<K extends Kind> = Readonly<Record<string, (fleet: Fleet, row: Row<K>) => Key>>;

interface ListQuery {
  sort?: string;
  order?: Direction;
  /** Which part of the list is shown. */
  from?: number;
  take?: number;
}

interface Narrowed {
  /** Of which fleet: another one was read anew, or is laid over it. */
  fleet: Fleet;
  revision: number;
  list: readonly { id: string }[];
}

const MOST_KEPT = 20;

export class OrderCache {
  private readonly kept = new Map<string, Narrowed>();

  /**
   * Rows in the order that is asked for; those of equal key in the order of their making.
   * @param usual the column where none is asked for, or one that there is not
   * @param query what else it says narrows the list
   * @param keep which rows are in the list; it reads nothing but the fleet and the query
   */
  sorted<K extends Kind>(
    fleet: Fleet,
    kind: K,
    sorts: Sorts<K>,
    usual: string,
    query: ListQuery,
    keep: (row: Row<K>) => boolean,
  ): readonly { id: string }[] {
    const { sort = usual, order = 'up', from: _, take: __, ...narrow } = query;
    const name = sorts[sort] ? sort : usual;
    const all = fleet.ordered(kind, name, sorts[name]!, order);
    const said = Object.entries(narrow).filter(([, value]) => value !== undefined && value !== '');
    if (said.length === 0) return all;
    const key = JSON.stringify([kind, name, order, said.sort()]);
    // Whoever is given a part of it is told with every change: what it was narrowed by may be anything.
    return fleet.apart(() => {
      const held = this.kept.get(key);
      if (held?.fleet === fleet && held.revision === fleet.revision) return held.list;
      const list = all.filter(({ id }) => keep(fleet.need(kind, id)));
      this.kept.delete(key);
      this.kept.set(key, { fleet, revision: fleet.revision, list });
      if (this.kept.size > MOST_KEPT) this.kept.delete(this.kept.keys().next().value!);
      return list;
    });
  }
}
