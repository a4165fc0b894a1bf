/** A thread that searches for moves, or for places of new guests: arrays in, better and better answers out. It ends with its question. */
import { parentPort, workerData } from 'node:worker_threads';
import {
  exactlyBy,
  solveBatch,
  solveRearrangement,
  type BatchProblem,
  type BatchSolution,
  type RearrangeProblem,
  type Solution,
} from '@insel/core';
import { loadSolver } from './exact.js';

export type SearchProblem = RearrangeProblem | BatchProblem;
export type SolutionOf<P> = P extends BatchProblem ? BatchSolution : Solution;

export interface SearchData {
  problem: SearchProblem;
  seconds: number;
  /** One number: not 0 where the search is to stop. */
  stop: SharedArrayBuffer;
}
export type FromSearch = { type: 'better' | 'done'; solution: Solution | BatchSolution };

const port = parentPort!;
const { problem, seconds, stop } = workerData as SearchData;
const flag = new Int32Array(stop);
const until = performance.now() + seconds * 1000;
const say = (type: FromSearch['type'], solution: Solution | BatchSolution) =>
  port.postMessage({ type, solution } satisfies FromSearch);

const solve = await loadSolver();
const means = {
  exactly: exactlyBy(solve, seconds / 2),
  ...{ solve, seconds },
  tell: (solution: Solution | BatchSolution) => {
    say('better', solution);
    return Atomics.load(flag, 0) === 0 && performance.now() < until;
  },
};
say('done', 'fresh' in problem ? solveBatch(problem, means) : solveRearrangement(problem, means));
