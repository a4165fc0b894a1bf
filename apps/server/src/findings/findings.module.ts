import { type WaterlineView } from '@insel/contract';
import { waterline, type Finding } from '@insel/core';
import { Controller, Get, Module } from '@nestjs/common';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { FleetKeeper } from '../record/keeper.js';

/** A list of more findings than this is no list any more. */
const MOST = 500;

@Controller('api')
class FindingsController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
    private readonly computation: Computation,
  ) {}

  @Get('waterline')
  waterline(): WaterlineView {
    return {
      revision: this.keeper.fleet.revision,
      levels: waterline(this.keeper.fleet),
      findings: null,
    };
  }

  @Get('findings')
  findings(): Promise<{
    findings: Finding[];
    counts: { blocker: number; caution: number; note: number };
  }> {
    return this.computation.ask('findings', { now: this.clock.now(), most: MOST });
  }
}

@Module({ controllers: [FindingsController] })
export class FindingsModule {}
