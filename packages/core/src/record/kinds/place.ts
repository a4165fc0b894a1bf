import { parseMacBlock } from '../../address/index.js';
import { initially, integer, name, optional, ref, since, text } from '../field.js';
import { described } from './described.js';
import { timeZone, workWindow } from './times.js';

const readMacBlock = (text: string) =>
  text.trim() === '' ? { ok: true as const, value: '' } : parseMacBlock(text);

/** A place with hosts; a failure domain. */
export const site = {
  fields: {
    name: name(),
    /** First octets of every MAC generated for guests here, such as "02:1f:0a"; empty: any locally administered one. */
    macBlock: { ...text(11), reads: readMacBlock },
    timeZone: since(13, timeZone()),
    /** When hosts may be worked at and guests moved here. */
    workWindow: since(13, workWindow()),
    ...described,
  },
};

/** A rack of a site; a failure domain. Units count from the floor (IEC 60297-3-100). */
export const rack = {
  fields: {
    name: name(),
    siteId: optional(ref('site')),
    units: initially(integer(1, 60), 42),
    /** What may be drawn for a long time from the rack's feeds, in watts. */
    feedWatts: optional(integer(1)),
    upsMinutes: optional(integer(0)),
    ...described,
  },
};

/** A circuit that hosts are plugged into; what goes down with one breaker, or with one UPS. */
export const powerFeed = {
  fields: {
    name: name(),
    siteId: optional(ref('site')),
    /** What may be drawn from it for a long time. */
    watts: optional(integer(1, 10_000_000)),
    /** How long the UPS behind it holds with what hangs on it; null: there is none, or nobody knows. */
    upsMinutes: optional(integer(0, 100_000)),
    ...described,
  },
};

/** That a supply of a host is plugged into a feed. */
export const powerCord = {
  owner: 'hostId',
  fields: { hostId: ref('host'), feedId: ref('powerFeed') },
} as const;
