/** The shelf of install media: what each image is, whether it is the one that was meant, who has it in a drive. */
import { EditMediumBody, RecordMediumBody, type MediumView, type Written } from '@insel/contract';
import { Body, Controller, Delete, Get, Module, Param, Patch, Post, Req } from '@nestjs/common';
import type { SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { Writes } from '../http/writes.js';
import { FleetKeeper } from '../record/keeper.js';
import { byName } from '../views/common.js';
import { mediumView } from '../views/guest-care.js';

/** Digests are kept in lower case. */
const digestOf = ({ sha256 }: RecordMediumBody | EditMediumBody) =>
  sha256 === undefined ? {} : { sha256: sha256.toLowerCase() };

@Controller('api/media')
class MediaController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly writes: Writes,
    private readonly clock: Clock,
  ) {}

  @Get()
  media(): MediumView[] {
    const { fleet } = this.keeper;
    return [...fleet.all('medium')]
      .sort(byName)
      .map((medium) => mediumView(fleet, medium, this.clock.now()));
  }
  @Post()
  record(@Req() request: SignedIn, @Body() body: RecordMediumBody): Promise<Written> {
    return this.writes.recordOne(request, 'medium', body, digestOf(body));
  }
  @Patch(':id')
  edit(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: EditMediumBody,
  ): Promise<Written> {
    return this.writes.editOne(request, 'medium', id, body, digestOf(body));
  }
  @Delete(':id')
  remove(@Req() request: SignedIn, @Param('id') id: string): Promise<Written> {
    return this.writes.removeOne(request, 'medium', id);
  }
}

@Module({ controllers: [MediaController] })
export class MediaModule {}
