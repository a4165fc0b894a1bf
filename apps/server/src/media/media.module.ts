/** The shelf of install media: what each image is, whether it is the one that was meant, who has it in a drive. */
import { type MediumView } from '@insel/contract';
import { Controller, Get, Module } from '@nestjs/common';
import { Clock } from '../clock.js';
import { FleetKeeper } from '../record/keeper.js';
import { byName } from '../views/common.js';
import { mediumView } from '../views/guest-care.js';

@Controller('api/media')
class MediaController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
  ) {}

  @Get()
  media(): MediumView[] {
    const { fleet } = this.keeper;
    return [...fleet.all('medium')]
      .sort(byName)
      .map((medium) => mediumView(fleet, medium, this.clock.now()));
  }
}

@Module({ controllers: [MediaController] })
export class MediaModule {}
