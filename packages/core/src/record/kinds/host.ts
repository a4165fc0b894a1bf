import {
  addresses,
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
import { routing } from './device.js';
import { firmware } from './firmware.js';
import { ARCHITECTURES } from './platform.js';
import { workWindow } from './times.js';

export const HOST_STATES = [
  'planned',
  'building',
  'in service',
  'maintenance',
  'failed',
  'retired',
] as const;

const VIDEO_CONNECTORS = [
  'unknown',
  'none',
  'DE-15 analogue',
  'DVI',
  'HDMI',
  'DisplayPort',
  'mini DisplayPort',
  'USB-C',
] as const;

/** Facts about the machine itself: where it stands, what it is made of, how its firmware is set. */
const machine = {
  rackId: optional(ref('rack')),
  /** Lowest unit it takes, counted from the floor. */
  rackUnit: optional(integer(1, 60)),
  rackHeight: initially(integer(1, 20), 1),
  machineModel: text(),
  serial: text(),
  warrantyUntil: optional(date()),
  nextMaintenanceOn: since(7, optional(date())),
  weightKg: optional(integer(1, 500)),
  powerSupplies: initially(integer(0, 8), 1),
  /** Highest draw planned or measured, in watts. */
  drawWatts: optional(integer(1, 100_000)),
  memorySlots: optional(integer(1, 1024)),
  bays: optional(integer(0, 1024)),
  ...firmware,
  videoConnector: initially(choice(...VIDEO_CONNECTORS), 'unknown'),
  passThrough: texts(),
  architecture: initially(choice(...ARCHITECTURES), 'x86-64'),
  baseMhz: optional(integer(1, 100_000)),
  /** Processor flags as Linux spells them, separated by spaces; empty while nobody has looked. */
  flags: text(8000),
  /** x86-64 level taken from a data sheet, where the flags are not known. */
  statedLevel: optional(integer(1, 4)),
  virtualisation: initially(choice('unknown', 'absent', 'switched off', 'on'), 'unknown'),
};

/** What it may do and until when; no key is ever kept here, only where it lies. */
const licence = { licence: text(), licenceUntil: optional(date()), licenceKeyKept: text() };

/** The hypervisor's own place in the network, as configured on the machine. */
const management = {
  domain: text(253),
  timeZone: text(),
  keyboard: text(),
  ...routing,
  nameServers: addresses(),
  consolePort: optional(integer(1, 65_535)),
  /** SHA-256 of the console's certificate: 64 hexadecimal digits, lower case. */
  certificateSha256: text(64),
  certificateUntil: optional(date()),
  /** When its network settings were last altered in the record: verifications before that no longer count. */
  networkChangedAt: optional(time()),
};

/** A machine that runs guests. Memory in whole MiB. */
export const host = {
  fields: {
    name: name(),
    /** Given out by Insel, therefore unique; a name only found somewhere may be double and becomes a finding. */
    nameAssigned: flag(),
    state: choice(...HOST_STATES),
    siteId: optional(ref('site')),
    platformId: ref('platform'),
    purpose: text(),
    processorModel: text(),
    sockets: integer(1, 64),
    coresPerSocket: integer(1, 1024),
    threadsPerCore: integer(1, 16),
    /** Sum of the memory modules. */
    installedMiB: integer(1),
    /** What the running system sees of it (MemTotal); null while nobody has looked. */
    visibleMiB: optional(integer(1)),
    groupId: optional(ref('hostGroup')),
    /** The guest it is, when it runs nested in another host: then its capacity is part of that one's. */
    outerGuestId: optional(ref('guest')),
    /** From power-on until it starts guests, in seconds. Common practice: servers test their memory for minutes. */
    bootSeconds: initially(integer(0, 86_400), 300),
    /** From its last guest's end until it is off, in seconds. Common practice: two minutes. */
    stopSeconds: since(15, initially(integer(0, 86_400), 120)),
    /** Guests it may start at once; null: as its group says. */
    startsAtOnce: since(7, optional(integer(1, 1000))),
    /** When it may be worked at, beside what its group and site say. */
    workWindow: since(13, workWindow()),
    ...machine,
    ...licence,
    ...management,
    ...described,
  },
};

/** Room for volumes, on disks of one host or shared by several. Sizes in bytes. */
export const pool = {
  fields: {
    name: name(),
    usableBytes: integer(0),
    /** Promised bytes may reach this share of the usable ones; above 100 only with thin volumes. */
    promiseLimitPercent: initially(integer(1, 1000), 100),
    /** What it lies on; with neither array nor disk it is remote storage. */
    arrayId: optional(ref('array')),
    diskId: optional(ref('disk')),
    remote: text(),
    /** The guest that serves it, where a guest does. */
    serverGuestId: optional(ref('guest')),
    /** Copies kept by the storage itself (replicated pools). */
    copies: initially(integer(1, 10), 1),
    fillAlarmPercent: initially(integer(1, 100), 85),
    /** Bytes really used when somebody last looked. */
    usedBytes: optional(integer(0)),
    /** Guests with disks in it that may start at once after a power cut; null: as many as there are. */
    startsAtOnce: since(9, optional(integer(1, 1000))),
    ...described,
  },
};

/** That a host reaches a pool. */
export const poolReach = {
  owner: 'poolId',
  fields: { poolId: ref('pool'), hostId: ref('host') },
} as const;

/** Joins guests of a host to a network. */
export const virtualSwitch = {
  owner: 'hostId',
  fields: {
    hostId: ref('host'),
    networkId: optional(ref('network')),
    name: name(),
    mode: choice('bridged', 'NAT', 'host and guests', 'guests only', 'routed'),
    /** Its frames leave without a tag although the network has a VLAN id: the switch port adds it. */
    untagged: flag(),
    /** How several ports are bound together. */
    bundle: initially(choice('none', 'failover', 'aggregation'), 'none'),
    /** NAT: its guests share one segment, or each is alone behind a translation of its own. */
    translation: since(
      11,
      initially(choice('as its platform', 'shared', 'isolated'), 'as its platform'),
    ),
    /** NAT: the switch that what it translates leaves by; null: nobody said. */
    natUplinkId: since(14, optional(ref('virtualSwitch'))),
  },
} as const;

/** A port of the host that a virtual switch goes out by. */
export const uplink = {
  owner: 'switchId',
  fields: { switchId: ref('virtualSwitch'), portId: ref('port') },
} as const;
