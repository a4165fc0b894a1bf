/** Two plans beside each other and beside the record: levels, findings that only one of them brings, what may fail. */
import type { PlanBeside, PlansCompared } from '@insel/contract';
import {
  allFindings,
  failureDomains,
  failureFates,
  isRefusal,
  planFleet,
  waterline,
  type Context,
  type Finding,
  type Fleet,
} from '@insel/core';
import { decideDrawn } from './plans.js';

/** Costs what deciding both plans costs, and tolerance of all hosts three times, of which only what differs is worked out. */
export function plansCompared(
  fleet: Fleet,
  ids: readonly [string, string],
  context: Context,
): PlansCompared {
  const findingsIn = (one: Fleet) =>
    new Map(allFindings(one, context.now).map((finding) => [finding.id, finding]));
  const now = findingsIn(fleet);
  const looked = ids.map((id) => {
    const { would, outcomes } = planFleet(fleet, id, context, decideDrawn);
    return { id, would, outcomes, findings: findingsIn(would) };
  });
  const [one, other] = looked as [(typeof looked)[0], (typeof looked)[0]];
  const beside = (mine: typeof one, yours: typeof one): PlanBeside => ({
    id: mine.id,
    name: fleet.need('plan', mine.id).name,
    steps: mine.outcomes.length,
    refused: mine.outcomes.filter(({ decision }) => isRefusal(decision)).length,
    after: waterline(mine.would),
    appearing: only(mine.findings, (id) => now.has(id) || yours.findings.has(id)),
    vanishing: only(now, (id) => mine.findings.has(id) || !yours.findings.has(id)),
    mayFail: hostsThatMayFail(mine.would, context.now).may,
  });
  const { may, hosts } = hostsThatMayFail(fleet, context.now);
  return {
    now: { levels: waterline(fleet), mayFail: may, hosts },
    one: beside(one, other),
    other: beside(other, one),
  };
}

const only = (findings: ReadonlyMap<string, Finding>, not: (id: string) => boolean): Finding[] =>
  [...findings.values()].filter(({ id }) => !not(id));

function hostsThatMayFail(fleet: Fleet, now: string): { may: number; hosts: number } {
  const hosts = failureDomains(fleet).filter(({ kind }) => kind === 'host');
  const may = hosts.filter((host) => failureFates(fleet, host, now).answer === 'all restart');
  return { may: may.length, hosts: hosts.length };
}
