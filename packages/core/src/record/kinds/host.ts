import { choice, flag, initially, integer, name, optional, ref, text } from '../field.js';
import { described } from './described.js';

export const HOST_STATES = ['planned', 'building', 'in service', 'maintenance', 'failed', 'retired'] as const;

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
    ...described,
  },
};

/** That a host reaches a pool. */
export const poolReach = { owner: 'poolId', fields: { poolId: ref('pool'), hostId: ref('host') } } as const;

/** Joins guests of a host to a network. */
export const virtualSwitch = {
  owner: 'hostId',
  fields: {
    hostId: ref('host'),
    networkId: optional(ref('network')),
    name: name(),
    mode: choice('bridged', 'NAT', 'host and guests', 'guests only', 'routed'),
  },
} as const;
