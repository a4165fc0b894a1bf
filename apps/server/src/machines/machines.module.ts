/** A host as a machine: its parts, the facts taken from it, its build sheet, its verification. */
import {
  HostBuiltBody,
  ReadFactsBody,
  SetHardwareBody,
  TakeFactsBody,
  VerifyHostBody,
  type FactsView,
  type Written,
} from '@insel/contract';
import {
  buildSheet,
  chosenFacts,
  compareFacts,
  FACTS_SCRIPT,
  readFacts,
  refuse,
  suitability,
  type BuildSheet,
  type SuitabilityPoint,
} from '@insel/core';
import {
  Body,
  Controller,
  Get,
  Header,
  Module,
  Param,
  Post,
  Put,
  Query,
  Req,
} from '@nestjs/common';
import type { SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { notFound, refused } from '../http/problem.js';
import { extrasOf, fieldsIn, Writes } from '../http/writes.js';
import { FleetKeeper } from '../record/keeper.js';
import { sheetPage } from '../views/sheet-page.js';

@Controller('api')
class MachinesController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly writes: Writes,
    private readonly clock: Clock,
  ) {}

  @Get('facts/script')
  @Header('Content-Type', 'text/x-shellscript; charset=utf-8')
  @Header('Content-Disposition', 'attachment; filename="facts.sh"')
  script(): string {
    return FACTS_SCRIPT;
  }

  /** What is understood of a paste, next to what is recorded; alters nothing. */
  @Post('facts/read')
  read(@Body() body: ReadFactsBody): FactsView {
    const read = this.understood(body.text);
    if (body.hostId) this.needHost(body.hostId);
    return { ...read, rows: compareFacts(this.keeper.fleet, read.facts, body.hostId ?? null) };
  }

  @Post('hosts/:id/facts')
  take(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: TakeFactsBody,
  ): Promise<Written> {
    this.needHost(id);
    const { facts, from } = this.understood(body.text);
    return this.writes.make(request, {
      type: 'host.take-facts',
      hostId: id,
      from,
      ...chosenFacts(this.keeper.fleet, facts, body.chosen, id),
      ...extrasOf(body),
    });
  }

  private understood(text: string) {
    const read = readFacts(text);
    if (!read.ok)
      throw refused(
        refuse({
          code: 'facts-not-read',
          field: 'text',
          sentence: read.sentence,
          remedy: 'Nothing was altered.',
        }),
      );
    return { facts: read.facts, from: read.from };
  }

  private needHost(id: string): void {
    if (!this.keeper.fleet.get('host', id)) throw notFound('host');
  }

  @Put('hosts/:id/hardware')
  hardware(
    @Req() request: SignedIn,
    @Param('id') id: string,
    @Body() body: SetHardwareBody,
  ): Promise<Written> {
    return this.writes.edit(request, 'host', id, {
      type: 'host.set-hardware',
      hostId: id,
      hardware: body.hardware,
      ...extrasOf(body),
    });
  }

  @Get('hosts/:id/suitability')
  suitability(
    @Param('id') id: string,
    @Query('platformId') platformId?: string,
  ): SuitabilityPoint[] {
    this.needHost(id);
    if (platformId && !this.keeper.fleet.get('platform', platformId)) throw notFound('platform');
    return suitability(this.keeper.fleet, id, platformId);
  }

  @Get('hosts/:id/build-sheet')
  sheet(@Param('id') id: string): BuildSheet {
    this.needHost(id);
    return buildSheet(this.keeper.fleet, id);
  }

  /** The same as one file that needs nothing else: for a phone or a stick, since the network may be what is being built. */
  @Get('hosts/:id/build-sheet.html')
  @Header('Content-Type', 'text/html; charset=utf-8')
  page(@Param('id') id: string): string {
    this.needHost(id);
    const { host, platform, sections } = buildSheet(this.keeper.fleet, id);
    return sheetPage(
      { title: `Build sheet of ${host}`, subtitle: platform, sections },
      this.clock.now(),
    );
  }

  @Post('hosts/:id/verifications')
  verify(
    @Req() request: SignedIn,
    @Param('id') hostId: string,
    @Body() body: VerifyHostBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'host.verify',
      hostId,
      ...fieldsIn(body),
      ...extrasOf(body),
    });
  }

  @Post('hosts/:id/built')
  built(
    @Req() request: SignedIn,
    @Param('id') hostId: string,
    @Body() body: HostBuiltBody,
  ): Promise<Written> {
    return this.writes.make(request, {
      type: 'host.built',
      hostId,
      ...fieldsIn(body),
      ...extrasOf(body),
    });
  }
}

@Module({ controllers: [MachinesController] })
export class MachinesModule {}
