/**
 * Cheap proofs that a question has no answer: a unit that is larger than every host it may go to; sums that are larger than
 * what the hosts of a candidate set have; fewer places than units (a counting bound after Martello and Toth, Knapsack
 * Problems, 1990); more units that lie apart than zones; less than is needed once each host is filled as far as sizes can
 * fill it. Costs sets² · hosts + units · hosts, and up to 20,000 sums a host.
 */
import { Board, leastNeeds, type PackingQuestion } from './question.js';

/** The name of the proof, or null: that none was found proves nothing. */
export type Proof = 'a unit' | 'sums' | 'places' | 'apart' | 'gaps';

export function proofAgainst(question: PackingQuestion): Proof | null {
  const { units, candidates } = question;
  const board = new Board(question);
  for (let unit = 0; unit < units; unit += 1)
    if (!candidates[unit]!.some((host) => board.fits(unit, host))) return 'a unit';
  const sets = [...new Set(candidates)];
  if (sets.length > MOST_SETS) sets.length = MOST_SETS;
  const least = leastNeeds(question);
  for (const set of sets) {
    const inside = membership(question.hosts, set);
    const mine: number[] = [];
    for (let unit = 0; unit < units; unit += 1)
      if (candidates[unit] === set || candidates[unit]!.every((host) => inside[host]))
        mine.push(unit);
    if (sumsFail(question, set, mine, least)) return 'sums';
    if (placesFail(question, set, mine, least)) return 'places';
    if (gapsFail(question, set, mine, least)) return 'gaps';
  }
  return apartFails(question) ? 'apart' : null;
}

/** Sets of candidates that are looked at. */
const MOST_SETS = 40;

function membership(hosts: number, set: Int32Array): Uint8Array {
  const inside = new Uint8Array(hosts);
  for (const host of set) inside[host] = 1;
  return inside;
}

function sumsFail(
  { dims, room }: PackingQuestion,
  set: Int32Array,
  mine: readonly number[],
  least: Float64Array,
): boolean {
  for (let d = 0; d < dims; d += 1) {
    let [need, has] = [0, 0];
    for (const unit of mine) need += least[unit * dims + d]!;
    for (const host of set) has += Math.max(0, room[host * dims + d]!);
    if (need > has) return true;
  }
  return false;
}

/** No host holds more units than it could of the smallest ones, in any dimension. */
function placesFail(
  { dims, room }: PackingQuestion,
  set: Int32Array,
  mine: readonly number[],
  least: Float64Array,
): boolean {
  const running: Float64Array[] = [];
  for (let d = 0; d < dims; d += 1) {
    const sizes = Float64Array.from(mine, (unit) => least[unit * dims + d]!).sort();
    for (let i = 1; i < sizes.length; i += 1) sizes[i]! += sizes[i - 1]!;
    running.push(sizes);
  }
  let places = 0;
  for (const host of set) {
    let most = mine.length;
    for (let d = 0; d < dims; d += 1)
      most = Math.min(most, countUpTo(running[d]!, Math.max(0, room[host * dims + d]!)));
    places += most;
    if (places >= mine.length) return false;
  }
  return places < mine.length;
}

/** How many of ascending numbers are not above a bound. */
function countUpTo(ascending: Float64Array, bound: number): number {
  let [low, high] = [0, ascending.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ascending[middle]! <= bound) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Sums kept per host, and units looked at: beyond them nothing is proved. */
const MOST_SUMS = 20_000;
const MOST_UNITS = 60;

/** A host cannot be filled further than to the largest sum of sizes that is not above its room. */
function gapsFail(
  { dims, room }: PackingQuestion,
  set: Int32Array,
  mine: readonly number[],
  least: Float64Array,
): boolean {
  if (mine.length > MOST_UNITS) return false;
  for (let d = 0; d < dims; d += 1) {
    const sizes = mine.map((unit) => least[unit * dims + d]!).sort((a, b) => b - a);
    const need = sizes.reduce((sum, one) => sum + one, 0);
    let has = 0;
    for (const host of set) has += fullest(sizes, Math.max(0, room[host * dims + d]!));
    if (need > has) return true;
  }
  return false;
}

function fullest(sizes: readonly number[], bound: number): number {
  const sums = new Set([0]);
  for (const size of sizes) {
    for (const sum of [...sums]) if (sum + size <= bound) sums.add(sum + size);
    if (sums.has(bound) || sums.size > MOST_SUMS) return bound;
  }
  return Math.max(...sums);
}

function apartFails({ limits, candidates }: PackingQuestion): boolean {
  return limits.some(({ members, zoneOf, most, standing }) => {
    if (most === null) return false;
    const zones = new Set<number>();
    for (const unit of members) for (const host of candidates[unit]!) zones.add(zoneOf[host]!);
    let places = 0;
    for (const zone of zones) places += Math.max(0, most - standing[zone]!);
    return places < members.length;
  });
}
