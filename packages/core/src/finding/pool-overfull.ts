import { practice, printValue } from '../figure/index.js';
import { poolFigures } from '../host/index.js';
import type { Rule } from './finding.js';

/** A pool has set apart more than it holds, or has promised more than its limit. */
export const poolOverfull: Rule<'pool'> = {
  name: 'pool-overfull',
  kind: 'pool',
  look: (fleet, id) => {
    const { left, free } = poolFigures(fleet, id);
    if (left.value >= 0 && free.value >= 0) return [];
    const pool = fleet.need('pool', id);
    const hostId = fleet.referring('poolReach', 'poolId', id)[0]?.hostId;
    const short = free.value < 0;
    return [
      {
        id: `pool-overfull|${id}`,
        rule: 'pool-overfull',
        severity: 'blocker',
        about: { kind: 'pool', id, name: pool.name },
        evidence: short
          ? `Pool ${pool.name} has allocated ${printValue(-free.value, 'bytes', 'up')} more than it holds.`
          : `Pool ${pool.name} has promised ${printValue(-left.value, 'bytes', 'up')} beyond its limit.`,
        consequence: short
          ? 'A volume that is to be made there is not made; what grows stops at its next write.'
          : 'Guests stop, or lose writes, when they fill what they were promised.',
        remedy: 'Move a volume to another pool, delete what is no longer needed, or add disks.',
        source: practice(short ? 'Allocated bytes need real room' : 'Promise limit'),
        mend: hostId ? { label: 'Open a host of the pool', kind: 'open', id: hostId } : undefined,
      },
    ];
  },
};
