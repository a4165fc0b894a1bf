/** Units that are alike as items, hosts that are alike as kinds: what patterns are made of, and a placing out of them. */
import type { PatternItems } from './patterns.js';
import { needAt, type Limit, type PackingQuestion, type Placing } from './question.js';

export interface HostKind extends PatternItems {
  hosts: number[];
  room: Float64Array;
}

/** A kind of host with only so many of each item. */
export const among = (kind: HostKind, demand: Int32Array): HostKind => ({
  ...kind,
  most: kind.most.map((most, item) => Math.min(most, demand[item]!)),
});

export interface Column {
  kind: number;
  counts: Int32Array;
}

/** Units of which nothing tells them apart, by item. */
export function itemsOf({
  units,
  classes,
  dims,
  need,
  candidates,
  limits,
}: PackingQuestion): number[][] {
  const items = new Map<string, number[]>();
  const sets = new Map<Int32Array, number>();
  const limitsOf = Array.from({ length: units }, (): number[] => []);
  for (const [i, { members }] of limits.entries())
    for (const unit of members) limitsOf[unit]!.push(i);
  for (let unit = 0; unit < units; unit += 1) {
    const set = candidates[unit]!;
    if (!sets.has(set)) sets.set(set, sets.size);
    const needs = need.subarray(unit * classes * dims, (unit + 1) * classes * dims);
    const key = [sets.get(set), needs.join(), limitsOf[unit]!.join()].join('|');
    items.set(key, [...(items.get(key) ?? []), unit]);
  }
  return [...items.values()];
}

/** Hosts that are alike in all that is asked; what each takes is as of its class, rules of single hosts are dimensions. */
export function kindsOfHost(question: PackingQuestion, items: readonly number[][]): HostKind[] {
  const { hosts, dims, room, classOf, candidates, limits } = question;
  const sets = [...new Set(candidates)].map((set) => new Set(set));
  const single = limits.filter(ofSingleHosts);
  const kinds = new Map<string, HostKind>();
  for (let host = 0; host < hosts; host += 1) {
    const own = Float64Array.of(
      ...room.subarray(host * dims, (host + 1) * dims),
      ...single.map(({ most, standing, zoneOf }) => most! - standing[zoneOf[host]!]!),
    );
    const key = [classOf[host], own.join(), sets.map((set) => set.has(host)).join()].join('|');
    const known = kinds.get(key);
    if (known) {
      known.hosts.push(host);
      continue;
    }
    const size = items.flatMap(([unit]) => {
      const from = needAt(question, unit!, host);
      return [
        ...question.need.subarray(from, from + dims),
        ...single.map(({ members }) => Number(members.includes(unit!))),
      ];
    });
    kinds.set(key, {
      hosts: [host],
      room: own,
      count: items.length,
      dims: own.length,
      size: Float64Array.from(size),
      most: Int32Array.from(items, (units) =>
        candidates[units[0]!]!.includes(host) ? units.length : 0,
      ),
    });
  }
  return [...kinds.values()];
}

/** A rule of which each host is a zone of its own. */
const ofSingleHosts = ({ most, zoneOf }: Limit): boolean =>
  most !== null && new Set(zoneOf).size === zoneOf.length;

/** What stands on each host that is used, by item. */
export function contents(at: Placing, items: readonly number[][]): Map<number, Int32Array> {
  const found = new Map<number, Int32Array>();
  for (const [item, units] of items.entries())
    for (const unit of units) {
      const host = at[unit]!;
      if (host < 0) continue;
      if (!found.has(host)) found.set(host, new Int32Array(items.length));
      found.get(host)![item]! += 1;
    }
  return found;
}

export function placingBy(
  question: PackingQuestion,
  items: readonly number[][],
  kinds: readonly HostKind[],
  times: ReadonlyMap<Column, number>,
): Placing {
  const at = new Int32Array(question.units).fill(-1);
  const waiting = items.map((units) => [...units]);
  const free = kinds.map(({ hosts }) => [...hosts]);
  for (const [{ kind, counts }, many] of times)
    for (let n = many; n > 0; n -= 1) {
      const host = free[kind]!.shift();
      if (host === undefined) return at;
      for (const [item, count] of counts.entries())
        for (const unit of waiting[item]!.splice(0, count)) at[unit] = host;
    }
  return at;
}
