/**
 * How high the fleet stands: for processors, memory, storage and addresses the *tightest* place, since an average hides
 * the one that is about to run over.
 */
import type { Figure } from '../figure/index.js';
import { headroom } from '../host/headroom.js';
import { carries } from '../host/load.js';
import { poolFigures, type PoolFigures } from '../host/pool.js';
import { subnetFigures } from '../network/subnet.js';
import type { Fleet, Kind } from '../record/index.js';

export interface Level {
  resource: 'processors' | 'memory' | 'storage' | 'addresses';
  /** The tightest place, or null while there is none. */
  place: { kind: Kind; id: string; name: string } | null;
  /** Taken share in per cent, with workings. */
  taken: Figure | null;
}

export type Waterline = Level[];

export function waterline(fleet: Fleet): Waterline {
  const hosts = [...fleet.all('host')].filter(carries);
  const level = <T extends { id: string }>(
    resource: Level['resource'],
    kind: Kind,
    rows: Iterable<T>,
    taken: (row: T) => Figure,
    name: (row: T) => string,
  ): Level => {
    let top: { row: T; figure: Figure } | undefined;
    for (const row of rows) {
      const figure = taken(row);
      if (figure.value !== null && (!top || figure.value > top.figure.value!))
        top = { row, figure };
    }
    return top
      ? { resource, place: { kind, id: top.row.id, name: name(top.row) }, taken: top.figure }
      : { resource, place: null, taken: null };
  };
  return [
    level(
      'processors',
      'host',
      hosts,
      (host) => headroom(fleet, host.id).vcpuUsed,
      (host) => host.name,
    ),
    level(
      'memory',
      'host',
      hosts,
      (host) => headroom(fleet, host.id).memoryUsed,
      (host) => host.name,
    ),
    level(
      'storage',
      'pool',
      fleet.all('pool'),
      (pool) => fuller(poolFigures(fleet, pool.id)),
      (pool) => pool.name,
    ),
    level(
      'addresses',
      'subnet',
      fleet.all('subnet'),
      (subnet) => subnetFigures(fleet, subnet.id).taken,
      (subnet) => fleet.need('network', subnet.networkId).name,
    ),
  ];
}

/** A pool is as tight as what it has promised, or as what it really holds, whichever is more. */
const fuller = ({ taken, fill }: PoolFigures): Figure => (fill.value > taken.value ? fill : taken);
