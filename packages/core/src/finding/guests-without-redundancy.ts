import { counted } from '../quantity/index.js';
import { practice } from '../figure/index.js';
import { poolsOf } from '../host/index.js';
import { hostRule } from './host-finding.js';

/** Guests lie on a single disk, or on an array that survives no failure. */
export const guestsWithoutRedundancy = hostRule('guests-without-redundancy', (fleet, host) =>
  poolsOf(fleet, host.id).flatMap((pool) => {
    const disk = fleet.get('disk', pool.diskId);
    const array = fleet.get('array', pool.arrayId);
    const lies = disk
      ? `a single disk, bay ${disk.bay}`
      : array?.level === '0'
        ? `array ${array.name} of level 0`
        : null;
    if (
      !lies ||
      pool.copies > 1 ||
      (disk ?? array)!.hostId !== host.id ||
      fleet.referringCount('volume', 'poolId', pool.id) === 0
    )
      return [];
    return [
      {
        at: pool.id,
        severity: 'caution' as const,
        evidence: `Pool ${pool.name} of ${host.name} lies on ${lies}, which holds ${counted(fleet.referringCount('volume', 'poolId', pool.id), 'volume')}.`,
        consequence: 'When the disk dies, these guests are as old as their last backup, or gone.',
        remedy: 'Mirror the disk, or move the volumes to a pool that survives a failure.',
        source: practice('Guests lie on storage that survives one disk'),
      },
    ];
  }),
);
