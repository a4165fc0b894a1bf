/** A second count of a schedule, by none of the code that made it. */
import type { Work } from './work.js';

/** What is wrong with a schedule, counted anew minute by minute of change; empty where it holds. */
export function faultsOfSchedule(
  works: readonly Work[],
  starts: readonly (number | null)[],
  from: number,
): string[] {
  const faults: string[] = [];
  const span = (i: number): [number, number] => [starts[i]!, starts[i]! + works[i]!.minutes];
  const placed = [...works.keys()].filter((i) => starts[i] !== null);
  for (const i of placed) {
    if (works[i]!.at !== undefined) continue;
    const [begins, ends] = span(i);
    if (begins < from) faults.push(`work ${i} begins too early`);
    if (!works[i]!.windows.some(([a, b]) => begins >= a && ends <= b))
      faults.push(`work ${i} is in no window of its own`);
    for (const before of works[i]!.after)
      if (starts[before] !== null && span(before)[1] > begins)
        faults.push(`work ${i} does not wait for ${before}`);
    for (const { key, most } of works[i]!.uses) {
      const there = placed.filter((other) => {
        const [a, b] = span(other);
        return a <= begins && b > begins && works[other]!.uses.some((use) => use.key === key);
      });
      const allowed = Math.min(
        most,
        ...there.map((other) => works[other]!.uses.find((use) => use.key === key)!.most),
      );
      if (there.length > allowed) faults.push(`too many use ${key} when work ${i} begins`);
    }
  }
  return faults;
}
