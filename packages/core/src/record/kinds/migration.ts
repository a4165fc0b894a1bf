import {
  address as ip,
  choice,
  date,
  flag,
  initially,
  integer,
  name,
  optional,
  ref,
  since,
  text,
  texts,
  time,
} from '../field.js';
import { described } from './described.js';

export const MIGRATION_STATES = [
  'planned',
  'started',
  'switched',
  'accepted',
  'rolled back',
] as const;

export const MOVE_METHODS = [
  'running pre-copy',
  'shared storage switched over',
  'block image',
  'intermediate disk',
  'live converter',
  'files only',
  'appliance package',
] as const;

/**
 * A guest's move from one host to another; or a computer's into a guest, or a guest's onto a computer: of each side either
 * the host or the device is said. Sizes in bytes, rates in bit/s, durations in seconds.
 */
export const migration = {
  fields: {
    /** What moves; where a computer moves, what it becomes. */
    guestId: ref('guest'),
    sourceHostId: optional(ref('host')),
    targetHostId: optional(ref('host')),
    sourceDeviceId: since(12, optional(ref('device'))),
    targetDeviceId: since(12, optional(ref('device'))),
    /** A copy, and both stay: each needs an identity of its own. */
    keepsBoth: since(12, flag()),
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
    /** Bytes that were copied when somebody looked last, and when that was. */
    bytesDone: since(9, optional(integer(0))),
    bytesDoneAt: since(9, optional(time())),
    /** How its bytes travel; null: as is usual for what it is. */
    method: since(8, optional(choice(...MOVE_METHODS))),
    /** Memory that the running guest writes, in bytes per second; null: nobody knows. */
    dirtyBytesPerSecond: since(8, optional(integer(0))),
    /** When it may be down for the move. */
    windowFrom: since(8, optional(time())),
    windowUntil: since(8, optional(time())),
    /** What the copying environment is configured with at the sending side, and at the receiving one. */
    copyFromIp: since(13, optional(ip())),
    copyToIp: since(13, optional(ip())),
    /** Nothing of it is done for the time being. */
    pausedAt: since(13, optional(time())),
    pausedWhy: since(13, text(300)),
    ...described,
  },
};

/** Which pool a volume leaves and which it goes to; or of a computer which disk it was, or becomes. */
export const volumeMove = {
  owner: 'migrationId',
  fields: {
    migrationId: ref('migration'),
    volumeId: ref('volume'),
    fromPoolId: optional(ref('pool')),
    toPoolId: optional(ref('pool')),
    computerDiskId: since(12, optional(ref('computerDisk'))),
  },
} as const;

/** What a migration keeps on one side: room of a host (vCPU, MiB) or of a pool (bytes), or a computer whole. */
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
    deviceId: since(12, optional(ref('device'))),
    until: optional(date()),
  },
} as const;

export const MOVE_PHASES = ['before', 'copy', 'switch', 'after'] as const;

/** One step of a migration: at which console, ticked with its time, or failed or skipped with the reason. */
export const moveStep = {
  owner: 'migrationId',
  fields: {
    migrationId: ref('migration'),
    position: integer(0, 255),
    /** What it is, for what looks at steps: "shut-down". */
    key: name(),
    phase: choice(...MOVE_PHASES),
    title: text(300),
    detail: text(4000),
    /** Where it is done. */
    console: choice('source', 'target', 'both', 'elsewhere'),
    /** What it destroys, by name; typed before it is ticked. Empty: nothing. */
    destroys: text(200),
    /** The state of the migration when it is done. */
    becomes: initially(choice('none', 'started', 'switched', 'accepted'), 'none'),
    minutes: initially(integer(0, 100_000), 0),
    state: initially(choice('open', 'done', 'failed', 'skipped'), 'open'),
    at: optional(time()),
    by: text(100),
    remark: text(2000),
  },
} as const;

/** What somebody sees when a move does not come up, or its copy does not run. */
export const SIGNS = [
  'the copying environment gets no address',
  'the receiving side does not find the sender',
  'no disk is seen',
  'the target is refused as smaller',
  'the copy stalls or crawls',
  'read errors',
  'a stop error at its start',
  'no disk to start from is found',
  'the installer starts again',
  'no network',
  'both lost their connection',
  'the desktop fails, text works',
  'it is slower than before',
  'its clock is wrong',
] as const;

/** What somebody found when a sign was seen: a cause that it was, or was not. */
export const moveAnswer = {
  owner: 'migrationId',
  fields: {
    migrationId: ref('migration'),
    sign: choice(...SIGNS),
    /** Its stable name, such as "controller-differs". */
    cause: name(),
    was: flag(),
    at: time(),
    by: text(100),
  },
} as const;

/** What a guest printed of itself, before its move or after it. */
export const moveReading = {
  owner: 'migrationId',
  fields: {
    migrationId: ref('migration'),
    when: choice('before', 'after'),
    takenAt: time(),
    by: text(100),
    /** One "key: value" each. */
    lines: texts(),
  },
} as const;
