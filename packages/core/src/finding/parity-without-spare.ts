import { practice } from '../figure/index.js';
import { formatBoth, TB } from '../quantity/index.js';
import { hostRule } from './host-finding.js';

/** From this size on a rebuild takes long enough for a second disk to fail meanwhile. */
const LARGE = 2 * TB;

/** One parity disk over large disks, and no spare. */
export const parityWithoutSpare = hostRule('parity-without-spare', (fleet, host) =>
  fleet.referring('array', 'hostId', host.id).flatMap((array) => {
    if (array.level !== '5' && array.level !== '50') return [];
    const disks = fleet.referring('disk', 'arrayId', array.id);
    const largest = Math.max(0, ...disks.filter((disk) => !disk.spare).map((disk) => disk.bytes));
    if (largest < LARGE || disks.some((disk) => disk.spare)) return [];
    return [
      {
        at: array.id,
        severity: 'caution' as const,
        evidence: `Array ${array.name} of ${host.name} has one parity disk over disks of ${formatBoth(largest)}, and no spare.`,
        consequence:
          'When a disk fails, the array waits for somebody with a new one, and then for hours of rebuilding during which one more error loses data.',
        remedy: 'Add a hot spare, or choose level 6 or 10 when the host is next emptied.',
        source: practice('Single parity over disks of 2 TB and more wants a spare'),
      },
    ];
  }),
);
