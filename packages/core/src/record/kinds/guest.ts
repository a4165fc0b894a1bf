import {
  choice,
  date,
  flag,
  initially,
  integer,
  mac,
  name,
  optional,
  ref,
  text,
  time,
  since,
} from '../field.js';
import { blocks } from './blocks.js';
import { described } from './described.js';
import { routing } from './device.js';
import { workWindow } from './times.js';

export const GUEST_STATES = ['planned', 'building', 'in service', 'stopped', 'retired'] as const;
export const DISK_BUSES = ['unknown', 'paravirtual', 'SATA', 'IDE', 'SCSI', 'NVMe'] as const;
export const ADAPTER_MODELS = ['unknown', 'paravirtual', 'emulated'] as const;
export const BOOT_FIRST = ['unknown', 'disk', 'medium', 'network'] as const;
export const CRITICALITIES = ['not said', 'low', 'normal', 'high'] as const;
export const FAMILIES = ['Linux', 'BSD', 'NT family', 'appliance', 'other'] as const;

export const PROCESSOR_MODES = ['unknown', 'host', 'v1', 'v2', 'v3', 'v4'] as const;

/** A virtual machine. Memory in whole MiB. */
export const guest = {
  fields: {
    name: name(),
    nameAssigned: flag(),
    state: choice(...GUEST_STATES),
    template: flag(),
    hostId: ref('host'),
    family: choice(...FAMILIES),
    purpose: text(),
    vcpu: integer(1, 4096),
    memoryMiB: integer(1),
    /** A stopped guest's processors and memory count, since somebody will start it. */
    heldWhenStopped: flag(true),
    /** Processor the guest sees: the host's own, or a level of the psABI that every host it may go to has. */
    processorMode: initially(choice(...PROCESSOR_MODES), 'unknown'),
    /** Virtualisation is passed through, so that it can be a host itself. */
    nestedVirtualisation: flag(),
    /** From power-on until it is of use to others, in seconds. Common practice: a minute, more for directories and databases. */
    startSeconds: initially(integer(0, 86_400), 60),
    /** From being told to stop until it is off, in seconds. Common practice: a minute, more for databases. */
    stopSeconds: since(15, initially(integer(0, 86_400), 60)),
    /** Of its full name; empty: that of its first subnet. */
    domain: text(253),
    profileId: optional(ref('profile')),
    groupId: optional(ref('guestGroup')),
    firmware: initially(choice('unknown', 'UEFI', 'legacy'), 'unknown'),
    /** Where its firmware looks first. */
    bootFirst: initially(choice(...BOOT_FIRST), 'unknown'),
    graphics: initially(choice('unknown', 'none', 'basic', 'accelerated'), 'unknown'),
    criticality: initially(choice(...CRITICALITIES), 'not said'),
    /** When it may be down for work, as in "Sat, Sun 02:00-06:00"; empty: not said. */
    outageWindow: workWindow(),
    /** Day on which nobody needs it any more. */
    endDate: optional(date()),
    /** When its state was last set. */
    stateAt: optional(time()),
    ...routing,
    ...described,
  },
};

/** A guest's disk, in bytes. */
export const volume = {
  owner: 'guestId',
  fields: {
    guestId: ref('guest'),
    poolId: ref('pool'),
    label: name(),
    bytes: integer(1),
    thin: flag(),
    bus: initially(choice(...DISK_BUSES), 'unknown'),
    use: initially(choice('disk', 'UEFI variables'), 'disk'),
    /** Kept in several files, for storage that limits their size. */
    split: flag(),
    /** The volume whose blocks a dependent clone shares: it may neither be altered nor deleted. */
    baseId: optional(ref('volume')),
    /** Bytes really taken when somebody last looked. */
    usedBytes: optional(integer(0)),
  },
} as const;

/** A guest's network port. */
export const adapter = {
  owner: 'guestId',
  fields: {
    guestId: ref('guest'),
    networkId: optional(ref('network')),
    position: initially(integer(0, 255), 0),
    mac: optional(mac()),
    macAssigned: flag(),
    /** The virtual cable is plugged in. */
    connected: flag(true),
    /** What the guest forwards out here gets this adapter's address (source translation). */
    masquerade: flag(),
    model: initially(choice(...ADAPTER_MODELS), 'unknown'),
    /** What the guest calls it, where that is known to differ from its platform's pattern. */
    nameInside: text(60),
    /** A sub-interface: its frames travel over that adapter of the same guest with the tag of their network's VLAN, and have its MAC. */
    trunkId: since(10, optional(ref('adapter'))),
    /** Only what comes from these blocks is translated; empty: whatever is forwarded out here. */
    masqueradeFrom: since(14, blocks()),
  },
} as const;
