import { choice, integer, name, optional, ref, since, text, time } from '../field.js';

/** What makes a machine itself, and what a copy must be given anew. */
export const IDENTITY_ITEMS = [
  'computer name',
  'machine identifier',
  'MAC address',
  'static address',
  'interface binding',
  'directory membership',
  'SSH host keys',
  'certificates',
  'licence key',
  'administrator password',
  'scheduled jobs',
  'enrolment with monitoring, backup and directory',
] as const;

/** That a guest was copied from another. */
export const clone = {
  owner: 'guestId',
  fields: {
    guestId: ref('guest'),
    originId: ref('guest'),
    /** By the platform; by hand, with a guest made around the copied disk; or sharing the blocks of its base. */
    copy: choice('full', 'by hand', 'dependent'),
    madeAt: time(),
    /** How long the copy of its disks took, by the tool that made it. */
    copySeconds: since(8, optional(integer(1, undefined, 's'))),
    /** When it was a machine of its own, up and proven. */
    readyAt: since(8, optional(time())),
  },
} as const;

/** One item of identity of one clone, open until somebody says it is done. */
export const identityItem = {
  owner: 'cloneId',
  fields: {
    cloneId: ref('clone'),
    /** One of those that are known, or one that its role adds. */
    item: name(),
    doneAt: optional(time()),
    doneBy: text(100),
    remark: text(),
  },
} as const;
