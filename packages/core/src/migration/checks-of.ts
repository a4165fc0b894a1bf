import type { Fleet, Row } from '../record/index.js';
import { addressChecks } from './address-checks.js';
import { migrationChecks } from './checks.js';
import { type Check } from './check.js';
import { toPhysicalChecks } from './onto-checks.js';
import { fromPhysicalChecks } from './physical-checks.js';
import { reachChecks } from './copy-way.js';
import { methodOf, routeOf } from './route.js';
import { windowChecks } from './window-checks.js';

/** What the record itself answers before a move on it. @param now left out: the age of what was done is not looked at */
export const recordChecks = (fleet: Fleet, migration: Row<'migration'>, now?: string): Check[] => [
  ...checksOfKind(fleet, migration, now),
  ...addressChecks(fleet, migration),
  ...windowChecks(fleet, migration),
];

/** The same, and what the simulator of reachability answers: that draws the wiring of the whole fleet, and is for the worker. */
export const checksOf = (fleet: Fleet, migration: Row<'migration'>, now?: string): Check[] => [
  ...recordChecks(fleet, migration, now),
  ...reachChecks(fleet, migration),
];

function checksOfKind(fleet: Fleet, migration: Row<'migration'>, now?: string): Check[] {
  const guest = fleet.need('guest', migration.guestId);
  const moves = fleet.referring('volumeMove', 'migrationId', migration.id);
  const target = fleet.get('host', migration.targetHostId);
  const method = methodOf(routeOf(fleet, migration));
  const disks = moves.flatMap((move) => {
    const disk = fleet.get('computerDisk', move.computerDiskId);
    const pool = fleet.get('pool', move.toPoolId);
    const volume = fleet.get('volume', move.volumeId);
    return disk && volume ? [{ disk, volume, pool }] : [];
  });
  if (!target)
    return toPhysicalChecks(fleet, {
      guest,
      device: fleet.need('device', migration.targetDeviceId!),
      disks,
      method,
      now,
    });
  if (migration.sourceHostId === null)
    return fromPhysicalChecks(fleet, {
      device: fleet.need('device', migration.sourceDeviceId!),
      target,
      disks: disks.flatMap(({ disk, volume, pool }) =>
        pool ? [{ disk, pool, bytes: volume.bytes, thick: !volume.thin }] : [],
      ),
      vcpu: guest.vcpu,
      memoryMiB: guest.memoryMiB,
      method,
      planned: true,
      now,
    });
  return migrationChecks(fleet, {
    guest,
    target,
    targetPoolId: moves[0]?.toPoolId ?? null,
    running: migration.running,
    now,
  });
}
