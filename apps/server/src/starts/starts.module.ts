/** What starts before what: services with their providers, needs of hosts and guests, the order after a power cut. */
import {
  AddProviderBody,
  EditServiceBody,
  RecordNeedBody,
  RecordServiceBody,
  type ServiceView,
  type StartOrderView,
  type Written,
} from '@insel/contract';
import { refuse } from '@insel/core';
import { Body, Controller, Delete, Get, Module, Param, Patch, Post, Req } from '@nestjs/common';
import type { SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { refused } from '../http/problem.js';
import { Writes } from '../http/writes.js';
import { FleetKeeper } from '../record/keeper.js';
import { serviceViews } from '../views/starts.js';

@Controller('api')
class StartsController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly writes: Writes,
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
  @Post('services')
  recordService(@Req() request: SignedIn, @Body() body: RecordServiceBody): Promise<Written> {
    return this.writes.recordOne(request, 'service', body);
  }
  @Patch('services/:id')
  editService(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditServiceBody,
  ): Promise<Written> {
    return this.writes.editOne(request, 'service', id, body);
  }
  @Delete('services/:id')
  removeService(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'service', id);
  }

  @Post('services/:id/providers')
  addProvider(
    @Req() request: SignedIn,
    @Param('id') serviceId: string,
    @Body() body: AddProviderBody,
  ): Promise<Written> {
    exactlyOne(body, ['guestId', 'deviceId'], 'Say who provides it: one guest, or one device.');
    return this.writes.recordOne(request, 'provider', body, { serviceId });
  }
  @Delete('providers/:id')
  removeProvider(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'provider', id);
  }

  @Post('needs')
  recordNeed(@Req() request: SignedIn, @Body() body: RecordNeedBody): Promise<Written> {
    exactlyOne(body, ['hostId', 'guestId'], 'Say who needs it: one host, or one guest.');
    exactlyOne(body, ['serviceId', 'onGuestId'], 'Say what is needed: one service, or one guest.');
    return this.writes.recordOne(request, 'dependency', body, { purpose: body.purpose ?? '' });
  }
  @Delete('needs/:id')
  removeNeed(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'dependency', id);
  }
}

function exactlyOne<T extends object>(
  body: T,
  fields: (keyof T & string)[],
  sentence: string,
): void {
  const given = fields.filter((field) => body[field]);
  if (given.length !== 1)
    throw refused(refuse({ code: 'not-one', field: given[1] ?? fields[0]!, sentence }));
}

@Module({ controllers: [StartsController] })
export class StartsModule {}
