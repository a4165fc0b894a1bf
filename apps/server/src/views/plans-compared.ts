/** Two plans beside each other and beside the record: levels, findings that only one of them brings, what may fail. */
import type { PlanBeside, PlansCompared } from '@insel/contract';
import {
  failureFates,
  findingsBetween,
  findingsMoved,
  hostDomains,
  isRefusal,
  planFleet,
  waterline,
  type Context,
  type Fleet,
  type MovedFinding,
} from '@insel/core';
import { decideDrawn } from './plans.js';
import { lookingIn } from './preview.js';

/** Costs what deciding both plans costs, and tolerance of all hosts three times, of which only what differs is worked out. */
export function plansCompared(
  fleet: Fleet,
  ids: readonly [string, string],
  context: Context,
): PlansCompared {
  const heavy = lookingIn(fleet, true) === 'all';
  const looked = ids.map((id) => {
    const { would, outcomes } = planFleet(fleet, id, context, decideDrawn);
    return { id, would, outcomes, moved: findingsMoved(would, context.now, heavy) };
  });
  const [one, other] = looked as [(typeof looked)[0], (typeof looked)[0]];
  const beside = (mine: typeof one, yours: typeof one): PlanBeside => ({
    id: mine.id,
    name: fleet.need('plan', mine.id).name,
    steps: mine.outcomes.length,
    refused: mine.outcomes.filter(({ decision }) => isRefusal(decision)).length,
    after: waterline(mine.would),
    ...findingsBetween(mine.would, withoutMine(mine.moved, yours.moved), mine.moved, context.now),
    mayFail: hostsThatMayFail(mine.would).may,
  });
  const { may, hosts } = hostsThatMayFail(fleet);
  return {
    now: { levels: waterline(fleet), mayFail: may, hosts },
    one: beside(one, other),
    other: beside(other, one),
  };
}

/** What both move alike is not told of either. */
const withoutMine = (
  mine: ReadonlyMap<string, MovedFinding>,
  yours: ReadonlyMap<string, MovedFinding>,
): Map<string, MovedFinding> => new Map([...mine].filter(([id]) => yours.has(id)));

function hostsThatMayFail(fleet: Fleet): { may: number; hosts: number } {
  const hosts = hostDomains(
    fleet,
    Array.from(fleet.all('host'), ({ id }) => id),
  );
  const may = hosts.filter((host) => failureFates(fleet, host).answer === 'all restart');
  return { may: may.length, hosts: hosts.length };
}
