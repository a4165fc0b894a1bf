/** What is done for and kept of a guest: its group, media in its drives, snapshots, steps of its build. */
import {
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
  time,
} from '../field.js';
import { described } from './described.js';
import { workWindow } from './times.js';

/** Guests that do the same work, one standing in for another. */
export const guestGroup = {
  fields: {
    name: name(),
    purpose: text(),
    /** What its members must be spread over, so that not all of them fail at once. */
    spread: initially(choice('none', 'host', 'rack', 'site'), 'host'),
    /** Members that must be left for it to work; 0: one is enough. */
    needed: initially(integer(0, 1000), 0),
    /** When one of its members may be down, beside what the member says. */
    outageWindow: since(13, workWindow()),
    ...described,
  },
};

/** An install image in a drive of a guest. */
export const drive = {
  owner: 'guestId',
  fields: { guestId: ref('guest'), mediumId: ref('medium'), atPowerOn: flag(true) },
} as const;

/** The state of a guest's volumes at a time: it grows with everything written afterwards. */
export const snapshot = {
  owner: 'guestId',
  fields: {
    guestId: ref('guest'),
    /** Pool whose room it takes. */
    poolId: ref('pool'),
    name: name(),
    takenAt: time(),
    why: text(),
    /** Bytes when somebody last looked, and what it grows by in a day. */
    bytes: initially(integer(0), 0),
    growthBytesPerDay: initially(integer(0), 0),
    keepUntil: optional(date()),
  },
} as const;

/** One step of building a guest, ticked. The first checks are steps like any other. */
export const buildTick = {
  owner: 'guestId',
  fields: {
    guestId: ref('guest'),
    step: name(),
    outcome: choice('done', 'failed', 'not needed'),
    at: time(),
    by: text(100),
    remark: text(500),
  },
} as const;
