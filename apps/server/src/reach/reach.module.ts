/** Who reaches whom: one question with its path and the smallest mend, a matrix of a group. Both are computed in the worker. */
import { MatrixBody, ReachQuery, type MatrixView, type ReachView } from '@insel/contract';
import { refuse } from '@insel/core';
import { Body, Controller, Get, Module, Post, Query } from '@nestjs/common';
import { ForReaders } from '../account/guard.js';
import { Clock } from '../clock.js';
import { Computation } from '../computation/computation.js';
import { refused } from '../http/problem.js';

@Controller('api/reach')
class ReachController {
  constructor(
    private readonly computation: Computation,
    private readonly clock: Clock,
  ) {}

  @Get()
  ask(@Query() query: ReachQuery): Promise<ReachView> {
    return this.computation.ask('reach', { query: { ...query }, now: this.clock.now() });
  }

  @Post('matrix')
  @ForReaders()
  async matrix(@Body() { ids }: MatrixBody): Promise<MatrixView> {
    const found = await this.computation.ask('matrix', { ids });
    if ('sentence' in found)
      throw refused(refuse({ code: 'too-many-kinds', sentence: found.sentence }));
    return found;
  }
}

@Module({ controllers: [ReachController] })
export class ReachModule {}
