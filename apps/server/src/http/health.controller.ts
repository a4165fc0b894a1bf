import { Controller, Get } from '@nestjs/common';
import { Open } from '../account/guard.js';
import { FleetKeeper } from '../record/keeper.js';

@Controller('api/health')
@Open()
export class HealthController {
  constructor(private readonly keeper: FleetKeeper) {}

  @Get()
  health(): { state: string; revision: number; loadedInMs: number; memoryMiB: number } {
    return { ...this.keeper.state(), memoryMiB: Math.round(process.memoryUsage.rss() / 2 ** 20) };
  }
}
