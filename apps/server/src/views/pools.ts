/** Pools of a host, and the arrays they lie on. */
import type { PoolView, ArrayView } from '@insel/contract';
import {
  type Fleet,
  type MeasuredUse,
  poolFigures,
  type Figure,
  type Row,
  arrayFault,
  optionOf,
} from '@insel/core';
import { namedById } from './common.js';

/** Reads and normal load that an array is judged by until somebody asks otherwise. */
const USUAL = { readShare: 0.7, rebuildShare: 0.5 };

export function poolView(fleet: Fleet, id: string, measured?: MeasuredUse): PoolView {
  const figures = poolFigures(fleet, id, measured);
  const { taken, promisedBytes } = figures;
  const hosts = fleet
    .referring('poolReach', 'poolId', id)
    .map((reach) => namedById(fleet, 'host', reach.hostId));
  const pool = fleet.need('pool', id);
  const ratio: Figure = {
    name: 'promise-ratio',
    title: `Promise ratio, pool ${pool.name}`,
    value: pool.usableBytes > 0 ? promisedBytes / pool.usableBytes : null,
    unit: 'ratio',
    lines: [
      {
        label: 'Promised to volumes, holds and snapshots',
        value: promisedBytes,
        unit: 'bytes',
        operator: '·',
      },
      {
        label: 'Usable',
        value: pool.usableBytes,
        unit: 'bytes',
        operator: '÷',
        from: { kind: 'pool', id },
      },
      {
        label: `Ratio; the limit is ${pool.promiseLimitPercent / 100}`,
        value: pool.usableBytes > 0 ? promisedBytes / pool.usableBytes : null,
        unit: 'ratio',
        operator: '=',
      },
    ],
    sources: taken.sources,
    policy: 'Promise limit of the pool',
  };
  const counts = {
    volumes: fleet.referringCount('volume', 'poolId', id),
    snapshots: fleet.referringCount('snapshot', 'poolId', id),
  };
  return {
    ...pool,
    ...counts,
    ...figures,
    ratio,
    hosts,
    serverGuest: pool.serverGuestId ? namedById(fleet, 'guest', pool.serverGuestId) : null,
  };
}

export const bySlot = (key: 'bay' | 'slot' | 'name') => (a: object, b: object) =>
  String((a as Record<string, unknown>)[key]).localeCompare(
    String((b as Record<string, unknown>)[key]),
    undefined,
    { numeric: true },
  );

export function arrayView(fleet: Fleet, array: Row<'array'>): ArrayView {
  const disks = fleet.referring('disk', 'arrayId', array.id).sort(bySlot('bay'));
  const members = disks.filter((disk) => !disk.spare);
  const bytes = members.map((disk) => disk.bytes);
  const option = arrayFault(array.level, bytes, array.groups)
    ? null
    : optionOf(array.level, bytes, array.groups, {
        diskClass: members[0]!.class,
        spares: disks.length - members.length,
        ...USUAL,
      });
  return { ...array, disks, option };
}
