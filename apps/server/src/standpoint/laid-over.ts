import type { Fleet, Patch } from '@insel/core';
import type { OrderCache } from '../views/orders.js';

/** A fleet that is laid over the record, and the time at which it is looked at. */
export interface LaidOver {
  fleet: Fleet;
  /** Revision of the record, and what makes it of that one. */
  base: number;
  patches: Patch[];
  now: string;
  orders: OrderCache;
}
