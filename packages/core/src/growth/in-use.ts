/** How pools fill by what was measured in them, and when they run out by that. */
import type { Fleet } from '../record/index.js';
import { runsOut, type Growth } from './growth.js';
import type { PlaceLevel } from './levels.js';

/** What was in use of a pool, and when. */
export interface PoolSample {
  poolId: string;
  at: string;
  bytes: number;
}

/** @param samples of each pool the oldest first; without one nothing is known of a pool, and nothing said */
export function growthInUse(fleet: Fleet, samples: readonly PoolSample[], now: string): Growth[] {
  const byPool = new Map<string, PoolSample[]>();
  for (const sample of samples) {
    const held = byPool.get(sample.poolId);
    if (held) held.push(sample);
    else byPool.set(sample.poolId, [sample]);
  }
  return [...byPool].flatMap(([id, found]): Growth[] => {
    const pool = fleet.get('pool', id);
    if (!pool) return [];
    const { name, usableBytes: limit } = pool;
    const points = found.map(({ at, bytes }) => ({ at, taken: bytes, limit }));
    const level: PlaceLevel = {
      resource: 'storage in use',
      place: { kind: 'pool', id, name },
      unit: 'bytes',
      taken: points.at(-1)!.taken,
      limit,
    };
    return [{ ...level, points, runway: runsOut(level, points, now) }];
  });
}
