import { choice, date, flag, integer, optional, ref, time } from '../field.js';
import { described } from './described.js';

export const MIGRATION_STATES = [
  'planned',
  'started',
  'switched',
  'accepted',
  'rolled back',
] as const;

/** A guest's move from one host to another. Sizes in bytes, rates in bit/s, durations in seconds. */
export const migration = {
  fields: {
    guestId: ref('guest'),
    sourceHostId: ref('host'),
    targetHostId: ref('host'),
    state: choice(...MIGRATION_STATES),
    /** Moved while running, or shut down first. */
    running: flag(),
    linkBitsPerSecond: integer(1),
    bytes: integer(0),
    estimateSeconds: optional(integer(0)),
    plannedAt: time(),
    startedAt: optional(time()),
    switchedAt: optional(time()),
    endedAt: optional(time()),
    copySeconds: optional(integer(1)),
    ...described,
  },
};

/** Which pool a volume leaves and which it goes to. */
export const volumeMove = {
  owner: 'migrationId',
  fields: {
    migrationId: ref('migration'),
    volumeId: ref('volume'),
    fromPoolId: ref('pool'),
    toPoolId: ref('pool'),
  },
} as const;

/** Room that a migration keeps on one side: of a host (vCPU, MiB) or of a pool (bytes). */
export const hold = {
  owner: 'migrationId',
  fields: {
    migrationId: ref('migration'),
    side: choice('source', 'target'),
    hostId: optional(ref('host')),
    vcpu: integer(0, 4096),
    memoryMiB: integer(0),
    poolId: optional(ref('pool')),
    bytes: integer(0),
    until: optional(date()),
  },
} as const;
