import type { Fleet, Row } from '../record/index.js';

/**
 * Name of the file of a volume, without its ending: one file, one guest, never the master's own. Common practice, no
 * source. @example diskName('tide-1', 'system disk') // 'tide-1-system-disk'
 */
export const diskName = (guest: string, label: string): string =>
  `${guest}-${label}`
    .toLowerCase()
    .replace(/[^a-z0-9-]+/g, '-')
    .replace(/-+/g, '-')
    .replace(/^-|-$/g, '');

/** Of all volumes of a guest, in their order. */
export const diskNames = (fleet: Fleet, guest: Row<'guest'>): string[] =>
  fleet
    .referring('volume', 'guestId', guest.id)
    .map((volume) => diskName(guest.name, volume.label));
