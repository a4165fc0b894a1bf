import { TickItemsBody, type Lineage, type Written } from '@insel/contract';
import { Body, Controller, Get, Module, Post, Req } from '@nestjs/common';
import type { SignedIn } from '../account/guard.js';
import { extrasOf, fieldsIn, Writes } from '../http/writes.js';
import { FleetKeeper } from '../record/keeper.js';
import { lineages } from '../views/clones.js';

@Controller('api')
class ClonesController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly writes: Writes,
  ) {}

  @Get('clones')
  lines(): Lineage[] {
    return lineages(this.keeper.fleet);
  }

  @Post('identity-items/tick')
  tick(@Req() request: SignedIn, @Body() body: TickItemsBody): Promise<Written> {
    return this.writes.make(request, { type: 'clone.tick', ...fieldsIn(body), ...extrasOf(body) });
  }
}

@Module({ controllers: [ClonesController] })
export class ClonesModule {}
