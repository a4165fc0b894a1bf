/** A host as a machine: its parts, the facts taken from it, its build sheet, its verification. */
import { ReadFactsBody, type FactsView } from '@insel/contract';
import {
  buildSheet,
  compareFacts,
  FACTS_SCRIPT,
  readFacts,
  refuse,
  suitability,
  type BuildSheet,
  type SuitabilityPoint,
} from '@insel/core';
import { Body, Controller, Get, Header, Module, Param, Post, Query } from '@nestjs/common';
import { ForReaders } from '../account/guard.js';
import { Clock } from '../clock.js';
import { notFound, refused } from '../http/problem.js';
import { FleetKeeper } from '../record/keeper.js';
import { asRead } from '../views/common.js';
import { sheetPage } from '../views/sheet-page.js';

@Controller('api')
class HardwareController {
  constructor(
    private readonly keeper: FleetKeeper,
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
  @ForReaders()
  read(@Body() body: ReadFactsBody): FactsView {
    const read = this.understood(body.text);
    const { fleet } = this.keeper;
    const host = fleet.get('host', body.hostId ?? null);
    if (body.hostId && !host) throw notFound('host');
    return {
      ...read,
      host: host ? asRead(host) : null,
      rows: compareFacts(fleet, read.facts, host?.id ?? null),
    };
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
}

@Module({ controllers: [HardwareController] })
export class HardwareModule {}
