import { practice } from '../figure/index.js';
import { poolFigures } from '../host/index.js';
import type { Rule } from './finding.js';

/** A pool is fuller than its alarm allows. */
export const poolFillAlarm: Rule<'pool'> = {
  name: 'pool-fill-alarm',
  kind: 'pool',
  look: (fleet, id) => {
    const pool = fleet.need('pool', id);
    if (pool.usableBytes === 0) return [];
    const { fill, free } = poolFigures(fleet, id);
    const share = fill.value;
    // Told as overfull.
    if (free.value < 0) return [];
    if (share < pool.fillAlarmPercent) return [];
    const hostId = fleet.referring('poolReach', 'poolId', id)[0]?.hostId;
    return [
      {
        id: `pool-fill-alarm|${id}`,
        rule: 'pool-fill-alarm',
        severity: share >= 95 ? 'blocker' : 'caution',
        about: { kind: 'pool', id, name: pool.name },
        evidence: `Pool ${pool.name} is ${Math.floor(share)} % full; its alarm stands at ${pool.fillAlarmPercent} %.`,
        consequence:
          'When it is full, every guest with a thin volume on it stops at its next write.',
        remedy: 'Move a volume away, delete snapshots and what is held past its day, or add disks.',
        source: practice('A fill alarm at 80 to 90 %'),
        mend: hostId ? { label: 'Open a host of the pool', kind: 'open', id: hostId } : undefined,
      },
    ];
  },
};
