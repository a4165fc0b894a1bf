/** A thread that searches for moves: arrays in, better and better answers out. It ends with its question. */
import { parentPort, workerData } from 'node:worker_threads';
import { exactlyBy, solveRearrangement, type RearrangeProblem, type Solution } from '@insel/core';
import { loadSolver } from './exact.js';

export interface SearchData {
  problem: RearrangeProblem;
  seconds: number;
  /** One number: not 0 where the search is to stop. */
  stop: SharedArrayBuffer;
}
export type FromSearch = { type: 'better' | 'done'; solution: Solution };

const port = parentPort!;
const { problem, seconds, stop } = workerData as SearchData;
const flag = new Int32Array(stop);
const until = performance.now() + seconds * 1000;
const say = (message: FromSearch) => port.postMessage(message);

const solve = await loadSolver();
say({
  type: 'done',
  solution: solveRearrangement(problem, {
    exactly: exactlyBy(solve, seconds / 2),
    solve,
    seconds,
    tell: (solution) => {
      say({ type: 'better', solution });
      return Atomics.load(flag, 0) === 0 && performance.now() < until;
    },
  }),
});
