/**
 * Whether a placing holds, counted anew from the question and nothing else: no search's word is taken for its own answer.
 * Costs units + hosts · dimensions + members of rules.
 */
import { needAt, type PackingQuestion, type Placing } from './question.js';

/** @returns what is wrong with it, in words for a developer; empty where it holds. Units that stand nowhere are not asked of. */
export function faultsOf(question: PackingQuestion, at: Placing): string[] {
  const { units, hosts, dims, need, room, candidates, limits } = question;
  const faults: string[] = [];
  const taken = new Float64Array(hosts * dims);
  for (let unit = 0; unit < units; unit += 1) {
    const host = at[unit]!;
    if (host < 0) continue;
    if (!candidates[unit]!.includes(host)) faults.push(`unit ${unit} may not go to host ${host}`);
    for (let d = 0; d < dims; d += 1)
      taken[host * dims + d]! += need[needAt(question, unit, host) + d]!;
  }
  for (let i = 0; i < taken.length; i += 1)
    if (taken[i]! > 0 && taken[i]! > room[i]!)
      faults.push(`host ${Math.floor(i / dims)} is overfull in dimension ${i % dims}`);
  for (const [i, { members, zoneOf, most, standing }] of limits.entries()) {
    const counts = standing.slice();
    for (const unit of members) if (at[unit]! >= 0) counts[zoneOf[at[unit]!]!]! += 1;
    const used = counts.filter((count) => count > 0);
    if (most === null ? used.length > 1 : newlyOver(counts, standing, most))
      faults.push(`rule ${i} does not hold`);
  }
  return faults;
}

/** What stood too many before is not this placing's fault. */
const newlyOver = (counts: Int32Array, standing: Int32Array, most: number): boolean =>
  counts.some((count, zone) => count > most && count > standing[zone]!);
