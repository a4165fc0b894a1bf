/** Moving guests among the hosts of a group, and placing new ones: the search, how far it is, and its end. */
import type {
  PatchRoundBody,
  PatchRoundView,
  PlaceBatchBody,
  PlacedBatchView,
  RearrangeBody,
  RearrangedView,
  Searching,
} from '@insel/contract';
import {
  batchProblem,
  GroundMoved,
  layBatch,
  leftBy,
  MOST_MOVES,
  patchRound,
  placedBatch,
  readPattern,
  rearranged,
  rearrangedWith,
  rearrangeProblem,
  roundOrder,
  roundStop,
  stopAsk,
  type BatchProblem,
  type Fleet,
  type HourlyUse,
  type LaidBatch,
  type Patch,
  type RearrangeAsk,
  type RoundStop,
} from '@insel/core';
import { lookAt, stopSearch } from '../computation/searches.js';
import { notFound } from '../problem-exception.js';
import type { Reads } from './read.js';
import { altered, ATTEMPTS, refused, searched, soFar, tooMany } from './searched.js';

export const REARRANGE_READS: Reads<
  'rearranged' | 'patchRound' | 'placedBatch' | 'searching' | 'searchStopped'
> = {
  rearranged: {
    measured: (fleet, { aim, by, groupId }) =>
      aim === 'even' && by === 'used' ? guestsOf(fleet, groupId) : [],
    inWorker: (fleet, body, { now, use }) => found(fleet, askOf(fleet, body), body, now, use),
  },

  patchRound: {
    inWorker: (fleet, body) => round(fleet, body),
  },

  placedBatch: {
    inWorker: (fleet, body) => placed(fleet, body),
  },

  searching: {
    inWorker(_, { search: name }): Searching {
      const one = lookAt(name);
      const since = one ? Math.round((Date.now() - one.began) / 1000) : 0;
      const going = rounds.get(name);
      return {
        underWay: one !== null || going !== undefined,
        since,
        best: one?.best ? soFar(one.best) : null,
        settled: going ? { hosts: going.hosts, of: going.of } : null,
      };
    },
  },

  searchStopped: {
    inWorker(_, { search: name }) {
      const going = rounds.get(name);
      if (going) going.stopped = true;
      return { stopped: stopSearch(name) || going !== undefined };
    },
  },
};

function askOf(fleet: Fleet, body: RearrangeBody): RearrangeAsk {
  ofGroup(fleet, body.groupId, body.emptiedIds, 'emptiedIds');
  if (body.aim === 'empty' && body.emptiedIds.length === 0)
    throw refused('emptiedIds', 'Choose the host that is to be emptied.');
  return body;
}

const guestsOf = (fleet: Fleet, groupId: string | null): string[] =>
  [...fleet.all('host')]
    .filter((host) => host.groupId === groupId)
    .flatMap(({ id }) => fleet.referring('guest', 'hostId', id).map((guest) => guest.id));

function ofGroup(
  fleet: Fleet,
  groupId: string | null,
  hostIds: readonly string[],
  field: string,
): void {
  if (groupId !== null && !fleet.get('hostGroup', groupId)) throw notFound('hostGroup');
  for (const id of hostIds) {
    const host = fleet.get('host', id);
    if (!host) throw notFound('host');
    if (host.groupId !== groupId)
      throw refused(field, `${host.name} is not of this group: its guests have other places.`);
  }
}

async function found(
  fleet: Fleet,
  ask: RearrangeAsk,
  { search: name, seconds }: RearrangeBody,
  now: string,
  use: readonly HourlyUse[] | undefined,
): Promise<RearrangedView> {
  for (let attempt = 1; ; attempt += 1) {
    const { revision } = fleet;
    const { problem, unmovable } = rearrangeProblem(fleet, ask, { use });
    const { solution, cutShort } = await searched(name, problem, seconds);
    if (fleet.revision !== revision && altered(fleet, ask, use, problem)) {
      if (attempt < ATTEMPTS) continue;
      throw new GroundMoved();
    }
    const answer = rearranged(fleet, ask, problem, solution, unmovable);
    return { ...answer, revision: fleet.revision, cutShort };
  }
}

/** Rounds that are under way, by the name of their searches. */
const rounds = new Map<string, { hosts: number; of: number; stopped: boolean }>();

/** Host after host; stopped, it gives those that are settled. A record that alters meanwhile is asked as it was at each stop. */
async function round(fleet: Fleet, body: PatchRoundBody): Promise<PatchRoundView> {
  const { groupId, hostIds, search: name, seconds } = body;
  if (hostIds.length === 0) throw refused('hostIds', 'Choose the hosts that are to be worked at.');
  ofGroup(fleet, groupId, hostIds, 'hostIds');
  if (body.platformId !== null && !fleet.get('platform', body.platformId))
    throw notFound('platform');
  if (rounds.has(name)) throw tooMany();
  const going = { hosts: 0, of: hostIds.length, stopped: false };
  rounds.set(name, going);
  try {
    const stops: RoundStop[] = [];
    const left: Patch[] = [];
    // Laid anew each time: the record may alter while a search is under way.
    const ground = () => (left.length > 0 ? fleet.overlay(left) : fleet);
    for (const id of roundOrder(fleet, hostIds)) {
      if (going.stopped) break;
      const ask = stopAsk(body, id);
      const { problem, unmovable } = rearrangeProblem(ground(), ask);
      const result = await searched(name, problem, seconds).catch((error: unknown) => {
        // Stopped before this host had an answer: those before it have theirs.
        if (going.stopped && stops.length > 0) return null;
        throw error;
      });
      if (!result) break;
      const { solution } = result;
      const there = ground();
      const { answer, patches } = rearrangedWith(there, ask, problem, solution, unmovable);
      stops.push(roundStop(there, body, id, answer));
      left.push(...leftBy(there, body, id, answer, patches));
      going.hosts += 1;
    }
    const cutShort = going.stopped;
    return { ...patchRound(body, stops), revision: fleet.revision, cutShort };
  } finally {
    rounds.delete(name);
  }
}

/** Guests that are to be: laid over the record, placed, and said in its words. */
async function placed(fleet: Fleet, body: PlaceBatchBody): Promise<PlacedBatchView> {
  batchChecked(fleet, body);
  for (let attempt = 1; ; attempt += 1) {
    const { revision } = fleet;
    const question = laidBatch(fleet, body);
    const { solution, cutShort } = await searched(body.search, question.problem, body.seconds);
    // What was laid stands on the fleet as it was: laid anew, it is the same question unless something altered.
    const { laid, problem } = fleet.revision === revision ? question : laidBatch(fleet, body);
    if (
      problem === question.problem ||
      JSON.stringify(problem) === JSON.stringify(question.problem)
    ) {
      const answer = placedBatch(fleet, body, laid, problem, solution);
      return { ...answer, revision: fleet.revision, cutShort };
    }
    if (attempt === ATTEMPTS) throw new GroundMoved();
  }
}

function laidBatch(fleet: Fleet, body: PlaceBatchBody): { laid: LaidBatch; problem: BatchProblem } {
  const laid = layBatch(fleet, body);
  if (!laid) throw refused('groupId', 'No host of this group is in service.');
  return { laid, problem: batchProblem(body, laid) };
}

function batchChecked(fleet: Fleet, { groupId, lots }: PlaceBatchBody): void {
  ofGroup(fleet, groupId, [], 'groupId');
  if (lots.length === 0) throw refused('lots', 'Say which guests are to be placed.');
  const all = lots.reduce((sum, { count }) => sum + count, 0);
  if (all > MOST_MOVES)
    throw refused(
      'lots',
      `${all} guests at once are more than ${MOST_MOVES}: place them in parts.`,
    );
  for (const [i, lot] of lots.entries()) {
    const pattern = readPattern(lot.pattern.trim());
    if (!pattern.ok) throw refused(`lots.${i}.pattern`, pattern.sentence);
    for (const [kind, id] of [
      ['profile', lot.profileId],
      ['guestGroup', lot.guestGroupId],
      ['pool', lot.poolId],
      ...lot.networkIds.map((networkId) => ['network', networkId] as const),
    ] as const)
      if (id !== null && !fleet.get(kind, id)) throw notFound(kind);
  }
}
