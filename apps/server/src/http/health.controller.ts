/** Health: whether the process lives, whether it answers, whether what it shows is as new as the database. */
import { Controller, Get, Res } from '@nestjs/common';
import type { Response } from 'express';
import { Open } from '../account/guard.js';
import { FleetKeeper } from '../record/keeper.js';

interface Health {
  state: string;
  revision: number;
  loadedInMs: number;
  /** What is wrong with the record as a whole. */
  fault: string | null;
  memoryMiB: number;
  live: true;
  ready: boolean;
  fresh: boolean;
  /** When the database answered last. */
  asOf: string;
}

@Controller('api/health')
@Open()
export class HealthController {
  constructor(private readonly keeper: FleetKeeper) {}

  @Get()
  health(): Health {
    const state = this.keeper.state();
    const { database } = this.keeper;
    return {
      ...state,
      memoryMiB: Math.round(process.memoryUsage.rss() / 2 ** 20),
      live: true,
      ready: state.state === 'ready' || state.state === 'reading only',
      fresh: state.state !== 'loading' && !database.away,
      asOf: new Date(database.heardAt).toISOString(),
    };
  }

  @Get('live')
  live(): { live: true } {
    return { live: true };
  }

  @Get('ready')
  ready(@Res({ passthrough: true }) response: Response): Pick<Health, 'ready' | 'state'> {
    const { ready, state } = this.health();
    if (!ready) response.status(503);
    return { ready, state };
  }

  @Get('fresh')
  fresh(@Res({ passthrough: true }) response: Response): Pick<Health, 'fresh' | 'asOf'> {
    const { fresh, asOf } = this.health();
    if (!fresh) response.status(503);
    return { fresh, asOf };
  }
}
