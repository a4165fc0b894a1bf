/** What a migration holds on a host and in a pool while a guest is on both sides. */
import { countsOnHost, memoryDemand } from '../host/index.js';
import type { Draft, Fleet, Row } from '../record/index.js';

export function holdHost(
  fleet: Fleet,
  draft: Draft,
  migration: Row<'migration'>,
  guest: Row<'guest'>,
  side: 'source' | 'target',
): void {
  if (!countsOnHost(guest) || migration.sourceHostId === migration.targetHostId) return;
  const hostId = side === 'source' ? migration.sourceHostId : migration.targetHostId;
  if (hostId === null) return;
  const memoryMiB = memoryDemand(fleet, hostId, guest.vcpu, guest.memoryMiB);
  draft.create('hold', {
    migrationId: migration.id,
    side,
    hostId,
    vcpu: guest.vcpu,
    memoryMiB,
    poolId: null,
    bytes: 0,
  });
}

export function holdPool(
  fleet: Fleet,
  draft: Draft,
  migrationId: string,
  side: 'source' | 'target',
  volumeId: string,
  poolId: string,
  until: string | null,
): void {
  draft.create('hold', {
    migrationId,
    side,
    hostId: null,
    vcpu: 0,
    memoryMiB: 0,
    poolId,
    bytes: fleet.need('volume', volumeId).bytes,
    until,
  });
}

export function dropHolds(fleet: Fleet, draft: Draft, migrationId: string): void {
  for (const hold of fleet.referring('hold', 'migrationId', migrationId))
    draft.remove('hold', hold.id);
}
