/**
 * Orders of lists, kept between questions: after a change the rows whose key altered are moved to their new place, which
 * costs a look at each key but no sorting. In a fleet of 50,000 guests that is a tenth.
 */
import type { Fleet, Kind } from '@insel/core';

export type Key = string | number;
interface Order {
  /** Of which fleet: another one was read anew, or is laid over it. */
  fleet: Fleet;
  revision: number;
  ids: string[];
  keys: Map<string, Key>;
}

const MOST_KEPT = 20;
/** Where more rows altered than this, sorting is faster. */
const FEW = 500;

export class OrderCache {
  private readonly kept = new Map<string, Order>();

  /** @param under orders of the fleet that an overlay is laid over: it begins with them */
  constructor(private readonly under?: OrderCache) {}

  /**
   * Ids of rows sorted by a key; rows of equal key stay in the order of the record, which is that of their making.
   * @param query what else the list depends on
   * @param rows those of the list, in the order of the record; asked only if something altered
   */
  ids<R extends { id: string }>(
    fleet: Fleet,
    kind: Kind,
    query: { order?: 'up' | 'down' },
    rows: () => Iterable<R>,
    key: (row: R) => Key,
  ): string[] {
    const name = `${kind}|${JSON.stringify({ ...query, from: 0, take: 0 })}`;
    const held = this.kept.get(name);
    if (held?.fleet === fleet && held.revision === fleet.revision) return held.ids;
    const before = held ?? this.under?.kept.get(name);
    const { ids, keys } = arranged(rows(), key, query.order === 'down' ? -1 : 1, before);
    this.kept.delete(name);
    this.kept.set(name, { fleet, revision: fleet.revision, ids, keys });
    if (this.kept.size > MOST_KEPT) this.kept.delete(this.kept.keys().next().value!);
    return ids;
  }
}

function arranged<R extends { id: string }>(
  rows: Iterable<R>,
  key: (row: R) => Key,
  sign: 1 | -1,
  before: Order | undefined,
): { ids: string[]; keys: Map<string, Key> } {
  const keys = new Map<string, Key>();
  const moved: string[] = [];
  for (const row of rows) {
    const value = key(row);
    keys.set(row.id, value);
    if (before && before.keys.get(row.id) !== value) moved.push(row.id);
  }
  if (!before || moved.length > FEW) return { ids: sorted(keys, sign), keys };
  const stay = moved.length ? new Set(moved) : undefined;
  const ids =
    stay || keys.size !== before.ids.length
      ? before.ids.filter((id) => keys.has(id) && !stay?.has(id))
      : [...before.ids];
  for (const id of moved) ids.splice(placeIn(ids, keys, id, sign), 0, id);
  return { ids, keys };
}

/** Rows are grouped by key first, since the keys of 50,000 guests are often those of their 1,000 hosts. */
function sorted(keys: ReadonlyMap<string, Key>, sign: 1 | -1): string[] {
  const groups = new Map<Key, string[]>();
  for (const [id, value] of keys) {
    const group = groups.get(value);
    if (group) group.push(id);
    else groups.set(value, [id]);
  }
  const inOrder = [...groups.keys()].sort((a, b) => (a < b ? -sign : a > b ? sign : 0));
  // A loop: flatMap takes ten times as long for 50,000.
  const ids: string[] = [];
  for (const value of inOrder) for (const id of groups.get(value)!) ids.push(id);
  return ids;
}

function placeIn(
  ids: readonly string[],
  keys: ReadonlyMap<string, Key>,
  id: string,
  sign: 1 | -1,
): number {
  const value = keys.get(id)!;
  let [low, high] = [0, ids.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    const other = keys.get(ids[middle]!)!;
    const earlier =
      other === value ? ids[middle]! < id : sign === 1 ? other < value : other > value;
    if (earlier) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Ids sorted by a key; rows of equal key stay as they came. */
export const sortedIds = <R extends { id: string }>(
  rows: Iterable<R>,
  key: (row: R) => Key,
  order: 'up' | 'down' = 'up',
): string[] =>
  sorted(new Map(Array.from(rows, (row) => [row.id, key(row)])), order === 'down' ? -1 : 1);
