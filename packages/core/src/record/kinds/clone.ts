import { choice, optional, ref, text, time } from '../field.js';

/** What makes a machine itself, and what a copy must be given anew. */
export const IDENTITY_ITEMS = [
  'computer name',
  'machine identifier',
  'MAC address',
  'static address',
  'SSH host keys',
  'certificates',
  'licence key',
  'administrator password',
  'enrolment with monitoring, backup and directory',
] as const;

/** That a guest was copied from another. */
export const clone = {
  owner: 'guestId',
  fields: {
    guestId: ref('guest'),
    originId: ref('guest'),
    copy: choice('full', 'dependent'),
    madeAt: time(),
  },
} as const;

/** One item of identity of one clone, open until somebody says it is done. */
export const identityItem = {
  owner: 'cloneId',
  fields: {
    cloneId: ref('clone'),
    item: choice(...IDENTITY_ITEMS),
    doneAt: optional(time()),
    doneBy: text(100),
    remark: text(),
  },
} as const;
