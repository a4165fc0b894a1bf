/** Who reaches whom: one question with its path and the smallest mend, a matrix of a group. Both are computed in the worker. */
import {
  MatrixBody,
  ReachQuery,
  type MatrixView,
  type ReachView,
  type Written,
} from '@insel/contract';
import { refuse } from '@insel/core';
import { Body, Controller, Get, Module, Post, Query, Req } from '@nestjs/common';
import type { SignedIn } from '../account/guard.js';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { refused } from '../http/problem.js';
import { Writes } from '../http/writes.js';

@Controller('api/reach')
class ReachController {
  constructor(
    private readonly computation: Computation,
    private readonly writes: Writes,
    private readonly clock: Clock,
  ) {}

  @Get()
  ask(@Query() query: ReachQuery): Promise<ReachView> {
    return this.computation.ask('reach', { query: { ...query }, now: this.clock.now() });
  }

  /** Makes the change that the answer to the same question offers. */
  @Post('mend')
  async mend(@Req() request: SignedIn, @Body() query: ReachQuery): Promise<Written> {
    const answer = await this.ask(query);
    if ('verdict' in answer && answer.mend)
      return this.writes.make(request, { ...answer.mend.change, reason: answer.failure?.sentence });
    throw refused(
      refuse({
        code: 'no-mend',
        sentence:
          'The answer has altered meanwhile: there is no single change that would mend it now.',
        remedy: 'Ask again.',
      }),
    );
  }

  @Post('matrix')
  async matrix(@Body() { ids }: MatrixBody): Promise<MatrixView> {
    const found = await this.computation.ask('matrix', { ids });
    if ('sentence' in found)
      throw refused(refuse({ code: 'too-many-kinds', sentence: found.sentence }));
    return found;
  }
}

@Module({ controllers: [ReachController] })
export class ReachModule {}
