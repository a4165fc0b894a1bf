/** What is done for hosts and guests: copies made, builds and verifications carried out, media kept. */
import {
  choice,
  date,
  flag,
  initially,
  integer,
  name,
  optional,
  ref,
  sha256,
  text,
  time,
} from '../field.js';
import { described } from './described.js';
import { FAMILIES } from './guest.js';

/** A copy of a guest that is made again and again: a backup to restore, or a replica to start. */
export const backup = {
  owner: 'guestId',
  fields: {
    guestId: ref('guest'),
    way: choice('backup', 'replica'),
    /** Where the copies lie: a pool of the record, or a place in words. */
    poolId: optional(ref('pool')),
    place: text(),
    /** The guest that makes and keeps them, if one does. */
    storeGuestId: optional(ref('guest')),
    everyMinutes: integer(1),
    takesMinutes: integer(0),
    /** Time to have the guest back, as tried or estimated. */
    restoreMinutes: optional(integer(0)),
    lastSuccessAt: optional(time()),
    lastRestoreTestAt: optional(time()),
  },
} as const;

/** A run of named tests at a host. */
export const verification = {
  owner: 'hostId',
  fields: { hostId: ref('host'), at: time(), by: text(100), remark: text(2000) },
} as const;
export const verificationTest = {
  owner: 'verificationId',
  fields: { verificationId: ref('verification'), test: name(), passed: flag(), remark: text(500) },
} as const;

/** A host built once: how long it really took, what was different from the sheet. */
export const hostBuild = {
  owner: 'hostId',
  fields: { hostId: ref('host'), startedAt: time(), endedAt: time(), differences: text(4000) },
} as const;

/** An install image. */
export const medium = {
  fields: {
    name: name(),
    bytes: integer(1),
    sha256: sha256(),
    kept: text(),
    platformId: optional(ref('platform')),
    /** The system it installs in guests; a platform's own image has a platform instead. */
    family: initially(choice('none', ...FAMILIES), 'none'),
    /** What it installs, without the release: releases of one system are compared. */
    system: text(100),
    release: text(40),
    releasedOn: optional(date()),
    /** A full medium works offline; a network install reads everything from outside. */
    install: initially(choice('full', 'network', 'drivers', 'other'), 'full'),
    /** Where guests reach it. */
    poolId: optional(ref('pool')),
    ...described,
  },
};
