import { own } from '../figure/index.js';
import { poolFigures } from '../host/index.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

const DAYS = 30;

/** Snapshots whose growth fills their pool within a month. */
export const snapshotsFillPool = ruleAt(
  'pool',
  'snapshots-fill-pool',
  (fleet, pool): RuleFinding[] => {
    const snapshots = fleet.referring('snapshot', 'poolId', pool.id);
    const growth = snapshots.reduce((sum, snapshot) => sum + snapshot.growthBytesPerDay, 0);
    if (growth === 0) return [];
    const free = poolFigures(fleet, pool.id).free.value;
    const days = Math.max(0, Math.floor(free / growth));
    if (days > DAYS) return [];
    const names = snapshots
      .filter((snapshot) => snapshot.growthBytesPerDay > 0)
      .map((snapshot) => `${snapshot.name} of ${fleet.need('guest', snapshot.guestId).name}`);
    return [
      {
        severity: days <= 7 ? 'blocker' : 'caution',
        evidence: `Snapshots on ${pool.name} grow by ${(growth / 1e9).toFixed(1)} GB a day together: ${names.join(', ')}.`,
        consequence: `The pool is full in ${days} ${days === 1 ? 'day' : 'days'}; then every guest with a thin volume on it stops at its next write.`,
        remedy: 'Delete those whose work is done.',
        source: own('Free bytes ÷ growth of its snapshots a day, as noted'),
      },
    ];
  },
);
