/** Lots of guests that were placed: where they go, what moves for them, what changes by it, and what is proved of it. */
import type { Row } from '../record/index.js';
import type { Short } from './lay-batch.js';
import type { Rearranged, RearrangedHost, RearrangedMove } from './rearranged.js';

export interface PlacedGuest {
  lot: number;
  name: string;
  hostId: string;
  host: string;
  /** Null: it has no volume. */
  poolId: string | null;
  pool: string | null;
}

export interface PlacedLot {
  pattern: string;
  wanted: number;
  placed: number;
  /** How many on each host, in the order of their names. */
  on: { hostId: string; host: string; count: number }[];
  short: Short[];
}

export interface LicenceChange {
  entitlementId: string;
  name: string;
  unit: Row<'entitlement'>['unit'];
  before: number;
  after: number;
  allowed: number;
}

export interface PlacedBatch {
  headline: string;
  proof: string;
  lots: PlacedLot[];
  guests: PlacedGuest[];
  /** Guests that move first, to make room. */
  moves: RearrangedMove[];
  hosts: RearrangedHost[];
  tolerance: Rearranged['tolerance'];
  licences: LicenceChange[];
}
