import { type Lineage } from '@insel/contract';
import { Controller, Get, Module } from '@nestjs/common';
import { FleetKeeper } from '../record/keeper.js';
import { lineages } from '../views/clones.js';

@Controller('api')
class ClonesController {
  constructor(private readonly keeper: FleetKeeper) {}

  @Get('clones')
  lines(): Lineage[] {
    return lineages(this.keeper.fleet);
  }
}

@Module({ controllers: [ClonesController] })
export class ClonesModule {}
