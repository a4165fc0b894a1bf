import { standard } from '../figure/index.js';
import { wastedBytes } from '../host/index.js';
import { formatBinary } from '../quantity/index.js';
import { hostRule } from './host-finding.js';

/** Members of unequal size in one array: each counts as the smallest. */
export const mixedDiskSizes = hostRule('mixed-disk-sizes', (fleet, host) =>
  fleet.referring('array', 'hostId', host.id).flatMap((array) => {
    const members = fleet
      .referring('disk', 'arrayId', array.id)
      .filter((disk) => !disk.spare)
      .map((disk) => disk.bytes);
    const wasted = members.length ? wastedBytes(members) : 0;
    if (wasted < 0.01 * Math.min(...members)) return [];
    return [
      {
        at: array.id,
        severity: 'note' as const,
        evidence: `Array ${array.name} of ${host.name} mixes disk sizes: ${formatBinary(wasted)} lie idle.`,
        consequence: 'Every member counts as the smallest one.',
        remedy: 'Replace the smallest disk, or use the large ones elsewhere.',
        source: standard('Patterson, Gibson, Katz, SIGMOD 1988 (members of an array are alike)'),
      },
    ];
  }),
);
