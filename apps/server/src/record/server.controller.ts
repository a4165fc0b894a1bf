/** How the server does, for who looks after it. */
import type { ServerView } from '@insel/contract';
import { Controller, Get, Inject } from '@nestjs/common';
import { AdministratorOnly } from '../account/guard.js';
import { CONFIG, type Config } from '../config.js';
import { FleetKeeper } from './keeper.js';
import { MemoryCeiling } from './memory-ceiling.js';
import { WriteTimes } from './write-times.js';

@Controller('api/server')
@AdministratorOnly()
export class ServerController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly times: WriteTimes,
    private readonly memory: MemoryCeiling,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  @Get()
  view(): ServerView {
    const { revision, loadedInMs } = this.keeper.state();
    const { values, noted } = this.keeper.fleet.keptValues();
    return {
      startedAt: new Date(Date.now() - process.uptime() * 1000).toISOString(),
      revision,
      loadedInMs,
      memoryMiB: {
        process: Math.round(process.memoryUsage.rss() / 2 ** 20),
        heap: this.memory.heapMiB,
        ceiling: Math.round(this.config.heapCeilingMiB),
      },
      letGo: this.memory.letGo,
      noted,
      values: values.sort((a, b) => b.kept - a.kept || a.name.localeCompare(b.name)),
      changes: this.times.all(),
    };
  }
}
