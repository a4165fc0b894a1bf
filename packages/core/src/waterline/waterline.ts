/**
 * How high the fleet stands: for processors, memory, storage and addresses the *tightest* place, since an average hides
 * the one that is about to run over.
 */
import type { Figure } from '../figure/index.js';
import { headroom, type Headroom, carries, poolFigures, type PoolFigures } from '../host/index.js';
import { subnetFigures } from '../network/index.js';
import type { Fleet, Kind } from '../record/index.js';

export interface Level {
  resource: 'processors' | 'memory' | 'storage' | 'addresses';
  /** The tightest place, or null while there is none. */
  place: { kind: Kind; id: string; name: string } | null;
  /** Taken share in per cent, with workings. */
  taken: Figure | null;
}

export type Waterline = Level[];

/** The shares of every host, pool and subnet are kept: after a patch only those that it touches are worked out anew. */
export function waterline(fleet: Fleet): Waterline {
  return [
    level(fleet, 'processors', 'host', hostShares, ({ vcpuUsed }) => vcpuUsed),
    level(fleet, 'memory', 'host', hostShares, ({ memoryUsed }) => memoryUsed),
    level(fleet, 'storage', 'pool', poolShares, (figure) => figure),
    level(fleet, 'addresses', 'subnet', subnetShares, (figure) => figure),
  ];
}

const hostShares = (fleet: Fleet, id: string): Headroom[] =>
  carries(fleet.need('host', id)) ? [headroom(fleet, id)] : [];
const poolShares = (fleet: Fleet, id: string): Figure[] => [fuller(poolFigures(fleet, id))];
const subnetShares = (fleet: Fleet, id: string): Figure[] => [subnetFigures(fleet, id).taken];

/** The fullest of them; of two alike the one recorded first. */
function level<T>(
  fleet: Fleet,
  resource: Level['resource'],
  kind: 'host' | 'pool' | 'subnet',
  shares: (fleet: Fleet, id: string) => readonly T[],
  taken: (share: T) => Figure,
): Level {
  let top: { id: string; figure: Figure } | undefined;
  for (const [id, [share]] of fleet.gathered(kind, 'shares', shares)) {
    const figure = taken(share!);
    if (figure.value === null) continue;
    const above = top ? figure.value - top.figure.value! : 1;
    if (above > 0 || (above === 0 && id < top!.id)) top = { id, figure };
  }
  if (!top) return { resource, place: null, taken: null };
  return {
    resource,
    place: { kind, id: top.id, name: nameOf(fleet, kind, top.id) },
    taken: top.figure,
  };
}

/** A subnet goes by the name of its network. */
const nameOf = (fleet: Fleet, kind: 'host' | 'pool' | 'subnet', id: string): string =>
  kind === 'subnet'
    ? fleet.need('network', fleet.need('subnet', id).networkId).name
    : fleet.need(kind, id).name;

/** A pool is as tight as what it has promised, or as what it really holds, whichever is more. */
const fuller = ({ taken, fill }: PoolFigures): Figure => (fill.value > taken.value ? fill : taken);
