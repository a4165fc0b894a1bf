import { practice, printValue } from '../figure/index.js';
import type { Row } from '../record/index.js';
import { isOlder } from '../record/index.js';
import { ruleAt, type RuleFinding } from './rule-at.js';

/** Memory is held until acceptance, at most three days; a copy that began so long ago does not run any more. Common practice, no source. */
const MOST_MS = 3 * 86_400_000;

/** Room that a migration holds though nothing comes of it any more. */
export const heldForNothing = ruleAt('migration', 'held-for-nothing', (fleet, migration, now) => {
  const holds = fleet
    .referring('hold', 'migrationId', migration.id)
    .filter(({ vcpu, bytes }) => vcpu > 0 || bytes > 0);
  if (holds.length === 0) return [];
  const guest = fleet.need('guest', migration.guestId);
  const { startedAt, switchedAt, state } = migration;
  const room = roomOf(holds);
  const finding = (evidence: string, remedy: string): RuleFinding[] => [
    {
      severity: 'note',
      about: { kind: 'migration', id: migration.id, name: guest.name },
      evidence,
      consequence: `${room} stay promised to nobody.`,
      remedy,
      source: practice('Room for a move and its way back is held for days, not for weeks'),
    },
  ];
  if (guest.state === 'retired')
    return finding(
      `${guest.name} is retired, and its migration still holds ${room}.`,
      'Erase the disks there and record the deletion.',
    );
  if (state === 'started' && startedAt && isOlder(fleet, startedAt, MOST_MS, now))
    return finding(
      `The move of ${guest.name} began ${startedAt.slice(0, 10)} and has not switched; it holds ${room} at its target.`,
      'Go on with it, or roll it back.',
    );
  if (
    state === 'switched' &&
    switchedAt &&
    holds.some(({ hostId }) => hostId !== null) &&
    isOlder(fleet, switchedAt, MOST_MS, now)
  )
    return finding(
      `${guest.name} switched ${switchedAt.slice(0, 10)} and is not accepted; its way back holds ${room} at its source.`,
      'Accept the migration, or roll it back.',
    );
  return [];
});

/** @example "2 vCPU, 4 GiB of memory and 50 GB of disk" */
function roomOf(holds: readonly Row<'hold'>[]): string {
  const sum = (of: (hold: Row<'hold'>) => number) => holds.reduce((all, hold) => all + of(hold), 0);
  const [vcpu, memory, bytes] = [
    sum((hold) => hold.vcpu),
    sum((hold) => hold.memoryMiB),
    sum((hold) => hold.bytes),
  ];
  const parts = [
    vcpu > 0 ? printValue(vcpu, 'vCPU') : '',
    memory > 0 ? `${printValue(memory, 'MiB')} of memory` : '',
    bytes > 0 ? `${printValue(bytes, 'bytes')} of disk` : '',
  ].filter(Boolean);
  return parts.length > 1 ? `${parts.slice(0, -1).join(', ')} and ${parts.at(-1)}` : parts[0]!;
}
