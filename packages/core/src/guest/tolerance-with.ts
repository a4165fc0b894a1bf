/** What may still fail with a guest more on a host. */
import { type FailureDomain, hostDomains, fatesInWords, fatesOf } from '../placement/index.js';
import { type Context, draftOf, type Fleet } from '../record/index.js';
import type { HostRank } from './place.js';
import { BUDGET, type Placing } from './placing.js';

const LARGEST_GROUP = 24;

/** Whether every host of the group that could fail before still can, with the guest in service on this one. */
export function toleranceWith(
  fleet: Fleet,
  rank: HostRank,
  placing: Placing,
  context: Context,
  before: (domain: FailureDomain) => boolean,
): HostRank['tolerance'] {
  const { groupId } = fleet.need('host', rank.hostId);
  const domains = hostDomains(
    fleet,
    groupId === null ? [rank.hostId] : fleet.idsReferring('host', 'groupId', groupId),
  );
  if (domains.length > LARGEST_GROUP)
    return { answer: 'not asked', sentence: `the group has more than ${LARGEST_GROUP} hosts` };
  if (domains.length < 2) return { answer: 'lost', sentence: 'no other host backs it' };
  const holding = domains.filter(before);
  const draft = draftOf(fleet, context);
  const guestId = draft.create('guest', {
    name: 'the new guest',
    state: 'in service',
    hostId: rank.hostId,
    family: placing.family,
    vcpu: placing.vcpu,
    memoryMiB: placing.memoryMiB,
    processorMode: placing.processorMode,
  });
  const poolId = rank.pools[0]?.poolId;
  if (poolId && placing.bytes > 0)
    draft.create('volume', { guestId, poolId, bytes: placing.bytes, label: 'system', thin: false });
  for (const [position, networkId] of placing.networkIds.entries())
    draft.create('adapter', { guestId, networkId, position });
  const would = fleet.overlay(draft.patches());
  const after = domains.map((domain) => ({
    domain,
    outcome: fatesOf(would, domain, { budget: BUDGET }),
  }));
  const lost = after.find(
    ({ domain, outcome }) => holding.includes(domain) && outcome.answer !== 'all restart',
  );
  const own = after.find(({ domain }) => domain.id === rank.hostId)?.outcome;
  const itself = own?.fates.find(({ guest }) => guest.id === guestId);
  if (own && itself?.onHostId === null)
    return {
      answer: 'lost' as const,
      sentence:
        itself.way === 'waits'
          ? `when ${rank.name} fails it is down, though its disks are intact`
          : `when ${rank.name} fails it does not come back: ${fatesInWords(would, own, context.now)(itself).split(';')[0]}`,
    };
  if (lost)
    return {
      answer: 'lost' as const,
      sentence:
        lost.outcome.answer === 'not settled'
          ? `whether ${lost.domain.name} may still fail is not settled`
          : `${lost.domain.name} could no longer fail without a guest left down`,
    };
  return {
    answer: 'kept' as const,
    sentence: itself?.onHostId
      ? `it restarts on ${fleet.need('host', itself.onHostId).name}; whatever could fail before still can`
      : 'whatever could fail before still can',
  };
}
