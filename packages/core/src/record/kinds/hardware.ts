/** Parts of a host that can be pulled out and counted. Sizes in whole bytes (disks) and whole MiB (memory). */
import { choice, flag, initially, integer, mac, name, optional, ref, text } from '../field.js';

export const ARRAY_LEVELS = ['0', '1', '10', '5', '6', '50', '60'] as const;
export const DISK_CLASSES = [
  'consumer disk',
  'enterprise disk',
  'consumer flash',
  'enterprise flash',
] as const;

export const memoryModule = {
  owner: 'hostId',
  fields: { hostId: ref('host'), slot: name(), sizeMiB: integer(1), speed: text() },
} as const;

/** A processor with the memory next to it. */
export const numaNode = {
  owner: 'hostId',
  fields: {
    hostId: ref('host'),
    node: integer(0, 255),
    cores: integer(1, 1024),
    memoryMiB: integer(1),
  },
} as const;

/** Disks bound together for redundancy or speed. Level as in SNIA DDF. */
export const array = {
  owner: 'hostId',
  fields: {
    hostId: ref('host'),
    name: name(),
    level: choice(...ARRAY_LEVELS),
    /** Parity groups of levels 50 and 60. */
    groups: initially(integer(1, 32), 1),
    purpose: choice('boot', 'guests', 'boot and guests', 'other'),
  },
} as const;

export const disk = {
  owner: 'hostId',
  fields: {
    hostId: ref('host'),
    bay: name(),
    model: text(),
    serial: text(),
    bytes: integer(0),
    class: choice(...DISK_CLASSES),
    arrayId: optional(ref('array')),
    /** Belongs to its array without carrying data: takes over when a member dies. */
    spare: flag(),
    /** For a disk outside every array. */
    purpose: initially(choice('none', 'boot', 'guests', 'boot and guests', 'other'), 'none'),
  },
} as const;

/** A host's network port. Speed in bit/s. */
export const port = {
  owner: 'hostId',
  fields: {
    hostId: ref('host'),
    name: name(),
    connector: initially(
      choice('unknown', '8P8C', 'SFP', 'SFP+', 'SFP28', 'QSFP', 'wireless', 'other'),
      'unknown',
    ),
    bitsPerSecond: optional(integer(1)),
    wired: flag(true),
    mac: optional(mac()),
    /** Ports of one card share its fate. */
    card: text(),
    management: flag(),
    /** Where its cable goes, in words. */
    pluggedInto: text(),
    /** The port of a recorded switch that its cable goes to. */
    switchPortId: optional(ref('switchPort')),
    up: flag(true),
  },
} as const;
