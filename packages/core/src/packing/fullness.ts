/**
 * How full hosts are, in per cent of what they have, by the scarcer of memory and processors: of what units were given, or of
 * what they use in each hour of a day. Costs, per question, what is counted of one host.
 */
import { leastNeeds, needAt, type PackingQuestion, type Placing } from './question.js';

export interface Fullness {
  /** How many shares a host has: one, or one for each hour. */
  hours: number;
  /** Share of a host in an hour as it stands, or with units more or less. */
  share: (
    host: number,
    hour: number,
    units?: readonly (readonly [unit: number, by: 1 | -1])[],
  ) => number;
  move: (unit: number, from: number, to: number) => void;
  /** No placing has a fullest host below this: what all hosts together are. */
  bound: number;
}

interface Counted {
  /** Numbers of a host in the arrays, how many of them are counted, in how many hours. */
  stride: number;
  counted: number;
  hours: number;
  has: Float64Array;
  taken: Float64Array;
  need: Float64Array;
  /** Where the needs of a unit on a host begin. */
  at: (unit: number, host: number) => number;
}

function fullnessOf({
  stride,
  counted,
  hours,
  has,
  taken,
  need,
  at,
}: Counted): Omit<Fullness, 'bound'> {
  const each = counted / hours;
  return {
    hours,
    share(host, hour, units = []) {
      let most = 0;
      for (let d = hour * each; d < (hour + 1) * each; d += 1) {
        const i = host * stride + d;
        let sum = taken[i]!;
        for (const [unit, by] of units) sum += by * need[at(unit, host) + d]!;
        if (has[i]! > 0) most = Math.max(most, (sum / has[i]!) * 100);
      }
      return most;
    },
    move(unit, from, to) {
      for (let d = 0; d < counted; d += 1) {
        taken[from * stride + d]! -= need[at(unit, from) + d]!;
        taken[to * stride + d]! += need[at(unit, to) + d]!;
      }
    },
  };
}

/**
 * By memory and processors that units were given.
 * @param kept what is kept free on purpose: it counts as free
 */
export function givenFullness(
  question: PackingQuestion,
  start: Placing,
  has: Float64Array,
  kept: Float64Array,
): Fullness {
  const { dims, room, need, units, hosts } = question;
  const counted = Math.min(2, dims);
  const taken = room.map((left, i) => has[i]! - kept[i]! - left);
  const least = leastNeeds(question);
  let bound = 0;
  for (let d = 0; d < counted; d += 1) {
    let [sum, total] = [0, 0];
    for (let host = 0; host < hosts; host += 1) {
      total += has[host * dims + d]!;
      sum += taken[host * dims + d]!;
    }
    for (let unit = 0; unit < units; unit += 1) sum += least[unit * dims + d]!;
    if (total > 0) bound = Math.max(bound, (sum / total) * 100);
  }
  const at = (unit: number, host: number) => needAt(question, unit, host);
  for (const [unit, host] of start.entries())
    for (let d = 0; host >= 0 && d < dims; d += 1)
      taken[host * dims + d]! += need[at(unit, host) + d]!;
  return { ...fullnessOf({ stride: dims, counted, hours: 1, has, taken, need, at }), bound };
}

/** What units use in each hour, measured: `ofUnit[unit · dims + hour · (dims / hours) + dim]`, and what hosts have of it. */
export interface Use {
  dims: number;
  hours: number;
  ofUnit: Float64Array;
  has: Float64Array;
}

export function usedFullness({ dims, hours, ofUnit, has }: Use, start: Placing): Fullness {
  const taken = new Float64Array(has.length);
  const [sum, total] = [new Float64Array(dims), new Float64Array(dims)];
  for (let i = 0; i < has.length; i += 1) total[i % dims]! += has[i]!;
  for (const [unit, host] of start.entries())
    for (let d = 0; host >= 0 && d < dims; d += 1) {
      taken[host * dims + d]! += ofUnit[unit * dims + d]!;
      sum[d]! += ofUnit[unit * dims + d]!;
    }
  const bound = sum.reduce(
    (most, one, d) => (total[d]! > 0 ? Math.max(most, (one / total[d]!) * 100) : most),
    0,
  );
  const at = (unit: number) => unit * dims;
  return {
    ...fullnessOf({ stride: dims, counted: dims, hours, has, taken, need: ofUnit, at }),
    bound,
  };
}
