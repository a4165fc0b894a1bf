/**
 * How few hosts can hold all units: no placing uses fewer. The largest of several bounds, each with what it is of. Sources:
 * volume and counting, Martello and Toth, Knapsack Problems, 1990; mixtures of two dimensions and conflicts, Caprara and Toth,
 * Discrete Applied Mathematics 111(3), 2001. Costs units · log units · dimensions² + hosts.
 */
import { leastNeeds, type PackingQuestion } from './question.js';

export interface HostsBound {
  hosts: number;
  /** What binds. */
  by: 'nothing to place' | 'volume' | 'counting' | 'mixture' | 'apart' | 'conflict' | 'patterns';
  /** The dimension, or both of a mixture. */
  dims: number[];
}

/** Parts of the first dimension in a mixture, in tenths. */
const TENTHS = [1, 2, 3, 4, 5, 6, 7, 8, 9];

export function fewestHostsBound(question: PackingQuestion): HostsBound {
  const { units, dims } = question;
  if (units === 0) return { hosts: 0, by: 'nothing to place', dims: [] };
  const least = leastNeeds(question);
  const found: HostsBound[] = [];
  for (let d = 0; d < dims; d += 1) {
    const sizes = Array.from({ length: units }, (_, unit) => least[unit * dims + d]!);
    const rooms = roomsIn(question, d);
    found.push({ hosts: toHold(sum(sizes), rooms), by: 'volume', dims: [d] });
    found.push({ hosts: counting(sizes, rooms), by: 'counting', dims: [d] });
  }
  for (let a = 0; a < dims; a += 1)
    for (let b = a + 1; b < dims; b += 1)
      found.push({ hosts: mixture(question, least, a, b), by: 'mixture', dims: [a, b] });
  found.push({ hosts: apart(question), by: 'apart', dims: [] });
  found.push({ hosts: conflict(question, least), by: 'conflict', dims: [] });
  return found.reduce((best, one) => (one.hosts > best.hosts ? one : best));
}

const sum = (numbers: readonly number[]): number => numbers.reduce((all, one) => all + one, 0);

/** Rooms of one dimension, the largest first. */
const roomsIn = ({ hosts, dims, room }: PackingQuestion, d: number): number[] =>
  Array.from({ length: hosts }, (_, host) => Math.max(0, room[host * dims + d]!)).sort(
    (a, b) => b - a,
  );

/** The fewest of the largest that hold so much; one more than there are where none do. */
function toHold(need: number, rooms: readonly number[]): number {
  if (need <= 0) return 0;
  let held = 0;
  for (const [i, room] of rooms.entries()) if ((held += room) >= need) return i + 1;
  return rooms.length + 1;
}

/** Of units larger than a (q+1)th of the largest host, no host takes more than q. */
function counting(sizes: readonly number[], rooms: readonly number[]): number {
  const largest = rooms[0] ?? 0;
  let best = 0;
  for (let q = 1; q <= 8 && largest > 0; q += 1) {
    const many = sizes.filter((size) => size * (q + 1) > largest).length;
    best = Math.max(best, Math.ceil(many / q));
  }
  return best;
}

/** Two dimensions as one: shares of what the hosts have on average, weighed; what fits in both fits in any mixture. */
function mixture(question: PackingQuestion, least: Float64Array, a: number, b: number): number {
  const { units, hosts, dims, room } = question;
  const mean = [a, b].map((d) => Math.max(1, sum(roomsIn(question, d)) / Math.max(1, hosts)));
  let best = 0;
  for (const tenth of TENTHS) {
    const [wa, wb] = [tenth / 10 / mean[0]!, (1 - tenth / 10) / mean[1]!];
    const need = sum(
      Array.from(
        { length: units },
        (_, unit) => wa * least[unit * dims + a]! + wb * least[unit * dims + b]!,
      ),
    );
    const rooms = Array.from(
      { length: hosts },
      (_, host) =>
        wa * Math.max(0, room[host * dims + a]!) + wb * Math.max(0, room[host * dims + b]!),
    ).sort((one, other) => other - one);
    // What is computed in fractions is rounded down a little, so that it never proves too much.
    best = Math.max(best, toHold(need * (1 - 1e-9), rooms));
  }
  return best;
}

function apart({ limits }: PackingQuestion): number {
  return Math.max(
    0,
    ...limits.map(({ members, most }) => (most === null ? 0 : Math.ceil(members.length / most))),
  );
}

/** Units of which no two fit on any host together, taken one after another, the largest first: each needs a host. */
function conflict(question: PackingQuestion, least: Float64Array): number {
  const { units, dims } = question;
  const largest = Array.from({ length: dims }, (_, d) => roomsIn(question, d)[0] ?? 0);
  const share = (unit: number) =>
    Math.max(...largest.map((room, d) => least[unit * dims + d]! / Math.max(1, room)));
  const order = Array.from({ length: units }, (_, unit) => unit)
    .sort((a, b) => share(b) - share(a))
    .slice(0, 400);
  const chosen: number[] = [];
  for (const unit of order)
    if (
      chosen.every((other) =>
        largest.some((room, d) => least[unit * dims + d]! + least[other * dims + d]! > room),
      )
    )
      chosen.push(unit);
  return chosen.length;
}
