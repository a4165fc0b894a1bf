/** The question of some units alone, beside all others as they stand. Costs units + hosts + members of rules. */
import { narrowedTo } from './fewest-hosts.js';
import { needAt, type Limit, type PackingQuestion, type Placing } from './question.js';

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
  const asked = new Float64Array(units.length * classes * all);
  for (const [i, unit] of units.entries())
    for (let one = 0; one < classes; one += 1)
      for (let d = 0; d < all; d += 1)
        if (!dims || dims.includes(d))
          asked[(i * classes + one) * all + d] = need[(unit * classes + one) * all + d]!;
  const open = new Set(Array.from({ length: hosts }, (_, host) => host));
  for (const host of gone) open.delete(host);
  const { candidates } = narrowedTo(question, open);
  return {
    ...question,
    units: units.length,
    need: asked,
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
