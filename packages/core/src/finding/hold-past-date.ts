import { practice, printValue } from '../figure/index.js';
import type { Rule } from './finding.js';
import { isPastDay } from '../record/index.js';

/** Disks kept after a migration are past the day until which they were to be kept. */
export const holdPastDate: Rule<'migration'> = {
  name: 'hold-past-date',
  kind: 'migration',
  look: (fleet, id, now) => {
    const migration = fleet.need('migration', id);
    const guest = fleet.need('guest', migration.guestId);
    return fleet.referring('hold', 'migrationId', id).flatMap((hold) => {
      if (hold.hostId || hold.until === null || !isPastDay(fleet, hold.until, now)) return [];
      const device = fleet.get('device', hold.deviceId);
      const kept = device
        ? `The disks of ${device.name}, which ${guest.name} was,`
        : `${hold.bytes > 0 ? `${printValue(hold.bytes, 'bytes')} of ${guest.name}` : `The disks of ${guest.name}`} on pool ${fleet.need('pool', hold.poolId!).name}`;
      return [
        {
          id: `hold-past-date|${id}|${hold.id}`,
          rule: 'hold-past-date',
          severity: 'note' as const,
          about: { kind: 'migration' as const, id, name: guest.name },
          evidence: `${kept} are kept; they were to be kept until ${hold.until}.`,
          consequence: device
            ? 'What was on it lies there still, for anybody who finds it.'
            : 'The room stays promised to nobody.',
          remedy: device
            ? 'Erase its disks (NIST SP 800-88) and record it.'
            : 'Erase the disks there and record the deletion.',
          source: practice('The source is kept for an agreed time, then its disks are freed'),
          mend: { label: 'Open the migration', kind: 'open' as const, id },
        },
      ];
    });
  },
};
