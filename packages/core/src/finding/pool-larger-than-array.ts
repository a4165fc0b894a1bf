import { standard } from '../figure/index.js';
import { arrayFault, usableBytes, poolsOf } from '../host/index.js';
import { formatBinary } from '../quantity/index.js';
import { hostRule } from './host-finding.js';

/** A pool is recorded larger than what it lies on. */
export const poolLargerThanArray = hostRule('pool-larger-than-array', (fleet, host) =>
  poolsOf(fleet, host.id).flatMap((pool) => {
    const array = fleet.get('array', pool.arrayId);
    const disk = fleet.get('disk', pool.diskId);
    if ((array ?? disk)?.hostId !== host.id) return [];
    const members = array
      ? fleet
          .referring('disk', 'arrayId', array.id)
          .filter((found) => !found.spare)
          .map((found) => found.bytes)
      : [];
    if (array && arrayFault(array.level, members, array.groups)) return [];
    const has = array ? usableBytes(array.level, members, array.groups) : disk!.bytes;
    if (pool.usableBytes <= has) return [];
    return [
      {
        at: pool.id,
        severity: 'caution' as const,
        evidence: `Pool ${pool.name} of ${host.name} is recorded with ${formatBinary(pool.usableBytes)}, but ${array ? `array ${array.name}` : `disk ${disk!.bay}`} has ${formatBinary(has, 'down')}.`,
        consequence: 'Guests are planned on room that is not there.',
        remedy:
          'Correct the usable size of the pool; decimal and binary units are often confused here.',
        source: standard(
          'Usable size of an array: Chen et al., ACM Computing Surveys 26(2), 1994; units: IEC 80000-13',
        ),
      },
    ];
  }),
);
