/** How a host translates for the guests of one of its virtual switches. */
import type { Fleet, Row } from '../record/index.js';

/** Each guest adapter is alone behind a translation of its own: neither its neighbours nor the host reach it. */
export const isolatesGuests = (fleet: Fleet, found: Row<'virtualSwitch'>): boolean =>
  found.mode === 'NAT' &&
  (found.translation === 'isolated' ||
    (found.translation === 'as its platform' && !sharedByPlatform(fleet, found.hostId)));

/** What its platform does where nothing else is said of a switch. */
export const sharedByPlatform = (fleet: Fleet, hostId: string): boolean =>
  fleet.need('platform', fleet.need('host', hostId).platformId).natShared;
