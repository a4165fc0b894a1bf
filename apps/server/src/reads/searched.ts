/** One search in a worker, asked by whoever looks at it: begun, how far it is, its end, begun anew where the record altered. */
import {
  type BatchSolution,
  counted,
  type Fleet,
  type HourlyUse,
  type RearrangeAsk,
  type RearrangeProblem,
  rearrangeProblem,
  type Solution,
} from '@insel/core';
import type { SearchProblem } from '../computation/search-thread.js';
import {
  NothingFound,
  search,
  type SearchResult,
  TooManySearches,
} from '../computation/searches.js';
import { ProblemException } from '../problem-exception.js';

/** A record that alters while it is searched is asked anew so often. */
export const ATTEMPTS = 3;

export const refused = (field: string, sentence: string): ProblemException =>
  new ProblemException(422, { code: 'rearrange', sentence, field });

export async function searched<P extends SearchProblem>(
  name: string,
  problem: P,
  seconds: number,
): Promise<SearchResult<P>> {
  try {
    return await search(name, problem, seconds);
  } catch (error) {
    if (error instanceof TooManySearches) throw tooMany();
    if (error instanceof NothingFound)
      throw refused('search', 'The search was stopped before it had found anything.');
    throw error;
  }
}

export const tooMany = (): ProblemException =>
  new ProblemException(503, {
    code: 'too-many-searches',
    sentence: 'Three searches are under way, or one of this name.',
    remedy: 'Wait for one of them, or stop it.',
  });

/** Whether what was asked is another question by now. */
export function altered(
  fleet: Fleet,
  ask: RearrangeAsk,
  use: readonly HourlyUse[] | undefined,
  before: RearrangeProblem,
): boolean {
  const { problem } = rearrangeProblem(fleet, ask, { use });
  return JSON.stringify(problem) !== JSON.stringify(before);
}

export function soFar(best: Solution | BatchSolution): string {
  const without = best.stuck.length > 0 ? `, ${best.stuck.length} without a place` : '';
  if ('placed' in best) return `${counted(best.moves.length, 'guest')} placed${without}`;
  const { moves, fewest } = best;
  return `${counted(moves.length, 'move')}${fewest ? `, ${counted(fewest.used, 'host')}` : ''}${without}`;
}
