import { practice, printValue } from '../figure/index.js';
import { poolFigures } from '../host/pool.js';
import type { Rule } from './finding.js';

/** A pool has promised more than its limit. */
export const poolOverfull: Rule<'pool'> = {
  name: 'pool-overfull',
  kind: 'pool',
  look: (fleet, id) => {
    const { left } = poolFigures(fleet, id);
    if (left.value >= 0) return [];
    const pool = fleet.need('pool', id);
    const hostId = fleet.referring('poolReach', 'poolId', id)[0]?.hostId;
    return [
      {
        id: `pool-overfull|${id}`,
        rule: 'pool-overfull',
        severity: 'blocker',
        about: { kind: 'pool', id, name: pool.name },
        evidence: `Pool ${pool.name} has promised ${printValue(-left.value, 'bytes', 'up')} beyond its limit.`,
        consequence: 'Guests stop, or lose writes, when they fill what they were promised.',
        remedy: 'Move a volume to another pool, delete what is no longer needed, or add disks.',
        source: practice('Promise limit'),
        mend: hostId ? { label: 'Open a host of the pool', kind: 'open', id: hostId } : undefined,
      },
    ];
  },
};
