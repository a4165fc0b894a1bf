/** Pools that a host reaches, the best for a volume first. */
import { poolFigures, poolsOf } from '../host/index.js';
import { homeOf } from '../placement/index.js';
import { type Bytes, formatBinary } from '../quantity/index.js';
import type { Fleet } from '../record/index.js';

export interface PoolRank {
  poolId: string;
  name: string;
  fits: boolean;
  /** The guest can restart elsewhere: the pool does not lie on this host alone. */
  outlives: boolean;
  leftAfterBytes: number;
  sentence: string;
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
