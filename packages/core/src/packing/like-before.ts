/** A placing that is as good as another and closer to what stands: hosts that are alike change their contents. */
import { usedBy, type PackingQuestion, type Placing } from './question.js';

/**
 * Hosts that are alike in everything change their contents, so that as much as can be stays where it is: greedy, by what
 * need not move.
 */
export function likeBefore(
  question: PackingQuestion,
  start: Placing,
  at: Placing,
  costOf: (unit: number) => number,
): Placing {
  const { hosts, dims, room, classOf, candidates, limits } = question;
  const sets = [...new Set(candidates)].map((set) => new Set(set));
  const lookOf = (host: number) =>
    [
      classOf[host],
      ...room.subarray(host * dims, (host + 1) * dims),
      ...sets.map((set) => set.has(host)),
      ...limits.map(({ zoneOf }) => zoneOf[host]),
    ].join();
  const looks = Array.from({ length: hosts }, (_, host) => lookOf(host));
  const stays = new Map<string, { from: number; to: number; cost: number }>();
  for (let unit = 0; unit < question.units; unit += 1) {
    const [from, to] = [at[unit]!, start[unit]!];
    if (from < 0 || to < 0 || looks[from] !== looks[to]) continue;
    const key = `${from} ${to}`;
    const held = stays.get(key) ?? { from, to, cost: 0 };
    held.cost += costOf(unit);
    stays.set(key, held);
  }
  const becomes = new Map<number, number>();
  const taken = new Set<number>();
  for (const { from, to } of [...stays.values()].sort((a, b) => b.cost - a.cost)) {
    if (becomes.has(from) || taken.has(to)) continue;
    becomes.set(from, to);
    taken.add(to);
  }
  for (const from of usedBy(at)) {
    if (becomes.has(from)) continue;
    const free = taken.has(from)
      ? looks.findIndex((look, host) => look === looks[from] && !taken.has(host))
      : from;
    becomes.set(from, free);
    taken.add(free);
  }
  return at.map((host) => (host < 0 ? host : becomes.get(host)!));
}
