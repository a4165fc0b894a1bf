/**
 * Moving a running guest: its memory is copied while it goes on writing; what was written is copied again, round by
 * round, until what is left is small enough to stop for. The model is that of Clark et al., Live Migration of Virtual
 * Machines, NSDI 2005: each round copies what was written during the one before.
 */
import type { BytesPerSecond } from '../quantity/index.js';

export interface PrecopyInput {
  memoryBytes: number;
  /** Bytes per second that travel. */
  rate: BytesPerSecond;
  /** Bytes per second that the guest writes, into pages it had not written before in the round. */
  dirtyRate: BytesPerSecond;
}

export interface Precopy {
  /** Written over copied: below 0.5 it is easy, from 1 on it never ends. */
  ratio: number;
  verdict: 'easy' | 'slow' | 'never';
  /** Rounds before the guest is stopped, the first one included. */
  rounds: number;
  /** Until it runs on the target, the downtime included. */
  seconds: number;
  downtimeSeconds: number;
  copiedBytes: number;
}

/** What is left when it is worth stopping for: common practice, no source. */
export const STOP_BYTES = 64 * 1024 * 1024;
/** Platforms give up after so many rounds and stop the guest: common practice, no source. */
export const MOST_ROUNDS = 30;
/** Stopping, handing over, announcing the address: common practice, no source. */
export const HANDOVER_SECONDS = 0.3;

/**
 * Round i copies memory × ratio^i bytes; after n rounds what is left is memory × ratio^n and is copied while the guest
 * stands still. In all memory × (1 − ratio^(n+1)) ÷ (1 − ratio).
 *
 * @throws RangeError for a rate that is not above 0
 */
export function precopy({ memoryBytes, rate, dirtyRate }: PrecopyInput): Precopy {
  if (!(rate > 0)) throw new RangeError('a copy needs a rate above 0');
  const ratio = dirtyRate / rate;
  const verdict = ratio < 0.5 ? 'easy' : ratio < 1 ? 'slow' : 'never';
  let rounds = 0;
  let left = memoryBytes;
  let copied = 0;
  while (rounds < MOST_ROUNDS && (rounds === 0 || left > STOP_BYTES)) {
    copied += left;
    // A page that is written again and again is copied once a round: never more than all of the memory.
    left = Math.min(memoryBytes, left * ratio);
    rounds += 1;
    if (verdict === 'never') break;
  }
  const downtimeSeconds = left / rate + HANDOVER_SECONDS;
  return {
    ratio,
    verdict,
    rounds,
    seconds: copied / rate + downtimeSeconds,
    downtimeSeconds,
    copiedBytes: copied + left,
  };
}
