import { choice, flag, initially, integer, name, optional, ref, since, text } from '../field.js';
import { described } from './described.js';
import { workWindow } from './times.js';

/** Hosts that back each other, and how far they may be promised. */
export const hostGroup = {
  fields: {
    name: name(),
    vcpuPerCore: initially(integer(1, 64), 4),
    /** Memory may be promised up to this share of what is there: 100 means never twice. */
    memoryPercent: initially(integer(100, 400), 100),
    /** Share of processors and memory kept free on purpose. */
    reservePercent: initially(integer(0, 90), 0),
    /** Hosts that must be alive for the group to act; a witness counts as one. */
    quorum: optional(integer(1, 1000)),
    witness: text(),
    /** Whether guests of a dead host are started on the others by themselves. */
    restarts: flag(true),
    /** Guests that one host of it may start at once after a power cut; null: as many as there are. */
    startsAtOnce: since(7, optional(integer(1, 1000))),
    /** When its hosts may be worked at, beside what their site says. */
    workWindow: since(13, workWindow()),
    ...described,
  },
};

/** Guests that must share a place, must not, or must stay on one host. */
export const placementRule = {
  fields: {
    name: name(),
    rule: choice('together', 'apart', 'pinned'),
    /** What "together" and "apart" mean. */
    scope: initially(choice('host', 'rack', 'site'), 'host'),
    hostId: optional(ref('host')),
    ...described,
  },
};

export const placementMember = {
  owner: 'ruleId',
  fields: { ruleId: ref('placementRule'), guestId: ref('guest') },
} as const;
