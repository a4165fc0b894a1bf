/** Entries of an order: sorted once, then each that came or went at its place. */
import type { Run } from './ordered.js';

/** What a row is ordered by; undefined: it is not in the list. Rows of equal key stay in the order of their ids. */
export type Key = string | number;

export interface Entry {
  readonly id: string;
  readonly key: Key | undefined;
  readonly run: Run;
}

/** Rows are grouped by key first, since the keys of 50,000 guests are often those of their 1,000 hosts. */
export function sorted(entries: readonly Entry[], sign: 1 | -1): Entry[] {
  const groups = new Map<Key, Entry[]>();
  for (const entry of entries) {
    const group = groups.get(entry.key!);
    if (group) group.push(entry);
    else groups.set(entry.key!, [entry]);
  }
  const inOrder = [...groups.keys()].sort((a, b) => (a < b ? -sign : a > b ? sign : 0));
  // A loop: flatMap takes ten times as long for 50,000.
  const list: Entry[] = [];
  for (const value of inOrder) for (const entry of groups.get(value)!) list.push(entry);
  return list;
}

/** The list without those that are gone and with those that came, each at its place. */
export function moved(
  list: readonly Entry[],
  came: readonly Entry[],
  gone: readonly Entry[],
  sign: 1 | -1,
): readonly Entry[] {
  if (came.length === 0 && gone.length === 0) return list;
  const cuts = gone.map((entry) => placeIn(list, entry, sign)).sort((a, b) => a - b);
  const pieces: (readonly Entry[])[] = [];
  let from = 0;
  let cut = 0;
  const cutUpTo = (place: number) => {
    for (; cut < cuts.length && cuts[cut]! < place; cut += 1) {
      pieces.push(list.slice(from, cuts[cut]));
      from = cuts[cut]! + 1;
    }
  };
  for (const entry of came.toSorted((a, b) => (isBefore(a, b, sign) ? -1 : 1))) {
    const place = placeIn(list, entry, sign);
    cutUpTo(place);
    pieces.push(list.slice(from, place), [entry]);
    from = place;
  }
  cutUpTo(list.length);
  pieces.push(list.slice(from));
  return ([] as Entry[]).concat(...pieces);
}

const isBefore = (one: Entry, { id, key }: Entry, sign: 1 | -1): boolean =>
  one.key === key ? one.id < id : one.key! < key! === (sign === 1);

/** How many of the list come before it. */
function placeIn(list: readonly Entry[], entry: Entry, sign: 1 | -1): number {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (isBefore(list[middle]!, entry, sign)) low = middle + 1;
    else high = middle;
  }
  return low;
}
