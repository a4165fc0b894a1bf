/**
 * Hardware and system of a machine that runs no guests: what moves into a guest, or what a guest moves to. Its place in the
 * network is that of the device it is. Memory in whole MiB, disks in whole bytes; null or "unknown": nobody has looked.
 */
import {
  choice,
  flag,
  initially,
  integer,
  name,
  optional,
  ref,
  text,
  texts,
  time,
} from '../field.js';
import { firmware } from './firmware.js';
import { FAMILIES } from './guest.js';
import { ARCHITECTURES } from './platform.js';

/** What hinders an image of it: it is built anew, replicates, and hands over. */
export const COMPUTER_WORK = [
  'unknown',
  'ordinary',
  'files or finance',
  'directory',
  'certificate authority',
  'replicated database',
  'member of a cluster',
] as const;
export const ENCRYPTIONS = [
  'unknown',
  'none',
  'asks for its key',
  'bound to its security chip',
] as const;
/** Drivers that lie ready for a machine, in the order in which they are wanted. */
export const DRIVERS = ['network', 'controller', 'chipset', 'graphics'] as const;

export const computer = {
  owner: 'deviceId',
  fields: {
    deviceId: ref('device'),
    family: optional(choice(...FAMILIES)),
    work: initially(choice(...COMPUTER_WORK), 'unknown'),
    processorModel: text(),
    architecture: optional(choice(...ARCHITECTURES)),
    sockets: optional(integer(1, 64)),
    coresPerSocket: optional(integer(1, 1024)),
    threadsPerCore: optional(integer(1, 16)),
    memoryMiB: optional(integer(1)),
    serial: text(),
    ...firmware,
    /** Of its disks. The key itself is never recorded, only where it lies. */
    encryption: initially(choice(...ENCRYPTIONS), 'unknown'),
    recoveryKeyKept: text(),
    /** What hangs on it that a guest cannot have: "dongle", "tape drive". */
    attached: texts(),
    licenceTied: initially(choice('unknown', 'no', 'yes'), 'unknown'),
    driversAtHand: texts(),
    /** Last restart that somebody saw go well. */
    restartedAt: optional(time()),
    backupAt: optional(time()),
    restoreProvenAt: optional(time()),
    /** 95th percentile of its processors' use, of all their threads together. */
    cpuP95Percent: optional(integer(0, 100, '%')),
    memoryPeakMiB: optional(integer(1)),
    /** Rack units that it takes; 0: it stands in none. */
    rackHeight: optional(integer(0, 60)),
    drawWatts: optional(integer(1, 100_000)),
  },
} as const;

export const computerDisk = {
  owner: 'deviceId',
  fields: {
    deviceId: ref('device'),
    /** As its system or its bay calls it. */
    bay: name(),
    model: text(),
    serial: text(),
    bytes: integer(1),
    /** Really written, when somebody last looked. */
    usedBytes: optional(integer(0)),
    /** Bytes of a logical sector: 512 or 4096. */
    sectorBytes: optional(integer(512, 65_536, 'bytes')),
    /** It starts from this one. */
    boot: flag(),
    health: initially(choice('unknown', 'good', 'read errors'), 'unknown'),
    /** A member of an array that the machine's own system makes is no disk by itself. */
    layout: initially(choice('unknown', 'plain', 'member of a software array'), 'unknown'),
  },
} as const;
