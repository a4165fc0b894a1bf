/** Whether the volumes of a guest have their place at the target. */
import { printValue } from '../figure/index.js';
import { poolFigures, reaches } from '../host/index.js';
import { formatBinary, GIB } from '../quantity/index.js';
import type { Fleet, Row } from '../record/index.js';
import type { CheckInput, Check } from './check.js';

/** Common practice, no source: a target disk one GiB larger than the source's full size is advised. */
export const ADVISED_EXTRA_BYTES = GIB;

export function storageChecks(fleet: Fleet, { guest, target, targetPoolId }: CheckInput): Check[] {
  const volumes = fleet.referring('volume', 'guestId', guest.id);
  if (volumes.length === 0)
    return [{ name: 'storage', passed: true, sentence: `${guest.name} has no volume.` }];
  if (targetPoolId === null) {
    return [...new Set(volumes.map((volume) => volume.poolId))].map((poolId) => {
      const pool = fleet.need('pool', poolId).name;
      const passed = reaches(fleet, target.id, poolId);
      return {
        name: 'pool reach',
        passed,
        sentence: passed
          ? `The volumes stay on ${pool}, which ${target.name} reaches.`
          : `${target.name} does not reach pool ${pool}, where the volumes lie.`,
        remedy: 'Choose a pool of the target to move the volumes to.',
        field: 'targetPoolId',
      };
    });
  }
  return [
    ...poolChecks(fleet, target, targetPoolId, volumes),
    ...baseChecks(fleet, targetPoolId, volumes),
  ];
}

function poolChecks(
  fleet: Fleet,
  target: Row<'host'>,
  targetPoolId: string,
  volumes: Row<'volume'>[],
): Check[] {
  const pool = fleet.need('pool', targetPoolId);
  const moved = volumes.filter((volume) => volume.poolId !== targetPoolId);
  const bytesOf = (some: Row<'volume'>[]) => some.reduce((sum, volume) => sum + volume.bytes, 0);
  const needed = bytesOf(moved);
  const thick = bytesOf(moved.filter((volume) => !volume.thin));
  const { left, free, fill } = poolFigures(fleet, targetPoolId);
  const reached = reaches(fleet, target.id, targetPoolId);
  const fillAfter = fill.value + (thick / Math.max(1, pool.usableBytes)) * 100;
  return [
    {
      name: 'pool reach',
      passed: reached,
      sentence: `${target.name} ${reached ? 'reaches' : 'does not reach'} pool ${pool.name}.`,
      remedy: 'Choose a pool that the target reaches.',
      field: 'targetPoolId',
    },
    {
      name: 'size rule',
      passed: left.value >= needed,
      sentence: `Pool ${pool.name} has ${formatBinary(left.value, 'down')} left to promise; the target disk must be at least the source's full size, ${formatBinary(needed, 'up')}.`,
      remedy: 'Choose a pool with more room: the full size must fit, even of a mostly empty disk.',
      figure: left,
      field: 'targetPoolId',
    },
    ...(thick > 0
      ? [
          {
            name: 'real room',
            passed: free.value >= thick,
            sentence: `Pool ${pool.name} has ${formatBinary(free.value, 'down')} really free; ${formatBinary(thick, 'up')} are allocated at once.`,
            remedy: 'Choose a pool with more room, or make the volumes thin.',
            figure: free,
            field: 'targetPoolId',
          },
        ]
      : []),
    {
      name: 'size advised',
      advice: true,
      passed: left.value >= needed + ADVISED_EXTRA_BYTES,
      sentence: `1 GiB more than the full size is advised (common practice, no source).`,
      remedy: 'Make room for 1 GiB more if the tool rounds disks up.',
    },
    {
      name: 'fill alarm',
      advice: true,
      passed: fillAfter < pool.fillAlarmPercent,
      sentence: `Pool ${pool.name} is ${printValue(fill.value, 'percent')} full, ${printValue(fillAfter, 'percent')} afterwards; its alarm stands at ${pool.fillAlarmPercent} %.`,
      remedy: 'Choose a pool with more room, or make some in this one.',
      figure: fill,
    },
  ];
}

/** What shares blocks stays together. */
function baseChecks(fleet: Fleet, targetPoolId: string, volumes: Row<'volume'>[]): Check[] {
  return volumes.flatMap((volume): Check[] => {
    if (volume.poolId === targetPoolId) return [];
    const base = fleet.get('volume', volume.baseId);
    const dependents = fleet.referringCount('volume', 'baseId', volume.id);
    if (!base && dependents === 0) return [];
    const from = fleet.need('pool', volume.poolId).name;
    return [
      {
        name: 'shared blocks',
        passed: false,
        never: Boolean(base),
        sentence: base
          ? `${volume.label} shares the blocks of ${base.label} of ${fleet.need('guest', base.guestId).name} on ${from}: elsewhere it holds nothing that can be read.`
          : `${dependents} dependent ${dependents === 1 ? 'clone shares' : 'clones share'} the blocks of ${volume.label} on ${from}.`,
        remedy: base
          ? 'Make it whole first, or leave it where it is.'
          : 'Make the clones whole first.',
        field: 'targetPoolId',
      },
    ];
  });
}
