/** Searches that are under way, by name: each in a thread of its own, which can be looked at and stopped. */
import { Worker } from 'node:worker_threads';
import type { BatchSolution, Solution } from '@insel/core';
import type { FromSearch, SearchData, SearchProblem, SolutionOf } from './search-thread.js';

interface Search {
  began: number;
  best: Solution | BatchSolution | null;
  stop: () => void;
}

export interface SearchResult<P extends SearchProblem = SearchProblem> {
  solution: SolutionOf<P>;
  /** It was stopped, or its time was spent. */
  cutShort: boolean;
}

const underWay = new Map<string, Search>();
/** More at once would take the processors from everybody else. */
const MOST = 3;
/** What a thread may take beyond its time, to load and to end. */
const GRACE_MS = 3_000;
/** A thread that was told to stop has so long to do so by itself. */
const STOP_MS = 300;

export class TooManySearches extends Error {}
/** It was stopped before anything was found. */
export class NothingFound extends Error {}

export function search<P extends SearchProblem>(
  name: string,
  problem: P,
  seconds: number,
): Promise<SearchResult<P>> {
  // A name that is under way is not begun again: the threads are counted by their names.
  if (underWay.size >= MOST || underWay.has(name)) throw new TooManySearches();
  const stop = new SharedArrayBuffer(4);
  const worker = new Worker(new URL('./search-thread.js', import.meta.url), {
    workerData: { problem, seconds, stop } satisfies SearchData,
  });
  return new Promise((resolve, reject) => {
    let stopped = false;
    const one: Search = {
      began: Date.now(),
      best: null,
      stop: () => {
        stopped = true;
        Atomics.store(new Int32Array(stop), 0, 1);
        setTimeout(() => void worker.terminate(), STOP_MS).unref();
      },
    };
    underWay.set(name, one);
    const late = setTimeout(() => one.stop(), seconds * 1000 + GRACE_MS).unref();
    let done: Solution | BatchSolution | undefined;
    worker.on('message', ({ type, solution }: FromSearch) => {
      one.best = solution;
      if (type === 'done') done = solution;
    });
    worker.on('error', reject);
    worker.on('exit', () => {
      clearTimeout(late);
      underWay.delete(name);
      const solution = done ?? one.best;
      if (solution)
        resolve({ solution: solution as SolutionOf<P>, cutShort: stopped || done === undefined });
      else reject(new NothingFound());
    });
  });
}

export function lookAt(name: string): Pick<Search, 'began' | 'best'> | null {
  return underWay.get(name) ?? null;
}

export function stopSearch(name: string): boolean {
  const one = underWay.get(name);
  one?.stop();
  return one !== undefined;
}
