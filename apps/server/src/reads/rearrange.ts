/** Moving guests among the hosts of a group: the search, how far it is, and its end. */
import type { RearrangeBody, RearrangedView, Searching } from '@insel/contract';
import {
  counted,
  GroundMoved,
  rearranged,
  rearrangeProblem,
  type Fleet,
  type RearrangeAsk,
  type RearrangeProblem,
  type Solution,
} from '@insel/core';
import {
  lookAt,
  NothingFound,
  search,
  stopSearch,
  TooManySearches,
  type SearchResult,
} from '../computation/searches.js';
import { notFound, ProblemException } from '../http/problem-exception.js';
import type { Reads } from './read.js';

/** A record that alters while it is searched is asked anew so often. */
const ATTEMPTS = 3;

export const REARRANGE_READS: Reads<'rearranged' | 'searching' | 'searchStopped'> = {
  rearranged: {
    inWorker: (fleet, body, { now }) => found(fleet, askOf(fleet, body), body, now),
  },

  searching: {
    inWorker(_, { search: name }): Searching {
      const one = lookAt(name);
      const since = one ? Math.round((Date.now() - one.began) / 1000) : 0;
      return { underWay: one !== null, since, best: one?.best ? soFar(one.best) : null };
    },
  },

  searchStopped: { inWorker: (_, { search: name }) => ({ stopped: stopSearch(name) }) },
};

function askOf(fleet: Fleet, body: RearrangeBody): RearrangeAsk {
  if (body.groupId !== null && !fleet.get('hostGroup', body.groupId)) throw notFound('hostGroup');
  for (const id of body.emptiedIds) {
    const host = fleet.get('host', id);
    if (!host) throw notFound('host');
    if (host.groupId !== body.groupId)
      throw refused(
        'emptiedIds',
        `${host.name} is not of this group: its guests have other places.`,
      );
  }
  if (body.aim === 'empty' && body.emptiedIds.length === 0)
    throw refused('emptiedIds', 'Choose the host that is to be emptied.');
  return body;
}

const refused = (field: string, sentence: string): ProblemException =>
  new ProblemException(422, { code: 'rearrange', sentence, field });

async function found(
  fleet: Fleet,
  ask: RearrangeAsk,
  { search: name, seconds }: RearrangeBody,
  now: string,
): Promise<RearrangedView> {
  for (let attempt = 1; ; attempt += 1) {
    const { revision } = fleet;
    const { problem, unmovable } = rearrangeProblem(fleet, ask);
    const { solution, cutShort } = await searched(name, problem, seconds);
    if (fleet.revision !== revision && altered(fleet, ask, problem)) {
      if (attempt < ATTEMPTS) continue;
      throw new GroundMoved();
    }
    const answer = rearranged(fleet, ask, problem, solution, unmovable, now);
    return { ...answer, revision: fleet.revision, cutShort };
  }
}

async function searched(
  name: string,
  problem: RearrangeProblem,
  seconds: number,
): Promise<SearchResult> {
  try {
    return await search(name, problem, seconds);
  } catch (error) {
    if (error instanceof TooManySearches)
      throw new ProblemException(503, {
        code: 'too-many-searches',
        sentence: 'Three searches are under way, or one of this name.',
        remedy: 'Wait for one of them, or stop it.',
      });
    if (error instanceof NothingFound)
      throw refused('search', 'The search was stopped before it had found anything.');
    throw error;
  }
}

/** Whether what was asked is another question by now. */
function altered(fleet: Fleet, ask: RearrangeAsk, before: RearrangeProblem): boolean {
  const { problem } = rearrangeProblem(fleet, ask);
  return JSON.stringify(problem) !== JSON.stringify(before);
}

const soFar = ({ moves, stuck, fewest }: Solution): string =>
  `${counted(moves.length, 'move')}${fewest ? `, ${counted(fewest.used, 'host')}` : ''}${stuck.length > 0 ? `, ${stuck.length} without a place` : ''}`;
