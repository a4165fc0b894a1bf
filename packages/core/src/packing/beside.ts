/** The question of some units alone, beside all others as they stand. Costs units + hosts + members of rules. */
import { narrowedTo, needAt, type Limit, type PackingQuestion, type Placing } from './question.js';

export interface Beside {
  question: PackingQuestion;
  at: Placing;
  /** Units that are to be placed, in the order that they have in the new question. */
  units: readonly number[];
  /** Hosts on which nothing stands any more. */
  gone?: ReadonlySet<number>;
  /** Room that counts beside that of the question, by host and dimension. */
  more?: Float64Array;
  /** Dimensions that are asked for; left out: all. */
  dims?: readonly number[];
}

export function beside({
  question,
  at,
  units,
  gone = new Set(),
  more,
  dims,
}: Beside): PackingQuestion {
  const { classes, need, hosts, dims: all } = question;
  const numberOf = new Map(units.map((unit, i) => [unit, i]));
  const stays = (unit: number) => at[unit]! >= 0 && !numberOf.has(unit);
  const room = question.room.map((has, i) => has + (more?.[i] ?? 0));
  for (const [unit, on] of at.entries()) {
    if (!stays(unit) || gone.has(on)) continue;
    const from = needAt(question, unit, on);
    for (let d = 0; d < all; d += 1) room[on * all + d]! -= need[from + d]!;
  }
  const demand = new Float64Array(units.length * classes * all);
  for (const [i, unit] of units.entries())
    for (let one = 0; one < classes; one += 1)
      for (let d = 0; d < all; d += 1)
        if (!dims || dims.includes(d))
          demand[(i * classes + one) * all + d] = need[(unit * classes + one) * all + d]!;
  const open = new Set(Array.from({ length: hosts }, (_, host) => host));
  for (const host of gone) open.delete(host);
  const { candidates } = narrowedTo(question, open);
  return {
    ...question,
    units: units.length,
    need: demand,
    room,
    candidates: units.map((unit) => candidates[unit]!),
    limits: question.limits.map((limit): Limit => {
      const standing = limit.standing.slice();
      for (const unit of limit.members) if (stays(unit)) standing[limit.zoneOf[at[unit]!]!]! += 1;
      return {
        ...limit,
        standing,
        members: limit.members.flatMap((unit) => numberOf.get(unit) ?? []),
      };
    }),
  };
}

/**
 * The same question for one host after another, each as if it were gone: what the others have left is counted once for all.
 * Costs units once, then the units of a host and the hosts they may go to.
 */
export function besideEach({
  question,
  at,
  off = new Set(),
  more,
  dims,
}: Omit<Beside, 'units' | 'gone'> & { off?: ReadonlySet<number> }): (host: number) => {
  units: number[];
  question: PackingQuestion;
} {
  const { classes, need, dims: all } = question;
  const unitsOn = new Map<number, number[]>();
  const room = question.room.map((has, i) => has + (more?.[i] ?? 0));
  for (const [unit, on] of at.entries()) {
    if (on < 0) continue;
    const there = unitsOn.get(on);
    if (there) there.push(unit);
    else unitsOn.set(on, [unit]);
    if (off.has(on)) continue;
    const from = needAt(question, unit, on);
    for (let d = 0; d < all; d += 1) room[on * all + d]! -= need[from + d]!;
  }
  const limitsOf = new Map<number, number[]>();
  const standing = question.limits.map(({ members, zoneOf, standing: before }, i) => {
    const counts = before.slice();
    for (const unit of members) {
      if (at[unit]! >= 0) counts[zoneOf[at[unit]!]!]! += 1;
      const held = limitsOf.get(unit);
      if (held) held.push(i);
      else limitsOf.set(unit, [i]);
    }
    return counts;
  });
  const known = new Map<Int32Array, Int32Array>();
  const openOf = (set: Int32Array): Int32Array => {
    const held = known.get(set) ?? (off.size === 0 ? set : set.filter((host) => !off.has(host)));
    known.set(set, held);
    return held;
  };
  return (host) => {
    const units = unitsOn.get(host) ?? [];
    const numberOf = new Map(units.map((unit, i) => [unit, i]));
    const demand = new Float64Array(units.length * classes * all);
    for (const [i, unit] of units.entries())
      for (let one = 0; one < classes; one += 1)
        for (let d = 0; d < all; d += 1)
          if (!dims || dims.includes(d))
            demand[(i * classes + one) * all + d] = need[(unit * classes + one) * all + d]!;
    const left = new Map<Int32Array, Int32Array>();
    const touched = [...new Set(units.flatMap((unit) => limitsOf.get(unit) ?? []))].sort(
      (a, b) => a - b,
    );
    // Nothing stands on it any more: its own room is that of an empty host, and nobody may go there.
    const rooms = room.slice();
    for (let d = 0; d < all; d += 1)
      rooms[host * all + d] = question.room[host * all + d]! + (more?.[host * all + d] ?? 0);
    return {
      units,
      question: {
        ...question,
        units: units.length,
        need: demand,
        room: rooms,
        candidates: units.map((unit) => {
          const set = openOf(question.candidates[unit]!);
          const held = left.get(set) ?? set.filter((one) => one !== host);
          left.set(set, held);
          return held;
        }),
        // Rules that none of them is under bind none of them.
        limits: touched.map((i): Limit => {
          const limit = question.limits[i]!;
          const counts = standing[i]!.slice();
          const members = limit.members.flatMap((unit) => numberOf.get(unit) ?? []);
          counts[limit.zoneOf[host]!]! -= members.length;
          return { ...limit, standing: counts, members };
        }),
      },
    };
  };
}
