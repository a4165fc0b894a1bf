import { Count, Id, OneOf, Optional } from './rules.js';

/** A move that is being thought of. */
export class RouteQuery {
  @Id() guestId!: string;
  @Id() targetHostId!: string;
  /** Without it the volumes stay in their pools. */
  @Optional() @Id() targetPoolId?: string;
  @OneOf(['running', 'stopped']) how!: 'running' | 'stopped';
  /** Bits per second of the slowest link between the hosts. */
  @Count(1, Number.MAX_SAFE_INTEGER) linkBitsPerSecond!: number;
}
