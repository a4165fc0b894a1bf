/**
 * Where a guest of a size can go: every host with the reason why it fits or not, the best first. Best keeps what could
 * fail before, then evens out its group; the person may still choose another.
 */
import { printValue } from '../figure/index.js';
import { cores, headroom, offersRoom, carriesNetwork, memoryDemand } from '../host/index.js';
import { formatMemory } from '../quantity/index.js';
import { type Context, type Fleet, type Row } from '../record/index.js';
import {
  heldBefore,
  levelReason,
  type PlaceReason,
  platformReason,
  rulesReason,
} from './place-reasons.js';
import { type Placing } from './placing.js';
import { type PoolRank, rankPools } from './rank-pools.js';
import { toleranceWith } from './tolerance-with.js';

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
