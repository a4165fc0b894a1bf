/** How places fill by the record's own history. */
import type { Growth } from '@insel/core';

export interface GrowthView {
  /** The stretch that was looked at; it begins later where the record, or what can be taken back, does. */
  from: string;
  now: string;
  /** Entries of the log in it. */
  entries: number;
  /** Those that run out first stand first; at most 300. */
  places: Growth[];
  placesInAll: number;
}
