/** How the server does, for who looks after it. */
import type { ServerView } from '@insel/contract';
import { Controller, Get, Inject } from '@nestjs/common';
import { AdministratorOnly } from './account/guard.js';
import { setTimeout } from 'node:timers/promises';
import { Computation } from './computation/computation.js';
import { CONFIG, type Config } from './config.js';
import { FleetKeeper } from './record/keeper.js';
import { MemoryCeiling } from './record/memory-ceiling.js';
import { WriteTimes } from './changes/write-times.js';

/** A worker that computes is not waited for longer. */
const PATIENCE_MS = 1000;

@Controller('api/server')
@AdministratorOnly()
export class ServerController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly times: WriteTimes,
    private readonly memory: MemoryCeiling,
    private readonly computation: Computation,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  @Get()
  async view(): Promise<ServerView> {
    const worker = await Promise.race([
      this.computation.figures().catch(() => null),
      setTimeout(PATIENCE_MS, null),
    ]);
    const { revision, loadedInMs } = this.keeper.state();
    return {
      startedAt: new Date(Date.now() - process.uptime() * 1000).toISOString(),
      revision,
      loadedInMs,
      processMiB: Math.round(process.memoryUsage.rss() / 2 ** 20),
      ceilingMiB: Math.round(this.config.heapCeilingMiB),
      ...this.memory.figures(),
      changes: this.times.all(),
      worker,
    };
  }
}
