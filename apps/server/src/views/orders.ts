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
  /** In the order of the record, and in that of the list. */
  inRecord: Entry[];
  inList: Entry[];
}
interface Entry {
  id: string;
  key: Key;
}

const MOST_KEPT = 20;
/** Where more rows altered than this, sorting is faster. */
const FEW = 500;

export class OrderCache {
  private readonly kept = new Map<string, Order>();

  /** @param under orders of the fleet that an overlay is laid over: it begins with them */
  constructor(private readonly under?: OrderCache) {}

  /**
   * Rows sorted by a key; rows of equal key stay in the order of the record, which is that of their making.
   * @param query what else the list depends on
   * @param rows those of the list, in the order of the record; asked only if something altered
   */
  sorted<R extends { id: string }>(
    fleet: Fleet,
    kind: Kind,
    query: { order?: 'up' | 'down' },
    rows: () => Iterable<R>,
    key: (row: R) => Key,
  ): readonly { id: string }[] {
    // It looks for itself which rows altered.
    return fleet.apart(() => this.order(fleet, nameOf(kind, query), query, rows, key));
  }

  private order<R extends { id: string }>(
    fleet: Fleet,
    name: string,
    query: { order?: 'up' | 'down' },
    rows: () => Iterable<R>,
    key: (row: R) => Key,
  ): readonly { id: string }[] {
    const held = this.kept.get(name);
    if (held?.fleet === fleet && held.revision === fleet.revision) return held.inList;
    const before = held ?? this.under?.kept.get(name);
    const order = arranged(rows(), key, query.order === 'down' ? -1 : 1, before);
    this.kept.delete(name);
    this.kept.set(name, { fleet, revision: fleet.revision, ...order });
    if (this.kept.size > MOST_KEPT) this.kept.delete(this.kept.keys().next().value!);
    return order.inList;
  }
}

/** The same whatever the order in which things are asked, and whether the usual ones are said. */
const nameOf = (kind: Kind, query: object): string => {
  const { from: _, take: __, ...asked } = query as Record<string, unknown>;
  const said = { order: 'up', ...asked } as Record<string, unknown>;
  return `${kind}|${JSON.stringify(said, Object.keys(said).sort())}`;
};

/** Both the rows and what was kept of them come in the order of their ids, so that one walk along both finds what altered. */
function arranged<R extends { id: string }>(
  rows: Iterable<R>,
  key: (row: R) => Key,
  sign: 1 | -1,
  before: Order | undefined,
): Pick<Order, 'inRecord' | 'inList'> {
  const held = before?.inRecord ?? [];
  const inRecord: Entry[] = [];
  const came: Entry[] = [];
  const gone = new Set<Entry>();
  let at = 0;
  for (const row of rows) {
    while (at < held.length && held[at]!.id < row.id) gone.add(held[at++]!);
    const value = key(row);
    const old = held[at]?.id === row.id ? held[at++]! : undefined;
    if (old?.key === value) {
      inRecord.push(old);
      continue;
    }
    if (old) gone.add(old);
    const entry = { id: row.id, key: value };
    inRecord.push(entry);
    came.push(entry);
  }
  while (at < held.length) gone.add(held[at++]!);
  if (!before || came.length > FEW) return { inRecord, inList: sorted(inRecord, sign) };
  const inList = gone.size ? before.inList.filter((entry) => !gone.has(entry)) : [...before.inList];
  for (const entry of came) inList.splice(placeIn(inList, entry, sign), 0, entry);
  return { inRecord, inList };
}

/** Rows are grouped by key first, since the keys of 50,000 guests are often those of their 1,000 hosts. */
function sorted(entries: readonly Entry[], sign: 1 | -1): Entry[] {
  const groups = new Map<Key, Entry[]>();
  for (const entry of entries) {
    const group = groups.get(entry.key);
    if (group) group.push(entry);
    else groups.set(entry.key, [entry]);
  }
  const inOrder = [...groups.keys()].sort((a, b) => (a < b ? -sign : a > b ? sign : 0));
  // A loop: flatMap takes ten times as long for 50,000.
  const list: Entry[] = [];
  for (const value of inOrder) for (const entry of groups.get(value)!) list.push(entry);
  return list;
}

function placeIn(list: readonly Entry[], { id, key }: Entry, sign: 1 | -1): number {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    const other = list[middle]!;
    const earlier = other.key === key ? other.id < id : other.key < key === (sign === 1);
    if (earlier) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Rows sorted by a key; those of equal key stay as they came. */
export const sortedRows = <R extends { id: string }>(
  rows: Iterable<R>,
  key: (row: R) => Key,
  order: 'up' | 'down' = 'up',
): readonly { id: string }[] =>
  sorted(
    Array.from(rows, (row) => ({ id: row.id, key: key(row) })),
    order === 'down' ? -1 : 1,
  );
