/** The chart: every host as a square with its course of guests, and what happens when one fails. */
import { ChartQuery, type ChartView, type ToleranceView } from '@insel/contract';
import type { FailureOutcome } from '@insel/core';
import { Controller, Get, Module, Param, Query } from '@nestjs/common';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { notFound } from '../http/problem.js';
import { FleetKeeper } from '../record/keeper.js';
import { chartView } from '../views/chart.js';

/** More names than anybody reads on a waterline. */
const MOST_LINES = 200;

@Controller('api')
class ChartController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
    private readonly computation: Computation,
  ) {}

  @Get('chart')
  chart(@Query() query: ChartQuery): ChartView {
    return chartView(this.keeper.fleet, query, this.clock.now());
  }

  @Get('tolerance')
  async tolerance(): Promise<ToleranceView> {
    const tolerance = await this.computation.ask('tolerance', { now: this.clock.now() });
    const line = {
      mayFail: tolerance.hosts.filter(({ answer }) => answer === 'all restart').length,
      mayNot: tolerance.hosts.filter(({ answer }) => answer === 'some do not').slice(0, MOST_LINES),
      notSettled: tolerance.hosts
        .filter(({ answer }) => answer === 'not settled')
        .slice(0, MOST_LINES),
    };
    return { tolerance, line };
  }

  /** What happens to each guest when this host, rack or site fails. */
  @Get('failures/:kind/:id')
  async failure(@Param('kind') kind: string, @Param('id') id: string): Promise<FailureOutcome> {
    if (kind !== 'host' && kind !== 'rack' && kind !== 'site') throw notFound('kind of place');
    const outcome = await this.computation.ask('failure', { now: this.clock.now(), kind, id });
    if (!outcome) throw notFound(`${kind}, as something that can fail,`);
    return outcome;
  }
}

@Module({ controllers: [ChartController] })
export class ChartModule {}
