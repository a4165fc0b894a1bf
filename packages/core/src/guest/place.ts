/**
 * Where a guest of a size can go: every host with the reason why it fits or not, the best first. Best keeps what could
 * fail before, then evens out its group; the person may still choose another.
 */
import { printValue } from '../figure/index.js';
import { cores } from '../host/capacity.js';
import { headroom } from '../host/headroom.js';
import { offersRoom } from '../host/load.js';
import { poolFigures } from '../host/pool.js';
import { carriesNetwork, poolsOf } from '../host/reached-by.js';
import { homeOf, hostDomains, type FailureDomain } from '../placement/failure.js';
import { fatesInWords } from '../placement/fate-in-words.js';
import { fatesOf } from '../placement/fates.js';
import { formatBinary, formatMemory, type Bytes } from '../quantity/index.js';
import { draftOf, type Context, type Fleet, type Row } from '../record/index.js';
import { memoryDemand } from './demand.js';
import {
  heldBefore,
  levelReason,
  type PlaceReason,
  platformReason,
  rulesReason,
} from './place-reasons.js';
import { BUDGET, type Placing } from './placing.js';

export interface PoolRank {
  poolId: string;
  name: string;
  fits: boolean;
  /** The guest can restart elsewhere: the pool does not lie on this host alone. */
  outlives: boolean;
  leftAfterBytes: number;
  sentence: string;
}

export interface HostRank {
  hostId: string;
  name: string;
  fits: boolean;
  reasons: PlaceReason[];
  /** Best first. */
  pools: PoolRank[];
  memoryTakenAfter: number;
  vcpuTakenAfter: number;
  /** How unequal the hosts of its group would be: standard deviation of what is taken of the scarcer of both, in points of per cent. */
  imbalance: number;
  tolerance: { answer: 'kept' | 'lost' | 'not asked'; sentence: string };
}

/** So many of the fitting hosts are asked what could fail afterwards; failures are looked at in groups up to so many hosts. */
const ASKED = 6;
const LARGEST_GROUP = 24;
export function rankHosts(fleet: Fleet, placing: Placing, context: Context): HostRank[] {
  const hosts = [...fleet.all('host')].filter(
    (host) => host.state !== 'retired' && host.state !== 'failed',
  );
  const ranks = hosts.map((host) => rankOne(fleet, host, placing)).sort(byFit);
  const fitting = ranks.filter((rank) => rank.fits);
  const before = heldBefore(fleet);
  for (const rank of fitting.slice(0, ASKED))
    rank.tolerance = toleranceWith(fleet, rank, placing, context, before);
  return ranks.sort(
    (a, b) =>
      Number(b.fits) - Number(a.fits) ||
      TOLERANCE[a.tolerance.answer] - TOLERANCE[b.tolerance.answer] ||
      byFit(a, b),
  );
}

const TOLERANCE = { kept: 0, 'not asked': 1, lost: 2 };
const misses = (rank: HostRank): number => rank.reasons.filter((reason) => !reason.fits).length;
const byFit = (a: HostRank, b: HostRank): number =>
  misses(a) - misses(b) ||
  a.imbalance - b.imbalance ||
  a.name.localeCompare(b.name, undefined, { numeric: true });

function rankOne(fleet: Fleet, host: Row<'host'>, placing: Placing): HostRank {
  const room = headroom(fleet, host.id);
  const demand = memoryDemand(fleet, host.id, placing.vcpu, placing.memoryMiB);
  const pools = rankPools(fleet, host.id, placing.bytes);
  const missing = placing.networkIds
    .filter((id) => !carriesNetwork(fleet, host.id, id))
    .map((id) => fleet.get('network', id)?.name ?? 'a network');
  const threads = cores(host) * host.threadsPerCore;
  const reasons: PlaceReason[] = [
    {
      check: 'state',
      fits: offersRoom(host),
      sentence: offersRoom(host) ? 'in service' : `${host.state}: it offers no room`,
    },
    placing.vcpu > threads
      ? {
          check: 'processors',
          fits: false,
          sentence: `${placing.vcpu} vCPU are more than its ${threads} threads`,
        }
      : {
          check: 'processors',
          fits: room.vcpu.value >= placing.vcpu,
          sentence: `${printValue(room.vcpu.value, 'vCPU').replace('-', '−')} left, ${placing.vcpu} asked`,
        },
    {
      check: 'memory',
      fits: room.memory.value >= demand,
      sentence: `${formatMemory(room.memory.value, 'down')} left, ${formatMemory(demand, 'up')} asked with overhead`,
    },
    placing.bytes === 0
      ? { check: 'pool', fits: true, sentence: 'it needs no disk' }
      : {
          check: 'pool',
          fits: Boolean(pools[0]?.fits),
          sentence: pools[0] ? `${pools[0].name}: ${pools[0].sentence}` : 'it reaches no pool',
        },
    {
      check: 'networks',
      fits: missing.length === 0,
      sentence: missing.length
        ? `it does not carry ${missing.join(' and ')}`
        : placing.networkIds.length
          ? 'it carries them'
          : 'none asked',
    },
    levelReason(host, placing),
    platformReason(fleet, host, placing),
    rulesReason(fleet, host, placing),
  ];
  const taken = takenAfter(fleet, host.id, placing.vcpu, demand);
  return {
    hostId: host.id,
    name: host.name,
    fits: reasons.every((reason) => reason.fits),
    reasons,
    pools,
    ...taken,
    imbalance: imbalanceWith(fleet, host, Math.max(taken.memoryTakenAfter, taken.vcpuTakenAfter)),
    tolerance: { answer: 'not asked', sentence: '' },
  };
}

function takenAfter(
  fleet: Fleet,
  hostId: string,
  vcpu: number,
  demand: number,
): { memoryTakenAfter: number; vcpuTakenAfter: number } {
  const room = headroom(fleet, hostId);
  const after = (taken: typeof room.memoryUsed, more: number) => {
    const total = taken.lines[1]!.value ?? 0;
    return total > 0 ? taken.value + (more / total) * 100 : 100;
  };
  return {
    memoryTakenAfter: after(room.memoryUsed, demand),
    vcpuTakenAfter: after(room.vcpuUsed, vcpu),
  };
}

function imbalanceWith(fleet: Fleet, host: Row<'host'>, after: number): number {
  const mates = fleet
    .referring('host', host.groupId ? 'groupId' : 'siteId', host.groupId ?? host.siteId ?? '')
    .filter(
      (mate) =>
        mate.id !== host.id && offersRoom(mate) && (host.groupId !== null || mate.groupId === null),
    );
  const shares = [
    after,
    ...mates.map((mate) =>
      Math.max(headroom(fleet, mate.id).memoryUsed.value, headroom(fleet, mate.id).vcpuUsed.value),
    ),
  ];
  const mean = shares.reduce((sum, share) => sum + share, 0) / shares.length;
  return shares.length === 1
    ? after / 2
    : Math.sqrt(shares.reduce((sum, share) => sum + (share - mean) ** 2, 0) / shares.length);
}

/** Pools that a host reaches, the best for so many bytes first: real room for a thick volume, a promise for a thin one. */
export function rankPools(
  fleet: Fleet,
  hostId: string,
  bytes: Bytes,
  how: 'thick' | 'thin' = 'thick',
): PoolRank[] {
  return poolsOf(fleet, hostId)
    .map((pool): PoolRank => {
      const { left, free, fill, limitBytes } = poolFigures(fleet, pool.id);
      const shared = fleet.referringCount('poolReach', 'poolId', pool.id) > 1;
      const outlives = shared && (homeOf(fleet, pool) === null || pool.copies > 1);
      const before = how === 'thin' ? left.value : Math.min(left.value, free.value);
      const after = before - bytes;
      const fits = after >= 0 && limitBytes > 0;
      const fillAfter =
        how === 'thin' ? fill.value : fill.value + (bytes / Math.max(1, pool.usableBytes)) * 100;
      const alarm =
        fits && fillAfter >= pool.fillAlarmPercent
          ? `; ${Math.floor(fillAfter)} % full then, its alarm stands at ${pool.fillAlarmPercent} %`
          : '';
      const room = fits
        ? `${formatBinary(after, 'down')} left afterwards${alarm}`
        : `${formatBinary(Math.max(0, before), 'down')} left, ${formatBinary(bytes, 'up')} asked`;
      return {
        poolId: pool.id,
        name: pool.name,
        fits,
        outlives,
        leftAfterBytes: after,
        sentence: `${room}${outlives ? '; others reach it when the host fails' : ''}`,
      };
    })
    .sort(
      (a, b) =>
        Number(b.fits) - Number(a.fits) ||
        Number(b.outlives) - Number(a.outlives) ||
        b.leftAfterBytes - a.leftAfterBytes ||
        a.name.localeCompare(b.name),
    );
}

/** Whether every host of the group that could fail before still can, with the guest in service on this one. */
function toleranceWith(
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
