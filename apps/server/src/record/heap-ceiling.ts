/**
 * A ceiling for what a thread keeps: above it all kept values are let go and made anew as they are asked for, so that a record
 * that grows makes the server slower, not dead. Looked at after each change, which costs microseconds.
 */
import type { ThreadFigures } from '@insel/contract';
import type { Fleet } from '@insel/core';
import { getHeapStatistics } from 'node:v8';

/** Letting go helps once it has been collected; sooner than this it would only cost. */
const PAUSE_MS = 60_000;

/** Heap of the thread that asks, in MiB. */
const heapMiB = (): number => Math.round(getHeapStatistics().used_heap_size / 2 ** 20);

export class HeapCeiling {
  private letGo = 0;
  private lastAt = -Infinity;

  constructor(private readonly ceilingMiB: number) {}

  /** Gives how much heap was too much, in MiB, where what the fleet keeps was let go. */
  look(fleet: Fleet): number | null {
    const heap = heapMiB();
    if (heap < this.ceilingMiB || performance.now() - this.lastAt < PAUSE_MS) return null;
    this.lastAt = performance.now();
    this.letGo += 1;
    fleet.forgetKept();
    return heap;
  }

  figures(fleet: Fleet): ThreadFigures {
    const { values, noted, edges, bytes } = fleet.keptValues();
    values.sort((a, b) => b.kept - a.kept || a.name.localeCompare(b.name));
    return { heapMiB: heapMiB(), letGo: this.letGo, noted, edges, bytes, values };
  }
}
