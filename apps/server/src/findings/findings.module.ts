import { MendFindingBody, type WaterlineView, type Written } from '@insel/contract';
import { allFindingsAt, refuse, waterline, type Finding } from '@insel/core';
import { Body, Controller, Get, Module, Post, Req } from '@nestjs/common';
import type { SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { refused } from '../http/problem.js';
import { Writes } from '../http/writes.js';
import { FleetKeeper } from '../record/keeper.js';

/** A list of more findings than this is no list any more. */
const MOST = 500;

@Controller('api')
class FindingsController {
  constructor(
    private readonly keeper: FleetKeeper,
    private readonly clock: Clock,
    private readonly computation: Computation,
    private readonly writes: Writes,
  ) {}

  @Get('waterline')
  waterline(): WaterlineView {
    return {
      revision: this.keeper.fleet.revision,
      levels: waterline(this.keeper.fleet),
      findings: null,
    };
  }

  /** Makes the change that a finding offers, if it still stands. */
  @Post('findings/mend')
  mend(@Req() request: SignedIn, @Body() { id }: MendFindingBody): Promise<Written> {
    const { fleet } = this.keeper;
    const places = id.split('|').slice(1);
    const found = allFindingsAt(fleet, places, this.clock.now()).find(
      (finding) => finding.id === id,
    );
    if (found?.mend?.kind === 'change')
      return this.writes.make(request, { ...found.mend.change, reason: found.evidence });
    throw refused(
      refuse({
        code: 'no-mend',
        sentence:
          'This finding no longer stands as it did: there is nothing to mend by this button.',
        remedy: 'Look at the findings again.',
      }),
    );
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
