/**
 * Which host and pool each clone of a batch goes to. One after the other: each sees what those before it take. A host is
 * one where the origin's copy can run: in service, of its architecture, carrying its networks, with a pool for its disks.
 */
import { memoryDemand } from '../guest/demand.js';
import { rankPools } from '../guest/place.js';
import { headroom } from '../host/headroom.js';
import { offersRoom } from '../host/load.js';
import { carriesNetwork, poolFigures, reaches } from '../host/pool.js';
import { processorFit } from '../placement/processor-fit.js';
import type { Fleet, Row } from '../record/index.js';

/**
 * "beside": where the origin is. "room": evenly, each to where most is left. "one a host": in turns. "fill": one host
 * after the other, the origin's first.
 */
export const SPREAD_RULES = ['beside', 'room', 'one a host', 'fill'] as const;
export type SpreadRule = (typeof SPREAD_RULES)[number];

export interface Seat {
  hostId: string;
  /** Null: the pools of the origin's volumes. */
  poolId: string | null;
}

export interface Spreading {
  origin: Row<'guest'>;
  copy: 'full' | 'dependent';
  count: number;
  how: SpreadRule;
  /** Only these hosts; empty: all that can. */
  among: readonly string[];
}

interface Candidate {
  host: Row<'host'>;
  memoryLeft: number;
  vcpuLeft: number;
  demand: number;
  taken: number;
}

/**
 * A seat for each clone; null where no host has room for it any more, with those before it placed. Its cost grows with
 * clones × hosts.
 */
export function spreadClones(fleet: Fleet, asked: Spreading): (Seat | null)[] {
  const { origin, count, how, among } = asked;
  if (how === 'beside')
    return Array.from({ length: count }, () => ({ hostId: origin.hostId, poolId: null }));
  const volumes = fleet.referring('volume', 'guestId', origin.id);
  const bytes = volumes.reduce((sum, volume) => sum + volume.bytes, 0);
  const thin = asked.copy === 'dependent' || volumes.every((volume) => volume.thin);
  const candidates = hostsFor(fleet, asked, volumes).filter(
    ({ host }) => among.length === 0 || among.includes(host.id),
  );
  const promised = new Map<string, number>();
  return Array.from({ length: count }, (): Seat | null => {
    for (const candidate of inOrder(candidates, origin, how)) {
      if (candidate.memoryLeft < candidate.demand || candidate.vcpuLeft < origin.vcpu) continue;
      const poolId = poolFor(fleet, candidate.host, volumes, bytes, {
        dependent: asked.copy === 'dependent',
        thin,
        promised,
      });
      if (poolId === undefined) continue;
      candidate.memoryLeft -= candidate.demand;
      candidate.vcpuLeft -= origin.vcpu;
      candidate.taken += 1;
      for (const volume of volumes) {
        const id = poolId ?? volume.poolId;
        promised.set(id, (promised.get(id) ?? 0) + volume.bytes);
      }
      return { hostId: candidate.host.id, poolId };
    }
    return null;
  });
}

function hostsFor(
  fleet: Fleet,
  { origin, copy }: Spreading,
  volumes: readonly Row<'volume'>[],
): Candidate[] {
  const home = fleet.need('host', origin.hostId);
  const networks = fleet
    .referring('adapter', 'guestId', origin.id)
    .flatMap((adapter) => adapter.networkId ?? []);
  return [...fleet.all('host')]
    .filter(
      (host) =>
        offersRoom(host) &&
        processorFit(origin, home, host, 'stopped').every(
          (point) => point.fits !== false || point.caution,
        ) &&
        networks.every((id) => carriesNetwork(fleet, host.id, id)) &&
        (copy === 'full' || volumes.every((volume) => reaches(fleet, host.id, volume.poolId))),
    )
    .map((host) => {
      const room = headroom(fleet, host.id);
      return {
        host,
        memoryLeft: room.memory.value,
        vcpuLeft: room.vcpu.value,
        demand: memoryDemand(fleet, host.id, origin.vcpu, origin.memoryMiB),
        taken: 0,
      };
    });
}

function inOrder(
  candidates: readonly Candidate[],
  origin: Row<'guest'>,
  how: Exclude<SpreadRule, 'beside'>,
): Candidate[] {
  const byName = (a: Candidate, b: Candidate) =>
    a.host.name.localeCompare(b.host.name, undefined, { numeric: true });
  const byRoom = (a: Candidate, b: Candidate) => b.memoryLeft - a.memoryLeft || byName(a, b);
  const first = ({ host }: Candidate) => Number(host.id === origin.hostId);
  return [...candidates].sort(
    how === 'room'
      ? byRoom
      : how === 'fill'
        ? (a, b) => first(b) - first(a) || byName(a, b)
        : (a, b) => a.taken - b.taken || byRoom(a, b),
  );
}

/** Null: where the origin's volumes lie; undefined: no pool of the host has the room. */
function poolFor(
  fleet: Fleet,
  host: Row<'host'>,
  volumes: readonly Row<'volume'>[],
  bytes: number,
  {
    dependent,
    thin,
    promised,
  }: { dependent: boolean; thin: boolean; promised: ReadonlyMap<string, number> },
): string | null | undefined {
  if (dependent) return null;
  const room = (poolId: string) => {
    const { left, free } = poolFigures(fleet, poolId);
    return (thin ? left.value : Math.min(left.value, free.value)) - (promised.get(poolId) ?? 0);
  };
  const own = [...new Set(volumes.map((volume) => volume.poolId))];
  const same = own.every((id) => reaches(fleet, host.id, id));
  const [only] = own;
  if (same && (own.length !== 1 || room(only!) >= bytes)) return null;
  const best = rankPools(fleet, host.id, bytes, thin ? 'thin' : 'thick')
    .filter((pool) => pool.fits && room(pool.poolId) >= bytes)
    .sort((a, b) => Number(b.outlives) - Number(a.outlives) || room(b.poolId) - room(a.poolId))[0];
  return best?.poolId;
}
