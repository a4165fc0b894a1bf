/** Whether estimates can be believed: past moves in order of time, planned against actual. */
import { predictedRange } from '../measure/index.js';
import type { Fleet } from '../record/index.js';
import { pastRuns, type PastRun } from './route.js';

export interface Calibration {
  /** The earliest first; `at` is when it was switched over, UTC. */
  runs: (PastRun & { at: string })[];
  /** How many fell into the range that those before them on their method gave; the first of a method has that without history. */
  held: number;
}

/** Of moves that had an estimate. Its cost grows with the square of the moves of one method. */
export function calibration(fleet: Fleet): Calibration {
  const runs = pastRuns(fleet)
    .filter(({ migration }) => (migration.estimateSeconds ?? 0) > 0)
    .map((run) => ({ ...run, at: run.migration.switchedAt ?? run.migration.plannedAt }))
    .sort((a, b) => a.at.localeCompare(b.at));
  const ratios = new Map<string, number[]>();
  let held = 0;
  for (const { past, migration } of runs) {
    const before = ratios.get(past.method) ?? [];
    const ratio = migration.copySeconds! / migration.estimateSeconds!;
    const { low, high } = predictedRange(before);
    held += Number(ratio >= low && ratio <= high);
    ratios.set(past.method, [...before, ratio]);
  }
  return { runs, held };
}
