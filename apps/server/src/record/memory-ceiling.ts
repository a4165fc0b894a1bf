/**
 * A ceiling for what is kept: above it all kept values are let go and made anew as they are asked for, so that a record that
 * grows makes the server slower, not dead. Looked at after each change, which costs microseconds.
 */
import { Inject, Injectable, Logger } from '@nestjs/common';
import { getHeapStatistics } from 'node:v8';
import { CONFIG, type Config } from '../config.js';
import { FleetKeeper } from './keeper.js';

/** Letting go helps once it has been collected; sooner than this it would only cost. */
const PAUSE_MS = 60_000;

@Injectable()
export class MemoryCeiling {
  letGo = 0;
  private lastAt = -Infinity;
  private readonly logger = new Logger('memory');

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly keeper: FleetKeeper,
  ) {
    keeper.follow(() => this.look());
  }

  get heapMiB(): number {
    return Math.round(getHeapStatistics().used_heap_size / 2 ** 20);
  }

  private look(): void {
    const { heapMiB } = this;
    if (heapMiB < this.config.heapCeilingMiB || performance.now() - this.lastAt < PAUSE_MS) return;
    this.lastAt = performance.now();
    this.letGo += 1;
    this.keeper.fleet.forgetKept();
    this.logger.warn(
      `${heapMiB} MiB of heap are more than ${this.config.heapCeilingMiB}: what is kept was let go`,
    );
  }
}
