/** What starts before what: services with their providers, needs of hosts and guests, the order after a power cut. */
import { type ServiceView, type StartOrderView } from '@insel/contract';
import { Controller, Get, Module } from '@nestjs/common';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { FleetKeeper } from '../record/keeper.js';
import { serviceViews } from '../views/starts.js';

@Controller('api')
class StartsController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
    private readonly computation: Computation,
  ) {}

  /** In the worker: it looks at every machine. */
  @Get('start-order')
  order(): Promise<StartOrderView> {
    return this.computation.ask('startOrder', {});
  }

  @Get('services')
  services(): ServiceView[] {
    return serviceViews(this.keeper.fleet, this.clock.now());
  }
}

@Module({ controllers: [StartsController] })
export class StartsModule {}
