/** The ceiling of what this process keeps; its worker has one like it. */
import type { ThreadFigures } from '@insel/contract';
import { Inject, Injectable, Logger } from '@nestjs/common';
import { CONFIG, type Config } from '../config.js';
import { HeapCeiling } from './heap-ceiling.js';
import { FleetKeeper } from './keeper.js';

@Injectable()
export class MemoryCeiling {
  private readonly ceiling: HeapCeiling;
  private readonly logger = new Logger('memory');

  constructor(
    @Inject(CONFIG) { heapCeilingMiB }: Config,
    private readonly keeper: FleetKeeper,
  ) {
    this.ceiling = new HeapCeiling(heapCeilingMiB);
    keeper.follow(() => {
      const heap = this.ceiling.look(keeper.fleet);
      if (heap !== null)
        this.logger.warn(
          `${heap} MiB of heap are more than ${heapCeilingMiB}: what is kept was let go`,
        );
    });
  }

  figures(): ThreadFigures {
    return this.ceiling.figures(this.keeper.fleet);
  }
}
