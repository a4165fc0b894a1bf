import type { Board, Placing } from './question.js';

/** One number for units of which neither need, nor hosts, nor rules, nor target tells them apart. */
export function alike({ question, limitsOf }: Board, target: Placing): number[] {
  const { classes, dims, need, candidates } = question;
  const sets = new Map<Int32Array, number>();
  const kinds = new Map<string, number>();
  return Array.from({ length: question.units }, (_, unit) => {
    const hosts = candidates[unit]!;
    if (!sets.has(hosts)) sets.set(hosts, sets.size);
    const all = need.subarray(unit * classes * dims, (unit + 1) * classes * dims);
    const key = [sets.get(hosts), target[unit], limitsOf[unit]!.join('.'), all.join('.')].join('|');
    if (!kinds.has(key)) kinds.set(key, kinds.size);
    return kinds.get(key)!;
  });
}
